import { expect, it } from 'vitest'
import { wrote } from '../../../testing/an-entry'
import { foldTape, shutInHolds } from '..'

const MIN = 60_000
type Low = [minute: number, barG: number]
const noted = ([minute, barG]: Low) =>
  wrote('pressure-noted', { point: 'low', pressurePa: 101_325 + barG * 1e5 }, minute * MIN)
/** One before the clock begins at ten minutes, or just then, and others after it: written in the order of their times. */
const says = (before: Low, ...after: Low[]) =>
  shutInHolds(
    foldTape([
      noted(before),
      wrote('watch-started', { watchId: 'w', what: 'pull', forS: 600 }, 10 * MIN),
      ...after.map(noted),
    ]),
  )

it('nothing before the low side was noted twice, from just before the clock on', () => {
  expect(shutInHolds(foldTape([noted([9, 0.1]), noted([20, 0.1])]))).toBeUndefined()
  expect(says([9, 0.1])).toBeUndefined()
  expect(says([7, 0.1], [20, 0.1])).toBeUndefined()
})
it('the valves hold, or one does not: 50 mbar of an ordinary gauge at its border', () => {
  expect(says([9, 0.1], [20, 0.1])).toEqual({ risePa: 0, heldS: 660, verdict: 'holds' })
  // 0.2 bar is what an ordinary gauge may be off; against itself a quarter of it counts.
  expect(says([9, 0.1], [20, 0.149])!.verdict).toBe('holds')
  expect(says([9, 0.1], [20, 0.151])!.verdict).toBe('rises')
  expect(says([9, 0.1], [11, 0.3])!.verdict).toBe('rises')
})
it('within five minutes nothing is said of what stays', () => {
  expect(says([10, 0.1], [14, 0.1])!.verdict).toBe('too-soon')
  expect(says([10, 0.1], [15, 0.1])!.verdict).toBe('holds')
})
