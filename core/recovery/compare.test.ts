import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareRecovered } from '.'

const expected = { massMg: 3_000_000, sigmaMg: 30_000 }
const outcome = (massMg: number) => compareRecovered({ massMg, sigmaMg: 10_000 }, expected).code

describe('compareRecovered', () => {
  it('finds what was there', () => {
    expect(outcome(3_000_000)).toBe('as-expected')
    expect(outcome(2_900_000)).toBe('as-expected')
    expect(outcome(3_060_000)).toBe('as-expected')
  })
  it('finds too little, and almost nothing', () => {
    expect(outcome(2_700_000)).toBe('less-than-expected')
    expect(outcome(900_000)).toBe('mostly-gone')
  })
  it('finds too much', () => {
    expect(outcome(3_200_000)).toBe('more-than-expected')
  })
  it('cannot say too little while the system was not emptied, but can say too much', () => {
    const early = (massMg: number) => compareRecovered({ massMg, sigmaMg: 10_000 }, expected, false).code
    expect(early(900_000)).toBe('not-emptied')
    expect(early(3_000_000)).toBe('as-expected')
    expect(early(3_200_000)).toBe('more-than-expected')
  })
  it('gives no verdict on nothing, or without a plate', () => {
    expect(outcome(0)).toBe('nothing-recovered')
    expect(compareRecovered({ massMg: 2_000_000, sigmaMg: 10_000 }, null)).toMatchObject({
      outcome: 'open',
      code: 'no-expectation',
    })
  })
  it('never gets better as less comes out, and always gives reasons', () => {
    const rank = [
      'more-than-expected',
      'as-expected',
      'less-than-expected',
      'mostly-gone',
      'nothing-recovered',
    ]
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 6_000_000 }),
        fc.integer({ min: 0, max: 500_000 }),
        (massMg, less) => {
          const more = compareRecovered({ massMg, sigmaMg: 10_000 }, expected)
          const fewer = compareRecovered({ massMg: Math.max(0, massMg - less), sigmaMg: 10_000 }, expected)
          expect(rank.indexOf(fewer.code)).toBeGreaterThanOrEqual(rank.indexOf(more.code))
          expect(more.reasons.length).toBeGreaterThan(0)
        },
      ),
    )
  })
})
