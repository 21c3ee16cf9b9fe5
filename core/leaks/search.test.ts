import { describe, expect, it } from 'vitest'
import { canFind, leakFlowOf, lengthToSeeS, placesOf, recheckDays, testPressure } from '.'

const ATMOSPHERE = 101_325
const bar = (gauge: number) => ATMOSPHERE + gauge * 1e5

describe('testPressure', () => {
  it('is the plate’s, capped by the weakest part', () => {
    expect(testPressure(bar(28), undefined, ATMOSPHERE)).toEqual({ pressurePa: bar(28), by: 'plate' })
    expect(testPressure(bar(28), bar(15), ATMOSPHERE)).toEqual({ pressurePa: bar(15), by: 'weakest' })
    expect(testPressure(bar(28), bar(40), ATMOSPHERE).by).toBe('plate')
  })
  it('without a plate it stays at 10 bar', () => {
    expect(testPressure(null, undefined, ATMOSPHERE)).toEqual({ pressurePa: bar(10), by: 'no-plate' })
  })
})

describe('how long', () => {
  it('10 g of R-134a a year are 7.6e-6 Pa m3/s', () => {
    // 0.01 / 3.1536e7 x 8.314 x 293.15 / 0.10203.
    expect(leakFlowOf(0.01, 102.03)).toBeCloseTo(7.57e-6, 8)
  })
  it('seen beyond two deviations: 10 L, 6 kPa, 1 Pa L/s take 33 h', () => {
    expect(lengthToSeeS(1e-3, 0.01, 6_000) / 3600).toBeCloseTo(33.3, 1)
  })
})

describe('slow leaks', () => {
  it('of 20 g a year only dye and a detector find', () => {
    expect(canFind(0.02)).toEqual(['dye', 'detector'])
    expect(canFind(0.001)).toEqual([])
    expect(canFind(10)).toHaveLength(5)
  })
  it('look again once a tenth is gone: 2 kg, 0.5 kg a year, 146 days', () => {
    expect(recheckDays(0.5, 2)).toBe(146)
    expect(recheckDays(100, 2)).toBe(7)
    expect(recheckDays(0, 2)).toBe(365)
  })
  it('cores come first, and vents only in vehicles', () => {
    expect(placesOf('vehicle')[0]).toBe('cores-and-caps')
    expect(placesOf('stationary')).not.toContain('vents')
  })
})
