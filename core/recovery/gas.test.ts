import { describe, expect, it } from 'vitest'
import { judgeGas, markFor, type RecoveredGas, waterfall } from '.'

const CLEAN: RecoveredGas = {
  unmeasured: [],
  purged: true,
  acid: undefined,
  compressorFailed: false,
  airShare: undefined,
  mixed: false,
  owner: 'same',
  wasInIt: 'nothing',
}
const of = (over: Partial<RecoveredGas>) => {
  const verdict = judgeGas({ ...CLEAN, ...over })
  return [verdict.code, markFor(verdict)]
}

describe('may the gas go back', () => {
  it('clean gas goes back to its owner, and its cylinder is marked used', () => {
    expect(of({})).toEqual(['gas-goes-back', 'used'])
    expect(of({ owner: 'unknown' })).toEqual(['gas-goes-back', 'used'])
  })
  it('nobody has said whose system it is, and the cylinder held gas already: it cannot be told', () => {
    expect(of({ owner: 'unknown', wasInIt: 'used' })).toEqual(['gas-owner-open', 'used'])
    expect(judgeGas({ ...CLEAN, owner: 'unknown', wasInIt: 'clean' }).outcome).toBe('open')
  })
  it('no word before the purge', () => {
    expect(of({ purged: false })).toEqual(['gas-not-yet', undefined])
  })
  it('another owner’s is reclaimed, and no worse for it', () => {
    expect(of({ owner: 'other' })).toEqual(['gas-reclaim', 'used'])
  })
  it('acid, air, a burnt compressor that nobody tested, doubtful gas below it: recycled', () => {
    for (const over of [
      { acid: true },
      { airShare: 0.05 },
      { compressorFailed: true },
      { wasInIt: 'doubtful' },
    ] as const)
      expect(of(over)).toEqual(['gas-recycle', 'doubtful'])
    expect(of({ compressorFailed: true, acid: false })).toEqual(['gas-goes-back', 'used'])
    expect(of({ airShare: 0.019 })).toEqual(['gas-goes-back', 'used'])
    expect(of({ acid: true, owner: 'other' })).toEqual(['gas-reclaim', 'doubtful'])
  })
  it('air that may have come with it: nobody can tell before it was measured', () => {
    const drawn = judgeGas({ ...CLEAN, unmeasured: ['air-drawn-in'] })
    expect([drawn.outcome, drawn.code]).toEqual(['open', 'gas-measure-first'])
    expect(drawn.reasons.map(({ code }) => code)).toEqual(['air-drawn-in', 'rest-and-measure'])
    expect(of({ unmeasured: ['hoses-not-purged'] })).toEqual(['gas-measure-first', undefined])
    expect(of({ unmeasured: ['air-drawn-in'], acid: true })).toEqual(['gas-recycle', 'doubtful'])
  })
  it('a mixture is for reclaim, whatever else', () => {
    expect(of({ mixed: true })).toEqual(['gas-reclaim', 'mixed'])
    expect(of({ wasInIt: 'mixed', acid: true })).toEqual(['gas-reclaim', 'mixed'])
  })
})

describe('from expected to recovered', () => {
  const parts = [
    { what: 'plate', name: '', massMg: 3_000_000 },
    { what: 'line', name: '3/8 in liquid', massMg: 215_000 },
  ] as const
  const steps = (recoveredMg: number, over = {}) =>
    waterfall({ parts, expectedMg: 3_215_000, recoveredMg, keptMg: 0, restMg: 62_000, ...over }).map(
      ({ what, massMg }) => [what, massMg],
    )
  it('what is left behind comes before what is missing', () => {
    expect(steps(2_500_000)).toEqual([
      ['plate', 3_000_000],
      ['line', 215_000],
      ['expected', 3_215_000],
      ['left-behind', -62_000],
      ['missing', -653_000],
      ['recovered', 2_500_000],
    ])
    expect(steps(3_200_000).slice(3)).toEqual([
      ['left-behind', -15_000],
      ['recovered', 3_200_000],
    ])
  })
  it('more than expected, and a machine that keeps some', () => {
    expect(steps(3_500_000).slice(3)).toEqual([
      ['more', 285_000],
      ['recovered', 3_500_000],
    ])
    expect(steps(3_100_000, { keptMg: 100_000 }).slice(3)).toEqual([
      ['kept', -100_000],
      ['left-behind', -15_000],
      ['recovered', 3_100_000],
    ])
  })
  it('from one sum to the next the steps add up, and what this job added is one of them', () => {
    const all = waterfall({
      parts,
      expectedMg: 3_415_000,
      recoveredMg: 3_000_000,
      keptMg: 20_000,
      restMg: 60_000,
    })
    expect(all.find((each) => each.what === 'added-here')!.massMg).toBe(200_000)
    let at = 0
    for (const { sum, massMg, fromMg } of all) {
      if (sum) expect([massMg, fromMg]).toEqual([at, 0])
      else expect(fromMg).toBe(Math.min(at, (at += massMg)))
    }
  })
})
