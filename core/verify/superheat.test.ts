import { describe, expect, it } from 'vitest'
import { judgeReadings, judgeVent, LEAST_TARGET_K, orificeTargetSuperheatK, superheatAndSubcooling } from '.'
import { saturationPressurePa, tableOf } from '../refrigerants'

const table = tableOf('R-407C')
const at = (tempC: number, side: 'bubble' | 'dew') => saturationPressurePa(table, tempC + 273.15, side)

describe('superheatAndSubcooling', () => {
  it('uses dew for vapour and bubble for liquid', () => {
    const result = superheatAndSubcooling(
      { lowPa: at(5, 'dew'), suctionK: 286.15, highPa: at(45, 'bubble'), liquidK: 312.15 },
      table,
    )
    expect(result.superheatK).toBeCloseTo(8, 6)
    expect(result.subcoolingK).toBeCloseTo(6, 6)
  })
  it('computes what the readings allow', () => {
    expect(superheatAndSubcooling({ lowPa: at(5, 'dew') }, table)).toEqual({})
  })
})

describe('judgeReadings', () => {
  it('fits subcooling to valves', () => {
    expect(judgeReadings({ superheatK: 8, subcoolingK: 6 }, 'valve', null).code).toBe('readings-fit')
    expect(judgeReadings({ superheatK: 8, subcoolingK: 1 }, 'valve', null).code).toBe('subcooling-low')
    expect(judgeReadings({ superheatK: 8, subcoolingK: 14 }, 'valve', 8).code).toBe('subcooling-high')
  })
  it.each([
    [{ superheatK: -6 }, 'fixed', 'superheat-negative'],
    [{ superheatK: 8, subcoolingK: -4 }, 'valve', 'subcooling-negative'],
    [{ superheatK: 0.5 }, 'fixed', 'superheat-near-zero'],
    [{ superheatK: 0.5 }, 'valve', 'superheat-low'],
    [{ superheatK: 24 }, 'fixed', 'superheat-high'],
    [{ superheatK: 18, subcoolingK: 1 }, 'valve', 'superheat-high'],
    [{ superheatK: 8, subcoolingK: 18 }, 'valve', 'subcooling-far-off'],
    [{ superheatK: 8, subcoolingK: 6 }, 'unknown', 'metering-unknown'],
    [{ superheatK: 8 }, 'valve', 'readings-plausible'],
    [{ superheatK: 9 }, 'fixed', 'readings-plausible'],
    [{}, 'fixed', 'readings-missing'],
  ] as const)('%j with metering %s: %s', (result, metering, code) =>
    expect(judgeReadings(result, metering, null).code).toBe(code),
  )
  it('counts the tolerance once', () => {
    const at = (subcoolingK: number, plateK: number | null) =>
      judgeReadings({ subcoolingK }, 'valve', plateK).code
    // Nothing printed: 4.5 to 7 K, 1.5 K at each edge.
    expect([at(2.9, null), at(3.1, null), at(8.4, null), at(8.6, null)]).toEqual([
      'subcooling-low',
      'readings-fit',
      'readings-fit',
      'subcooling-high',
    ])
    expect([at(6.4, 8), at(6.6, 8), at(9.4, 8), at(9.6, 8)]).toEqual([
      'subcooling-low',
      'readings-fit',
      'readings-fit',
      'subcooling-high',
    ])
  })
  it('holds an orifice against what the weather wants', () => {
    expect(judgeReadings({ superheatK: 7 }, 'fixed', null, { targetSuperheatK: 7.2 }).code).toBe(
      'readings-fit',
    )
    // 3 K either way, as in the pattern of all readings, and 1.5 K for gauge and clamp.
    expect(judgeReadings({ superheatK: 11.5 }, 'fixed', null, { targetSuperheatK: 7.2 }).code).toBe(
      'readings-fit',
    )
    expect(judgeReadings({ superheatK: 12 }, 'fixed', null, { targetSuperheatK: 7.2 }).code).toBe(
      'superheat-off-target',
    )
  })
})

describe('orificeTargetSuperheatK', () => {
  it('(3 WB - 80 - DB)/2 in F', () => {
    // 67 F wet bulb inside, 95 F outside: 13 F.
    expect(orificeTargetSuperheatK(292.594, 308.15) * 1.8).toBeCloseTo(13, 2)
    expect(orificeTargetSuperheatK(283.15, 313.15)).toBeLessThan(LEAST_TARGET_K)
  })
})

describe('judgeVent', () => {
  it.each([
    [280.15, 303.15, 'vent-cold'],
    [293.15, 303.15, 'vent-middling'],
    [299.15, 303.15, 'vent-warm'],
    [273.15, 303.15, 'vent-near-ice'],
    // 12 C: 4 K is half of what a coil can take off.
    [279.15, 285.15, 'vent-middling'],
    [283.15, 285.15, 'vent-warm'],
  ])('%s K with %s K going in: %s', (vent, air, code) => expect(judgeVent(vent, air).verdict.code).toBe(code))
})
