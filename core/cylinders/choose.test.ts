import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { chooseCylinders } from '.'

const rooms = (...of: number[]) => of.map((roomMg, i) => ({ cylinderId: `c${i}`, roomMg }))
const chosen = (of: number[], mass: number) => chooseCylinders(rooms(...of), mass)?.map((c) => c.roomMg)

describe('chooseCylinders', () => {
  it('takes one that is just large enough', () => expect(chosen([20, 5, 9, 12], 8)).toEqual([9]))
  it('takes two with the least to spare', () => expect(chosen([10, 3, 6, 8], 12)).toEqual([10, 3]))
  it('takes more when it must, and exchanges for smaller', () =>
    expect(chosen([10, 10, 10, 4, 2], 23)).toEqual([10, 10, 4]))
  it('gives up when all together are too small, and leaves out the full', () => {
    expect(chosen([5, 5, -3, 0], 11)).toBeUndefined()
  })
  it('is never more than needed, and exact for one and two', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 50 }), { maxLength: 9 }),
        fc.integer({ min: 1, max: 90 }),
        (all, mass) => {
          const found = chosen(all, mass)
          const sums = (k: number): number[] =>
            k === 1 ? all : all.flatMap((a, i) => all.slice(i + 1).map((b) => a + b))
          if (!found) return void expect(all.reduce((a, b) => a + b, 0)).toBeLessThan(mass)
          const total = found.reduce((a, b) => a + b, 0)
          expect(total).toBeGreaterThanOrEqual(mass)
          const enough = (k: number) => sums(k).filter((sum) => sum >= mass)
          if (enough(1).length > 0) expect(total).toBe(Math.min(...enough(1)))
          else if (enough(2).length > 0) expect(total).toBe(Math.min(...enough(2)))
          else expect(found.length).toBeGreaterThan(2)
        },
      ),
    )
  })
})
