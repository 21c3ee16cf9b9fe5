import { describe, expect, it } from 'vitest'
import type { Said } from './asked'
import { type Breach, newCounts, told, truthOf } from './run'
import { RULES } from './rules'

const COURSES = 20

describe('the second bookkeeper', () => {
  it('finds nothing in twenty courses that Keg says and is not so', () => {
    const counts = newCounts()
    const breaches = Array.from({ length: COURSES }, (_, seed) => truthOf(seed, counts)).flat()
    expect(breaches.map((each) => [each, told(each.seed, each)])).toEqual([])
    for (const [rule, { exercised }] of Object.entries(counts))
      expect([rule, exercised > 0]).toEqual([rule, true])
  }, 300_000)

  it.each<[rule: keyof typeof RULES & string, wrong: (said: Said) => Partial<Said>]>([
    [
      '1 what is in it',
      ({ now }) => (now.kind === 'weighed' ? { now: { ...now, massMg: now.massMg + 4e5 } } : {}),
    ],
    ['1 what is in it', ({ now }) => (now.kind === 'weighed' ? { now: { kind: 'empty' } } : {})],
    ['2 tape and books', ({ booksMg }) => ({ booksMg: booksMg + 30_000 })],
    ['3 next step', ({ now }) => (now.kind === 'weighed' ? { next: 'repair' } : {})],
    ['3 next step', ({ hold, running }) => (hold === 'none' && !running ? { next: 'start-charge' } : {})],
    ['4 open points', ({ state, points }) => (state.entries % 2 ? { points: [] } : { points })],
    ['7 one judge', ({ hold }) => (hold === 'failed' ? { next: 'start-charge' } : {})],
  ])(
    'would find that %s was wrong',
    (rule, wrong) => {
      const breaches: Breach[] = []
      for (let seed = 0; seed < 12 && breaches.length === 0; seed++)
        breaches.push(...truthOf(seed, newCounts(), (said) => ({ ...said, ...wrong(said) })))
      expect(breaches.map((each) => each.rule)).toContain(rule)
    },
    300_000,
  )
})
