import { describe, expect, it } from 'vitest'
import { fillLimit } from '#core/cylinders'
import { tableOf } from '#core/refrigerants'
import { expectedCharge, type SystemPlate } from '#core/systems'
import { METRIC_UNITS } from '#core/units'
import { expectedChargeLink, fillLink } from './links'
import { workOut } from './work-out.server'
import { toolNamed } from './tools'

const follow = (link: string) => {
  const url = new URL(link, 'http://keg.test')
  const tool = toolNamed(url.pathname.split('/').at(-1))!
  const { outcome, errors } = workOut(tool, url.searchParams, {
    reading: { units: METRIC_UNITS },
    today: '2026-11-25',
    fillMarginPct: 0,
  })
  expect(errors).toEqual({})
  return Object.fromEntries(outcome!.figures.map((f) => [f.name, f.value]))
}

describe('fillLink', () => {
  const cylinder = {
    refrigerant: 'R-32',
    waterCapacityMg: 21_612_345,
    tareMg: 11_300_000,
    balanceMg: 7_000_000,
    fillingRatio: null,
  }
  it('leads to the limit that the rack shows', () => {
    const { gross_limit } = follow(fillLink(cylinder)!)
    expect(gross_limit! * 1e6).toBeCloseTo(fillLimit({ ...cylinder }).grossMg, -1)
  })
  it('carries a stamped ratio, and leads nowhere without a gas or a capacity', () => {
    expect(fillLink({ ...cylinder, fillingRatio: 0.67 })).toContain('ratio=0.67')
    expect(fillLink({ ...cylinder, refrigerant: null })).toBeUndefined()
    expect(fillLink({ ...cylinder, waterCapacityMg: null })).toBeUndefined()
  })
})

describe('expectedChargeLink', () => {
  const plate: SystemPlate = {
    trade: 'stationary',
    refrigerant: 'R-449A',
    plateMg: 24_000_000,
    panelTotalMg: null,
    lines: [
      { kind: 'liquid', od: '5/8', lengthM: 32, coveredM: 10, guessed: false },
      { kind: 'suction', od: '1-3/8', lengthM: 30, coveredM: 10, guessed: true },
    ],
    accessories: [{ name: 'receiver', massMg: 1_500_000 }],
  }
  it('leads to what the system’s page says should be in it', () => {
    const { expected } = follow(expectedChargeLink(plate)!)
    expect(expected! * 1e6).toBeCloseTo(expectedCharge(plate, tableOf('R-449A'))!.massMg, -1)
    expect(follow(expectedChargeLink({ ...plate, panelTotalMg: 25_000_000 })!).expected).toBe(25)
  })
  it('leads nowhere without a plate, or with more lines than the tool takes', () => {
    expect(expectedChargeLink({ ...plate, plateMg: null })).toBeUndefined()
    expect(expectedChargeLink({ ...plate, refrigerant: null })).toBeUndefined()
    expect(
      expectedChargeLink({ ...plate, lines: Array.from({ length: 5 }, () => plate.lines[0]!) }),
    ).toBeUndefined()
  })
})
