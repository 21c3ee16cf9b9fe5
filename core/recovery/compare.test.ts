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
    const early = (massMg: number) =>
      compareRecovered({ massMg, sigmaMg: 10_000 }, expected, { how: 'not-emptied' })
    expect(early(900_000).code).toBe('not-emptied')
    expect(early(3_000_000)).toMatchObject({ outcome: 'open', code: 'not-emptied' })
    expect(early(3_000_000).reasons[0]!.code).toBe('rest-may-come')
    expect(early(3_200_000).code).toBe('more-than-expected')
  })
  it('of a system that the books have empty: nothing came, or more than there was, in figures that can be written', () => {
    const empty = { massMg: 0, sigmaMg: 15_000 }
    const of = (massMg: number) => compareRecovered({ massMg, sigmaMg: 3_000 }, empty, { how: 'lost' })
    expect(of(0).code).toBe('nothing-recovered')
    expect(of(300_000).code).toBe('more-than-expected')
    for (const { value, sigma } of [...of(0).numbers, ...of(300_000).numbers])
      expect([Number.isFinite(value), Number.isFinite(sigma ?? 0)]).toEqual([true, true])
  })
  it('gives no verdict on nothing, or without a plate', () => {
    expect(outcome(0)).toBe('nothing-recovered')
    expect(compareRecovered({ massMg: 2_000_000, sigmaMg: 10_000 }, null)).toMatchObject({
      outcome: 'open',
      code: 'no-expectation',
    })
  })
  it('says not emptied of nothing behind a shut valve, never that the charge was gone', () => {
    const shut = compareRecovered({ massMg: 0, sigmaMg: 3_000 }, expected, { how: 'not-emptied' })
    expect([shut.outcome, shut.code]).toEqual(['open', 'not-emptied'])
    expect(shut.reasons.map((r) => r.code)).toEqual(['nothing-came-valve-or-empty', 'pull-again-or-hold'])
    expect(compareRecovered({ massMg: 1e6, sigmaMg: 3_000 }, null, { how: 'not-emptied' }).code).toBe(
      'not-emptied',
    )
  })
  it('does not take "emptied" against a pressure that stands above the level', () => {
    expect(
      compareRecovered({ massMg: 2e6, sigmaMg: 3_000 }, expected, { contradictedPa: 4e5 }),
    ).toMatchObject({
      outcome: 'open',
      code: 'not-emptied',
    })
  })
  it('does not call a charge gone that had pressure before, or of which some flowed back', () => {
    const none = (massMg: number, stoodPa?: number) =>
      compareRecovered({ massMg, sigmaMg: 3_000 }, expected, { stoodPa })
    expect(none(0).code).toBe('nothing-recovered')
    expect(none(0, 9e5)).toMatchObject({ outcome: 'open', code: 'not-emptied' })
    expect(none(0, 9e5).reasons[0]!.code).toBe('pressure-was-there')
    expect(none(-40_000)).toMatchObject({ outcome: 'open', code: 'not-emptied' })
    expect(none(-40_000).reasons[0]!.code).toBe('flowed-back')
  })
  it('proves nothing by a guess', () => {
    // Plate 2 kg and some thirty metres of line guessed at 0.9 kg, give or take half of it: 27 % short is within the guess.
    const guessed = { massMg: 2_900_000, sigmaMg: 450_000 }
    const short = compareRecovered({ massMg: 2_117_000, sigmaMg: 10_000 }, guessed)
    expect(short).toMatchObject({ outcome: 'open', code: 'expectation-in-doubt' })
    expect(compareRecovered({ massMg: 2_900_000, sigmaMg: 10_000 }, guessed).code).toBe(
      'expectation-in-doubt',
    )
    // The books had weighed so little in, to 15 g: nothing to measure there.
    const weighed = { massMg: 400_000, sigmaMg: 15_000 }
    expect(compareRecovered({ massMg: 390_000, sigmaMg: 3_000 }, weighed, { weighed: true }).code).toBe(
      'as-expected',
    )
    // Line measured, to 80 g in 2.9 kg: doubt 161 g and rest 59 are within a tenth, 290 g.
    const measured = { massMg: 2_900_000, sigmaMg: 80_000 }
    expect(compareRecovered({ massMg: 2_850_000, sigmaMg: 10_000 }, measured).code).toBe('as-expected')
  })
  it('judges nothing where the charge was shut in, or taken out by somebody else', () => {
    expect(compareRecovered({ massMg: 0, sigmaMg: 0 }, expected, { how: 'shut-in' }).code).toBe(
      'charge-shut-in',
    )
    expect(compareRecovered({ massMg: 0, sigmaMg: 0 }, expected, { how: 'elsewhere' }).code).toBe(
      'recovered-elsewhere',
    )
  })
  it('scales what may be left behind, and what is nothing, with the charge', () => {
    const small = (plateMg: number, outMg: number) =>
      compareRecovered(
        { massMg: outMg, sigmaMg: 3_062 },
        { massMg: plateMg, sigmaMg: Math.round(0.01 * plateMg) },
      ).code
    // Rest 15 + 1.5 g, doubt 2 x hypot(3.1, 1.5) = 6.8 g: anything under 126.7 g is too little.
    expect(small(150_000, 100_000)).toBe('less-than-expected')
    expect(small(150_000, 127_000)).toBe('as-expected')
    expect(small(150_000, 126_000)).toBe('less-than-expected')
    // 58 g: rest 6.4, doubt 6.2: under 45.4 g.
    expect(small(58_000, 45_000)).toBe('less-than-expected')
    expect(small(58_000, 18_000)).toBe('mostly-gone')
  })
  it('says when the scale is coarser than what a recovery may leave behind, and which could tell', () => {
    const coarse = compareRecovered({ massMg: 50_000, sigmaMg: 6_124 }, { massMg: 58_000, sigmaMg: 580 })
    expect(coarse.code).toBe('cannot-tell-with-this-scale')
    // Rest 6.4 g: 5 g counts to 6.1 g at two sigma.
    expect(coarse.numbers.find((n) => n.name === 'division')?.value).toBe(0.005)
    expect(compareRecovered({ massMg: 20_000, sigmaMg: 6_124 }, { massMg: 58_000, sigmaMg: 580 }).code).toBe(
      'mostly-gone',
    )
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
