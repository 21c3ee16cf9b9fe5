import { describe, expect, it } from 'vitest'
import { fillLimit } from '#core/cylinders'
import { tableOf } from '#core/refrigerants'
import { expectedCharge, type SystemPlate } from '#core/systems'
import { METRIC_UNITS } from '#core/units'
import { aCourse } from '../../testing/a-course'
import { STAGES } from '#core/tape'
import { expectedChargeLink, fillLink, stageLinks } from './links'
import { workOut } from './work-out'
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

describe('the tools of a stage', () => {
  const plate: SystemPlate = {
    trade: 'stationary',
    refrigerant: 'R-410A',
    plateMg: 3_000_000,
    panelTotalMg: null,
    lines: [],
    accessories: [],
  }
  const facts = (state = aCourse().about().state()) => ({
    state,
    plate,
    metering: 'valve',
    reference: { books: null, plate: { massMg: 3_000_000, sigmaMg: 30_000 } },
  })
  it('every stage leads to one, with inputs that the tool takes', () => {
    for (const stage of STAGES.filter((each) => each !== 'repair')) {
      const links = stageLinks(stage, facts())
      expect([stage, links.length > 0]).toEqual([stage, true])
      for (const { to } of links) {
        const url = new URL(to, 'http://keg.test')
        const tool = toolNamed(url.pathname.split('/').at(-1))!
        // Nothing known yet: an empty form, or one with its gas only.
        if (url.search === '' || stage === 'verify') continue
        const { errors } = workOut(tool, url.searchParams, {
          reading: { units: METRIC_UNITS },
          today: '2026-11-25',
          fillMarginPct: 0,
        })
        expect([to, errors]).toEqual([to, {}])
      }
    }
  })
  it('check readings give the superheat that the job shows', () => {
    // 8 bar g and 10 C on R-410A: dew at 9.01325 bar is 4.6 C.
    const state = aCourse().about().charge('B', 0.3).low(8).wait(2).suction(10).state()
    const [superheat] = stageLinks('verify', facts(state))
    const figures = follow(superheat!.to)
    expect(Object.values(figures).some((value) => value > 4 && value < 7)).toBe(true)
  })
  it('time left goes on with the weights that were noted', () => {
    const state = aCourse().about().begin('recover', 'A', 1).state()
    expect(stageLinks('recover', facts(state)).map(({ words }) => words)).not.toContain('Time left')
    const course = aCourse().about().begin('recover', 'A', 1)
    const id = course.state().transfers[0]!.transferId
    course.wait(15).write('weight-noted', { runId: id, weightMg: 22_000_000 })
    const [left] = stageLinks('recover', facts(course.state()))
    expect(left!.words).toBe('Time left')
    // 1 kg a quarter of an hour, 1 of 3 kg left.
    expect(left!.to).toContain('expected_kg=3')
  })
})
