import { expect, it } from 'vitest'
import { gaplessSeq } from './use-tape'

it('gaplessSeq stops at the first number that is missing', () => {
  const entries = (...seqs: number[]) => seqs.map((seq) => ({ seq })) as Parameters<typeof gaplessSeq>[0]
  expect(gaplessSeq([])).toBe(0)
  expect(gaplessSeq(entries(3, 1, 2))).toBe(3)
  expect(gaplessSeq(entries(1, 2, 4))).toBe(2)
})
