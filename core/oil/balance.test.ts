import { describe, expect, it } from 'vitest'
import { injectorSteps, oilBalance } from '.'

describe('oil', () => {
  it('goes back as it came, plus the share of the parts', () => {
    expect(oilBalance(15, 30, 0).dueMl).toBe(45)
    expect(oilBalance(15, 30, 45).dueMl).toBe(0)
    expect(oilBalance(0, 0, 0).dueMl).toBe(0)
    expect(oilBalance(10, 0, 20).dueMl).toBe(-10)
  })
  it('is injected in whole steps, rounded up', () => {
    expect(injectorSteps(0.5, 0.2)).toEqual({ steps: 3, volumeMl: 0.6, extraMl: 0.1 })
    expect(injectorSteps(0.6, 0.2)).toEqual({ steps: 3, volumeMl: 0.6, extraMl: 0 })
    expect(injectorSteps(0, 5).steps).toBe(0)
    expect(() => injectorSteps(5, 0)).toThrow(RangeError)
  })
})
