import { describe, expect, it } from 'vitest'
import { refrigerant, REFRIGERANTS } from '../refrigerants'
import { roomCheck, voltDrop } from '.'

describe('roomCheck', () => {
  it('compares with the lower flammable limit', () => {
    const found = roomCheck('R-290', 0.15, 30)
    expect(found.ofLowerLimit).toBeCloseTo(0.1316, 4)
    expect(found.verdict.code).toBe('below-alarm')
    expect(found.largestKg).toBeCloseTo(0.228, 3)
    expect(roomCheck('R-290', 0.3, 30).verdict.outcome).toBe('caution')
    expect(roomCheck('R-290', 2, 30).verdict.code).toBe('could-burn')
  })
  it('has no figure where none is known', () => {
    expect(roomCheck('R-410A', 5, 30)).not.toHaveProperty('ofLowerLimit')
    expect(roomCheck('R-410A', 5, 30).verdict.outcome).toBe('open')
  })
  it('rules ammonia by toxicity', () => {
    const found = roomCheck('R-717', 1, 100)
    expect(found.verdict.outcome).toBe('bad')
    expect(roomCheck('R-717', found.largestKg!, 100).ppm).toBeCloseTo(320, 6)
  })
})

describe('voltDrop', () => {
  it('counts there and back', () => {
    expect(voltDrop('1.5 mm2', 50, 8, 230).dropV).toBeCloseTo(9.68, 2)
    expect(voltDrop('16 AWG', 30, 12, 115).share).toBeGreaterThan(0.05)
    const { longestM } = voltDrop('2.5 mm2', 10, 10, 230)
    expect(voltDrop('2.5 mm2', longestM, 10, 230).share).toBeCloseTo(0.05, 9)
    expect(() => voltDrop('thick', 1, 1, 1)).toThrow(RangeError)
  })
})

describe('for every refrigerant', () => {
  it('the largest charge is just at the alarm, and no figure is made up', () => {
    for (const code of REFRIGERANTS) {
      const { largestKg, ofLowerLimit } = roomCheck(code, 1, 40, 0.2)
      const { lowerFlammableLimit } = refrigerant(code)
      expect(ofLowerLimit === undefined).toBe(lowerFlammableLimit === undefined)
      if (largestKg === undefined || code === 'R-717') continue
      expect(roomCheck(code, largestKg, 40, 0.2).ofLowerLimit).toBeCloseTo(0.2, 9)
      expect(roomCheck(code, largestKg * 0.99, 40, 0.2).verdict.outcome).toBe('good')
      expect(roomCheck(code, largestKg * 1.01, 40, 0.2).verdict.outcome).toBe('caution')
    }
  })
})
