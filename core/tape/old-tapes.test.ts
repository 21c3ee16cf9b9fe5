// Tapes as they were written, kept for good: a later version of the fold must read them and come to the same.
import { describe, expect, it } from 'vitest'
import { bookings, type Entry, type EntryKind, foldTape } from '.'
import firstVersion from './old-tapes/v1.json' with { type: 'json' }

describe('a tape of version 1', () => {
  const entries = firstVersion as unknown as Entry[]
  it('has every kind of entry', () => {
    const kinds: Record<EntryKind, true> = {
      'job-described': true,
      'stage-entered': true,
      'cylinder-chosen': true,
      'cylinder-released': true,
      'run-started': true,
      'weight-noted': true,
      'scale-changed': true,
      'run-ended': true,
      'recovery-ended': true,
      'gas-judged': true,
      'pressure-noted': true,
      'temperature-noted': true,
      'vacuum-noted': true,
      'hold-started': true,
      'hold-ended': true,
      'leak-checked': true,
      'oil-noted': true,
      'target-set': true,
      'step-done': true,
      note: true,
      'verdict-given': true,
      'verdict-overruled': true,
      correction: true,
      'job-waiting': true,
      'job-resumed': true,
      'job-closed': true,
      'job-cancelled': true,
      'job-reopened': true,
    }
    expect([...new Set(entries.map((e) => e.kind))].sort()).toEqual(Object.keys(kinds).sort())
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
