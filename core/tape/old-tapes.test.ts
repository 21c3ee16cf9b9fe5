// Tapes as they were written, kept for good: a later version of the fold must read them and come to the same.
import { describe, expect, it } from 'vitest'
import { bookings, type Entry, foldTape, KINDS, upcast, versionOf } from '.'
import firstVersion from './old-tapes/v1.json' with { type: 'json' }

describe('a tape of version 1', () => {
  const entries = firstVersion as unknown as Entry[]
  it('has every kind of entry', () => {
    // A kind that is added later has a tape of its own version.
    expect([...new Set(entries.map((e) => e.kind))].sort()).toEqual(Object.keys(KINDS).sort())
  })
  it('is read into the bodies of today, step by step', () => {
    const [ended] = entries.filter((entry) => entry.kind === 'recovery-ended')
    expect(ended!.version).toBe(1)
    expect(upcast('recovery-ended', 1, ended!.body)).toEqual({ how: 'emptied' })
    for (const [kind, { version, upcast: steps }] of Object.entries(KINDS)) {
      expect([kind, steps.length]).toEqual([kind, version - 1])
      expect(versionOf(kind as keyof typeof KINDS)).toBe(version)
    }
  })
  it('folds and books as it did', () => {
    const state = foldTape(entries)
    expect(state).toMatchObject({
      status: 'closed',
      title: 'Old tape',
      recoveredMg: 2_500_000,
      chargedMg: 2_460_000,
      oil: { outMl: 30, partsMl: 10, inMl: 40 },
      flags: [],
    })
    expect(bookings(state).map((b) => [b.key.split(':')[0], b.from.kind, b.to.kind, b.massMg])).toEqual([
      ['before', 'outside', 'system', 2_500_000],
      ['run', 'system', 'cylinder', 2_500_000],
      ['run', 'cylinder', 'system', 2_460_000],
      ['hose', 'cylinder', 'rig', 40_000],
    ])
  })
})
