import { describe, expect, it } from 'vitest'
import { differenceSigmaMg, divisionMg, divisionThatCould, twoScalesSigmaMg } from '.'

describe('what a scale can tell', () => {
  it('takes 5 g where nobody knows the division, and 10 g above 60 kg', () => {
    expect(divisionMg(null, 30e6)).toBe(5_000)
    expect(divisionMg(null, 60e6)).toBe(5_000)
    expect(divisionMg(null, 61e6)).toBe(10_000)
    expect(divisionMg(1_000, 61e6)).toBe(1_000)
  })
  it('knows a difference on one scale better than on two', () => {
    // 5 g / sqrt(12) x 1.5 x sqrt(2) = 3.06 g.
    expect(differenceSigmaMg(5_000)).toBeCloseTo(3_062, 0)
    // Each: hypot(2.165, 10) = 10.23 g; both: 14.47 g.
    const plain = { divisionMg: 5_000, accuracyMg: null }
    expect(twoScalesSigmaMg(plain, plain)).toBeCloseTo(14_470, -1)
    // Stated: 20 g / sqrt(3) = 11.547 g; hypot(2.165, 11.547) = 11.748 g; with the other one: 15.58 g.
    expect(twoScalesSigmaMg(plain, { divisionMg: 5_000, accuracyMg: 20_000 })).toBeCloseTo(15_580, -1)
  })
  it('names the coarsest scale that could', () => {
    // 2 sigma of 1 g is 1.22 g, of 2 g 2.45 g.
    expect(divisionThatCould(2_000)).toBe(1_000)
    // 2 sigma of 10 g is 12.2 g, of 20 g 24.5 g.
    expect(divisionThatCould(15_000)).toBe(10_000)
    expect(divisionThatCould(10)).toBeUndefined()
  })
})
