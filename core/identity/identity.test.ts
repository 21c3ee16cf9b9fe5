import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { REFRIGERANTS, saturationPressurePa, tableOf } from '../refrigerants'
import { airShare, identify } from '.'

const K = (celsius: number) => celsius + 273.15
const bubble = (code: string, celsius: number) => saturationPressurePa(tableOf(code), K(celsius), 'bubble')
const sharp = { gaugePa: 7_000, clampK: 1 }
const fitting = (code: string, celsius: number, limits = sharp) =>
  identify({ pressurePa: bubble(code, celsius), tempK: K(celsius), ...limits })
    .filter((c) => c.fit === 'fits')
    .map((c) => c.code)

describe('identify', () => {
  it('finds the refrigerant that is there, first of all, and shares add to one', () => {
    fc.assert(
      fc.property(fc.constantFrom(...REFRIGERANTS), fc.integer({ min: -20, max: 24 }), (code, celsius) => {
        const found = identify({ pressurePa: bubble(code, celsius), tempK: K(celsius), ...sharp })
        const fits = found.filter((c) => c.fit === 'fits')
        expect(fits.map((c) => c.code)).toContain(code)
        expect(fits.reduce((sum, c) => sum + c.likelihood, 0)).toBeCloseTo(1, 9)
      }),
    )
  })
  it.each([
    ['R-410A', 'R-32'],
    ['R-22', 'R-421A'],
    ['R-404A', 'R-507A'],
    ['R-448A', 'R-449A'],
    ['R-454B', 'R-452B'],
    ['R-452A', 'R-407F'],
    ['R-452A', 'R-442A'],
    ['R-454B', 'R-466A'],
    ['R-407C', 'R-454C'],
    ['R-502', 'R-422D'],
    ['R-502', 'R-427A'],
    ['R-450A', 'R-152a'],
    ['R-404A', 'R-449A'],
  ])('does not pretend to tell %s from %s', (one, other) => {
    for (const celsius of [0, 15, 30]) expect(fitting(one, celsius)).toContain(other)
  })
  it('tells R-134a from R-1234yf in the cold, not in the warm', () => {
    expect(fitting('R-134a', -20, { gaugePa: 2_000, clampK: 0.5 })).not.toContain('R-1234yf')
    expect(fitting('R-134a', 35)).toContain('R-1234yf')
  })
  it('says what has less pressure than it should, and what more', () => {
    const at = (code: string) =>
      identify({ pressurePa: 1.2e6, tempK: K(25), ...sharp }).find((c) => c.code === code)!
    expect(at('R-410A')).toMatchObject({ fit: 'below', likelihood: 0 })
    expect(at('R-134a').fit).toBe('above')
  })
  it('leaves out what has no table at that temperature', () => {
    expect(identify({ pressurePa: 5e6, tempK: K(45), ...sharp }).map((c) => c.code)).not.toContain('R-744')
  })
})

describe('airShare', () => {
  it('is the share of the vapour: 1 % raises R-410A by 0.17 bar at 25 C, R-134a by 0.07', () => {
    for (const [code, bar] of [
      ['R-410A', 0.17],
      ['R-134a', 0.07],
    ] as const) {
      const saturation = bubble(code, 25)
      const { airPa, ofVapour } = airShare(saturation + bar * 1e5, saturation, 1)
      expect(airPa).toBeCloseTo(bar * 1e5, 6)
      expect(ofVapour).toBeCloseTo(0.01, 3)
    }
    expect(airShare(1e5, 2e5, 1).ofVapour).toBe(0)
  })
})
