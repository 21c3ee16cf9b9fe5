import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Booking, differences, place } from '.'

const booking = (massMg: number, over: Partial<Booking> = {}): Booking => ({
  key: 'run:1',
  from: place('system', 's'),
  to: place('cylinder', 'A'),
  massMg,
  refrigerant: 'R-410A',
  knownBy: 'weighed',
  uncertaintyMg: 10_000,
  at: 1,
  ...over,
})
const brief = (list: Booking[]) => list.map((b) => [b.from.id ?? b.from.kind, b.to.id ?? b.to.kind, b.massMg])

describe('differences', () => {
  it('are what is wanted where nothing is booked, and nothing where both agree', () => {
    expect(differences([], [booking(5)])).toEqual([booking(5)])
    expect(differences([booking(5)], [booking(5)])).toEqual([])
    expect(differences([booking(2), booking(3)], [booking(5)])).toEqual([])
  })
  it('add what is missing, and move back what is too much', () => {
    expect(brief(differences([booking(5)], [booking(8)]))).toEqual([['s', 'A', 3]])
    expect(brief(differences([booking(8)], [booking(5)]))).toEqual([['A', 's', 3]])
    expect(brief(differences([booking(8)], []))).toEqual([['A', 's', 8]])
  })
  it('move the mass when a correction names another cylinder', () => {
    const moved = differences([booking(5)], [booking(5, { to: place('cylinder', 'B') })])
    expect(brief(moved).sort()).toEqual([
      ['A', 's', 5],
      ['s', 'B', 5],
    ])
  })
  it('turn round when it went the other way', () => {
    const back = booking(2, { from: place('cylinder', 'A'), to: place('system', 's') })
    expect(brief(differences([booking(5)], [back]))).toEqual([['A', 's', 7]])
  })
  it('keep two refrigerants apart', () => {
    expect(brief(differences([booking(5)], [booking(5, { refrigerant: 'R-22' })])).sort()).toEqual([
      ['A', 's', 5],
      ['s', 'A', 5],
    ])
  })
  it('bring the books to what is wanted, from whatever they were', () => {
    const any = fc.array(
      fc.record({
        key: fc.constantFrom('run:1', 'run:2'),
        forward: fc.boolean(),
        to: fc.constantFrom('A', 'B'),
        massMg: fc.integer({ min: 1, max: 1000 }),
      }),
      { maxLength: 8 },
    )
    const made = (list: { key: string; forward: boolean; to: string; massMg: number }[]) =>
      list.map(({ key, forward, to, massMg }) => {
        const cylinder = place('cylinder', to)
        const system = place('system', 's')
        return booking(massMg, {
          key,
          ...(forward ? { from: system, to: cylinder } : { from: cylinder, to: system }),
        })
      })
    fc.assert(
      fc.property(any, any, (before, after) => {
        const booked = made(before)
        const due = differences(booked, made(after))
        for (const each of due) expect(each.massMg).toBeGreaterThan(0)
        expect(differences([...booked, ...due], made(after))).toEqual([])
      }),
    )
  })
})
