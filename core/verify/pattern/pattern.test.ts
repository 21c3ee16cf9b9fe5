import { describe, expect, it } from 'vitest'
import {
  type Figure,
  figuresOf,
  judgePattern,
  lowGaugeIsUsual,
  type RunningReadings,
  type ServiceFacts,
  settlesInS,
} from '.'
import { relativeHumidity } from '../humidity'
import { saturationPressurePa, tableOf } from '../../refrigerants'

const C = 273.15
const BY = { lowPa: 20_000, highPa: 20_000, clampK: 1, airK: 1 }
const table = tableOf('R-410A')
const bubblePa = (tempC: number) => saturationPressurePa(table, tempC + C, 'bubble')
const dewPa = (tempC: number) => saturationPressurePa(table, tempC + C, 'dew')

/** Air on 25, ambient 32: TD, condensing over ambient, superheat, subcooling, air on less off. */
function readings(
  [td, over, superheat, subcooling, drop]: readonly number[],
  more: RunningReadings = {},
): RunningReadings {
  return {
    lowPa: dewPa(25 - td!),
    highPa: bubblePa(32 + over!),
    suctionK: 25 - td! + superheat! + C,
    liquidK: 32 + over! - subcooling! + C,
    ambientK: 32 + C,
    airOnK: 25 + C,
    ...(drop !== undefined && { airOffK: 25 - drop + C }),
    ...more,
  }
}
const ASKED = { 'part-load': false, 'head-held': false, heating: false, humid: false }
const judge = (
  read: RunningReadings,
  metering: 'valve' | 'fixed' | 'unknown' = 'valve',
  states: ServiceFacts['states'] = ASKED,
) =>
  judgePattern(figuresOf(read, table, 101_325, BY), {
    service: 'comfort',
    metering,
    plateSubcoolingK: null,
    states,
  })!
const drier = (drop: number): RunningReadings => ({ drierInK: 310, drierOutK: 310 - drop })
const standing = (aboveK: number): RunningReadings => ({ standing: { aboveK, limitK: 1.2 } })
const air = (rise: number): RunningReadings => ({ condenserOffK: 32 + rise + C })

describe('figuresOf', () => {
  it('takes dew below and bubble above, and each air where it belongs', () => {
    const found = figuresOf(readings([16, 13, 6, 7, 10.3], air(5.7)), table, 101_325, BY)
    const rounded = Object.fromEntries(
      Object.entries(found).map(([name, { value }]) => [name, +value.toFixed(2)]),
    )
    expect(rounded).toEqual({
      td: 16,
      'over-ambient': 13,
      superheat: 6,
      subcooling: 7,
      'air-drop': 10.3,
      'low-gauge': Math.round(100 * (dewPa(9) - 101_325)) / 100,
      // 45 C less 7 K is 38 C: 6 K above 32.
      approach: 6,
      'air-rise-share': 0.44,
      // Kelvin: 45 and 25 C.
      condensing: 318.15,
      'air-on': 298.15,
    })
  })
  it('leaves out what lies beyond the table, and keeps the rest', () => {
    const found = figuresOf({ ...readings([16, 13, 6, 7]), highPa: 6e6 }, table, 101_325, BY)
    expect(Object.keys(found).sort()).toEqual(['air-on', 'approach', 'low-gauge', 'superheat', 'td'])
  })
})

describe('judgePattern', () => {
  it('needs three figures, of both sides', () => {
    const few = (names: Figure[]) =>
      judgePattern(Object.fromEntries(names.map((name) => [name, { value: 6, sigma: 0.5 }])), {
        service: 'comfort',
        metering: 'valve',
        plateSubcoolingK: null,
      })
    expect(few(['superheat', 'subcooling'])).toBeUndefined()
    expect(few(['superheat', 'td', 'air-drop'])).toBeUndefined()
    expect(few(['superheat', 'subcooling', 'over-ambient'])).toBeDefined()
  })

  it.each<[string, number[], RunningReadings, string]>([
    ['right', [17.5, 12, 6, 6, 10], {}, 'pattern-all-right'],
    ['charge x 0.6', [25, 10, 24, 0, 7.5], {}, 'pattern-charge-low'],
    ['charge x 0.75', [18, 11, 16, 0, 9.1], {}, 'pattern-charge-low'],
    ['a restriction: over the drier', [24, 12, 24, 10, 8], drier(5), 'pattern-restriction'],
    ['starved: no drop', [28, 11, 28, 10, 7.1], drier(0), 'pattern-valve-starved'],
    ['stuck open', [11, 14, 0, 0, 7.4], {}, 'pattern-valve-flooded'],
    ['half the evaporator’s air', [23, 11, 6, 5, 17], {}, 'pattern-evaporator-air'],
    ['a compressor at half', [10, 8, 6, 4.5, 6.3], {}, 'pattern-compressor'],
    ['air: stands above', [16, 28, 6, 21, 10.2], standing(9), 'pattern-air'],
    ['far too much', [16, 26, 6, 25, 10.5], { ...standing(0), ...air(5.2) }, 'pattern-charge-high'],
    [
      'half the condenser’s air',
      [15.3, 24, 6, 13, 9.9],
      { ...standing(0), ...air(11.5) },
      'pattern-condenser',
    ],
  ])('%s', (_, figures, more, code) => {
    expect(judge(readings(figures, more)).verdict.code).toBe(code)
  })

  it.each<[string, number[], string, string[]]>([
    [
      'air, overcharge and a dirty condenser look alike',
      [16, 22, 6, 15, 10.2],
      'check-condenser-coil',
      ['air', 'charge-high', 'condenser'],
    ],
    [
      'a starved valve and a restriction differ by the drier only',
      [24, 12, 24, 10, 8],
      'check-drier-temperatures',
      ['restriction', 'valve-starved'],
    ],
  ])('%s: says so, and what would tell', (_, figures, check, causes) => {
    const { verdict, ranked } = judge(readings(figures))
    expect(verdict.code).toBe('pattern-open')
    expect(verdict.outcome).toBe('open')
    expect(verdict.reasons.map(({ code }) => code)).toContain(check)
    expect(
      ranked
        .slice(0, causes.length)
        .map(({ cause }) => cause)
        .sort(),
    ).toEqual(causes)
  })

  it('an orifice shows too much charge by superheat that falls', () => {
    const at = { ...standing(0), ...air(5.5) }
    expect(judge(readings([15, 21, 0, 20, 10], at), 'fixed').verdict.code).toBe('pattern-charge-high')
    expect(judge(readings([22, 10, 22, 0, 8]), 'fixed').verdict.code).toBe('pattern-charge-low')
  })

  it('of an unknown device both kinds are allowed for', () => {
    expect(judge(readings([25, 10, 24, 0, 7.5]), 'unknown').verdict.code).toBe('pattern-charge-low')
    // Superheat near zero with full subcooling and a high head: an orifice with too much, or a flooding valve.
    expect(judge(readings([15, 17, 0, 14, 10]), 'unknown').verdict.code).toBe('pattern-open')
  })

  it.each<[string, RunningReadings, string]>([
    ['superheat below zero', readings([16, 13, -7, 7]), 'superheat-negative'],
    ['bubbles where liquid should be', readings([16, 13, 6, -6]), 'subcooling-negative'],
    ['liquid colder than the air', readings([16, 13, 6, 19]), 'liquid-below-ambient'],
    ['air that leaves warmer', readings([16, 13, 6, 7, -5]), 'air-warmed'],
  ])('%s: instruments and gas first', (_, read, code) => {
    const { verdict, ranked } = judge(read)
    expect([verdict.code, verdict.outcome]).toEqual([code, 'caution'])
    expect(ranked).toEqual([])
  })

  it('a coarser instrument makes it less sure', () => {
    const read = readings([18, 11, 12, 1, 9.1])
    const by = (clampK: number) =>
      judgePattern(figuresOf(read, table, 101_325, { ...BY, clampK }), {
        service: 'comfort',
        metering: 'valve',
        plateSubcoolingK: null,
      })!.ranked[0]!
    expect(by(1).cause).toBe('charge-low')
    expect(by(6).share).toBeLessThan(by(1).share)
  })

  it('a suction line warmer than the air onto the coil was warmed on its way', () => {
    const { verdict } = judge(readings([17, 12, 30, 6, 10]))
    // Without superheat a starved valve looks just like nothing wrong.
    expect([verdict.code, verdict.outcome]).toEqual(['pattern-in-range', 'open'])
    expect(verdict.reasons.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['suction-warmed', 'likely-valve-starved']),
    )
    // Still shown as it was read.
    expect(verdict.numbers.find(({ name }) => name === 'superheat')?.value).toBeCloseTo(30, 6)
  })

  it('nothing is called all right while a figure lies clearly outside its range', () => {
    let seed = 7
    const even = () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647
    const between = (least: number, most: number) => least + (most - least) * even()
    for (let i = 0; i < 400; i++) {
      const figures = [between(12, 25), between(5, 20), between(1, 12), between(1, 12), between(5, 15)]
      const { verdict, ranges } = judge(readings(figures))
      if (verdict.code !== 'pattern-all-right' && verdict.code !== 'pattern-in-range') continue
      for (const { name, value, sigma } of verdict.numbers) {
        const range = ranges[name as Figure]
        if (!range) continue
        const outside = Math.max(range.least - value, value - range.most)
        expect(outside, `${name} ${value}`).toBeLessThan(2 * Math.hypot(sigma!, 0.8))
      }
    }
  })

  it('what nothing explains is said to be so, and nothing is likely then', () => {
    // Evaporating at the air's temperature and the air cooled by 30 K.
    const { verdict } = judge(readings([1, 30, 0, 0, 30]))
    expect(verdict.code).toBe('pattern-none')
    expect(verdict.reasons.filter(({ code }) => code.startsWith('likely'))).toEqual([])
  })
  it('a weak compressor and a healthy one at part load look alike: it asks at which load', () => {
    const weak = readings([10, 8, 6, 4.5, 6.3])
    const unasked = judge(weak, 'valve', {}).verdict
    expect(unasked.code).toBe('pattern-open')
    expect(unasked.reasons.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['likely-compressor', 'likely-part-load', 'check-part-load']),
    )
    expect(judge(weak, 'valve', { 'part-load': true }).verdict).toMatchObject({
      outcome: 'open',
      code: 'pattern-part-load',
    })
    expect(judge(weak).verdict.code).toBe('pattern-compressor')
    // Nobody is asked where it does not matter.
    const dirty = readings([15.3, 24, 6, 13, 9.9], { ...standing(0), ...air(11.5) })
    expect(judge(dirty, 'valve', {}).verdict.code).toBe('pattern-condenser')
  })
  it('humidity from two bulbs: 25 and 18 C are half', () => {
    expect(relativeHumidity(298.15, 291.15)).toBeCloseTo(0.5, 1)
    expect(relativeHumidity(298.15, 298.15)).toBeCloseTo(1, 6)
  })
})

describe('a vehicle by two gauges and the vent', () => {
  const r134a = tableOf('R-134a')
  const vehicle = (lowBarG: number, overK: number, ventDropK: number) =>
    judgePattern(
      figuresOf(
        {
          lowPa: lowBarG * 1e5 + 101_325,
          highPa: saturationPressurePa(r134a, 28 + overK + C, 'bubble'),
          ambientK: 28 + C,
          ventK: 28 - ventDropK + C,
        },
        r134a,
        101_325,
        BY,
      ),
      { service: 'vehicle', metering: 'unknown', plateSubcoolingK: null, lowGauge: true },
    )!
  it.each([
    [2, 21, 20, 'pattern-all-right'],
    [0.7, 11, 6, 'pattern-charge-low'],
    [4.5, 10, 5, 'pattern-compressor'],
    [-0.5, 12, 2, 'pattern-restriction'],
  ])('low %s bar, %s K over ambient, vent %s K down: %s', (low, over, vent, code) => {
    expect(vehicle(low, over, vent).verdict.code).toBe(code)
  })
  it('both up and warm: over, air or the condenser', () => {
    const { verdict, ranked } = vehicle(3.6, 36, 8)
    expect(verdict.code).toBe('pattern-open')
    expect(
      ranked
        .slice(0, 3)
        .map(({ cause }) => cause)
        .sort(),
    ).toEqual(['air', 'charge-high', 'condenser'])
  })
})

it('the usual low side of a vehicle is that of two gases, between 20 and 35 C', () => {
  expect(lowGaugeIsUsual('R-134a', 20 + C)).toBe(true)
  expect(lowGaugeIsUsual('R-1234yf', 35 + C)).toBe(true)
  expect(lowGaugeIsUsual('R-410A', 25 + C)).toBe(false)
  expect(lowGaugeIsUsual('R-134a', 19 + C)).toBe(false)
  expect(lowGaugeIsUsual('R-134a', undefined)).toBe(false)
})

it('says how long it still has to run', () => {
  expect(settlesInS('comfort', 240)).toBe(360)
  expect(settlesInS('vehicle', 301)).toBe(0)
})
