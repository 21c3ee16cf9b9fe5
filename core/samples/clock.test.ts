import { expect, it } from 'vitest'
import { type Arrival, clockOffMs } from '.'

/** Ten batches half a second apart, each held up by a little. */
const batches = (offMs: number, heldUpMs: (i: number) => number = (i) => 50 + 30 * (i % 3)): Arrival[] =>
  Array.from({ length: 10 }, (_, i) => {
    const saidTrue = 1e12 + i * 500
    return { saidAt: saidTrue + offMs, arrivedAt: saidTrue + heldUpMs(i) }
  })

it('a clock that is behind or ahead is told by how much, the hold-up of the quickest batch less', () => {
  expect(clockOffMs(batches(-180_000))).toBe(-180_050)
  expect(clockOffMs(batches(30_000))).toBe(29_950)
})
it('a clock that is right, or as good as right, is nothing to tell', () => {
  for (const off of [0, -19_000, 4_000]) expect(clockOffMs(batches(off))).toBeUndefined()
})
it('what was kept without a signal is no wrong clock: it comes at once, or catches up', () => {
  const atOnce = batches(-600_000).map((each) => ({ ...each, arrivedAt: 1e12 + 600_000 }))
  expect(clockOffMs(atOnce)).toBeUndefined()
  // Each batch is four seconds less late than the one before.
  expect(clockOffMs(batches(0, (i) => 120_000 - i * 4_000))).toBeUndefined()
  expect(clockOffMs(batches(-180_000).slice(1))).toBeUndefined()
})
