import { describe, expect, it } from 'vitest'
import { cylinderLimit, grossLimitMg, isNearLimit, type LimitedCylinder, mayTake, supplyLimitMg } from '.'
import { aCylinderRecord } from '../../testing/a-cylinder-record'

const kg = (value: number) => Math.round(value * 1e6)
const cylinder = (over: Partial<LimitedCylinder> = {}) =>
  aCylinderRecord({ tareMg: kg(12), waterCapacityMg: kg(21.6), refrigerant: 'R-410A', ...over })

describe('cylinderLimit', () => {
  it('takes the lightest liquid wherever contents are mixed, doubtful, foreign or unknown', () => {
    // R-410A: 17.28 kg net by 0.80 x WC. The lightest, R-290: 8.52 kg.
    expect(grossLimitMg(cylinder(), 'R-410A', 0)).toBe(kg(29.28))
    for (const doubtful of [
      cylinder({ condition: 'doubtful' }),
      cylinder({ condition: 'mixed' }),
      cylinder({ refrigerant: 'R-22' }),
    ])
      expect(grossLimitMg(doubtful, 'R-410A', 0)! / 1e6).toBeCloseTo(12 + 8.52, 2)
    expect(grossLimitMg(cylinder({ refrigerant: null }), null, 0)! / 1e6).toBeCloseTo(20.52, 2)
  })
  it('gives fitness the same answer', () => {
    const doubtful = aCylinderRecord({
      tareMg: kg(12),
      waterCapacityMg: kg(21.6),
      refrigerant: 'R-410A',
      condition: 'doubtful',
    })
    const request = {
      refrigerant: 'R-410A',
      massMg: null,
      today: '2026-11-24',
      customerId: null,
      marginPct: 0,
    }
    expect(mayTake(doubtful, request).grossLimitMg).toBe(grossLimitMg(doubtful, 'R-410A', 0))
  })
  it('takes a stamped ratio for the gas it is stamped for only', () => {
    const carbon = (over: Partial<LimitedCylinder>) =>
      cylinderLimit(cylinder({ refrigerant: null, fillingRatio: 0.68, ...over }), 'R-744', 0)
    expect(carbon({ ratioGas: 'R-744' })).toMatchObject({ kind: 'known', limit: { netMg: kg(0.68 * 21.6) } })
    expect(carbon({ ratioGas: 'R-410A' })).toEqual({ kind: 'unknown', why: 'ratio-of-another-gas' })
    expect(carbon({ fillingRatio: null })).toEqual({ kind: 'unknown', why: 'no-stamped-ratio' })
    // A ratio of another gas does not limit this one.
    expect(grossLimitMg(cylinder({ fillingRatio: 0.5, ratioGas: 'R-744' }), 'R-410A', 0)).toBe(kg(29.28))
    expect(grossLimitMg(cylinder({ fillingRatio: 0.5, ratioGas: 'R-410A' }), 'R-410A', 0)).toBe(kg(12 + 10.8))
  })
  it('knows none for a one-way cylinder or without a stamp', () => {
    expect(cylinderLimit(cylinder({ kind: 'one-way' }), 'R-410A', 0)).toEqual({
      kind: 'unknown',
      why: 'one-way',
    })
    expect(cylinderLimit(cylinder({ waterCapacityMg: null }), 'R-410A', 0)).toEqual({
      kind: 'unknown',
      why: 'capacity-unknown',
    })
  })
})

describe('a station’s tank', () => {
  // WC 10 kg of R-134a: limit 8 kg net, working fill 6.
  const tank = cylinder({ kind: 'station', waterCapacityMg: kg(10), refrigerant: 'R-134a' })
  it('is filled from supply to its working fill, and takes what comes out of a vehicle on top', () => {
    expect(supplyLimitMg(tank, 'R-134a', 0)).toBe(kg(18))
    expect(grossLimitMg(tank, 'R-134a', 0)).toBe(kg(20))
    const filled = aCylinderRecord({ ...tank, balanceMg: kg(6), servicePressurePa: 29e5 })
    const request = {
      refrigerant: 'R-134a',
      massMg: kg(0.6),
      today: '2026-11-24',
      customerId: null,
      marginPct: 0,
    }
    expect(mayTake(filled, request)).toMatchObject({ refusals: [], roomMg: kg(2) })
  })
  it('any other goes up to its limit', () => {
    expect(supplyLimitMg({ ...tank, kind: 'recovery' }, 'R-134a', 0)).toBe(kg(20))
    expect(supplyLimitMg({ ...tank, workingFillPct: 50 }, 'R-134a', 0)).toBe(kg(17))
  })
})

it('is near its limit from nine tenths on, whoever asks', () => {
  expect([0.899, 0.9, 1.2, 0, undefined].map(isNearLimit)).toEqual([false, true, true, false, false])
})
