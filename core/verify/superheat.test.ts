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
  it('questions what cannot be', () => {
    expect(judgeReadings({ superheatK: -6 }, 'fixed', null).code).toBe('readings-impossible')
    expect(judgeReadings({ superheatK: 0.5 }, 'fixed', null).code).toBe('superheat-low')
    expect(judgeReadings({}, 'fixed', null).outcome).toBe('open')
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
  ])('%s K with %s K going in: %s', (vent, air, code) => expect(judgeVent(vent, air).verdict.code).toBe(code))
})
