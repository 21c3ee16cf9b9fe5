import { randomUUID } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { VERDICT_REASONS } from '~/words/en'
import { readBatch } from './entry-schema.server'

const entry = (kind: string, body: unknown, over = {}) => ({
  entryId: randomUUID(),
  kind,
  version: 1,
  at: 1_780_000_000_000,
  deviceId: 'd',
  deviceSeq: 1,
  body,
  ...over,
})
const read = (...entries: unknown[]) => readBatch({ userId: randomUUID(), entries, sentAt: 1 })
const judged = (over: object) =>
  entry('verdict-given', {
    about: 'recovery',
    verdict: {
      outcome: 'good',
      code: 'as-expected',
      reasons: [],
      numbers: [],
      rule: { code: 'against-expected' },
      ...over,
    },
    engine: 1,
    tables: 1,
  })
const deep = (levels: number) => {
  let value: unknown = 'bottom'
  for (let i = 0; i < levels; i++) value = [value]
  return value
}

describe('readBatch', () => {
  it('takes well-formed entries', () => {
    const good = entry('weight-noted', { runId: randomUUID(), weightMg: 12_000_000 })
    expect(read(good)).toMatchObject({ entries: [good], malformed: [] })
  })
  it('takes what an older page writes, and keeps it as it was written', () => {
    const runId = randomUUID()
    const old = [
      entry('recovery-ended', { emptied: true }),
      entry('run-ended', { runId, weightMg: 12_000_000, hoseMg: 0 }),
      entry('correction', {
        entryId: randomUUID(),
        kind: 'recovery-ended',
        body: { emptied: false },
        reason: '',
      }),
      entry('recovery-ended', { how: 'shut-in' }, { version: 2 }),
    ]
    expect(read(...old)).toMatchObject({ entries: old, malformed: [] })
    const mixedUp = [
      entry('recovery-ended', { how: 'emptied' }),
      entry('recovery-ended', { emptied: 'yes' }),
      entry('recovery-ended', { emptied: true }, { version: 2 }),
      entry('run-ended', { runId, weightMg: 1, hoseMg: 0 }, { version: 3 }),
    ]
    expect(read(...mixedUp)!.malformed).toEqual(mixedUp.map((each) => each.entryId))
  })
  it.each([
    ['an unknown kind', entry('weight-guessed', {})],
    ['half a milligram', entry('weight-noted', { runId: randomUUID(), weightMg: 0.5 })],
    ['text for a number', entry('weight-noted', { runId: randomUUID(), weightMg: '12' })],
    ['more than the kind says', entry('job-closed', { by: 'me' })],
    ['a newer version', entry('job-closed', {}, { version: 2 })],
    ['a refrigerant nobody knows', entry('job-described', { refrigerant: 'R-1' })],
    ['30 February', entry('recheck-set', { on: '2026-02-30', reason: '' })],
    ['a month that is none', entry('recheck-set', { on: '2026-13-01', reason: '' })],
    ['a curve of one number', entry('hold-curve', { holdId: randomUUID(), readings: [[1]] })],
    ['a part nobody knows', entry('part-replaced', { part: 'engine', number: '', text: '' })],
    ['a character that cannot be kept', entry('note', { text: 'a\0b' })],
    ['half a character', entry('note', { text: 'a\ud800b' })],
    ['a year that no calendar has', entry('note', { text: 'x' }, { at: 8.64e15 })],
    ['an id in another spelling', entry('weight-noted', { runId: randomUUID().toUpperCase(), weightMg: 1 })],
    ['an id in braces', entry('weight-noted', { runId: `{${randomUUID()}}`, weightMg: 1 })],
    ['a kind that every object has', entry('constructor', {})],
    [
      'a correction of such a kind',
      entry('correction', { entryId: randomUUID(), kind: 'constructor', body: {}, reason: '' }),
    ],
    ['something deeper than any entry', entry('note', { text: 'x', more: deep(100_000) })],
    ['a verdict nobody knows', judged({ code: 'splendid' })],
    ['a verdict with a reason of nothing', judged({ reasons: [null] })],
    ['a verdict with a reason nobody knows', judged({ reasons: [{ code: 'toString' }] })],
    ['a verdict whose number is text', judged({ numbers: [{ name: 'recovered', value: '1', unit: 'kg' }] })],
    [
      'a verdict whose number is endless',
      judged({ numbers: [{ name: 'recovered', value: Infinity, unit: 'kg' }] }),
    ],
    ['a verdict in a unit of its own', judged({ numbers: [{ name: 'recovered', value: 1, unit: 'stone' }] })],
    [
      'a verdict with too many numbers',
      judged({ numbers: Array(21).fill({ name: 'recovered', value: 1, unit: 'kg' }) }),
    ],
    ['a pressure below nothing', entry('vacuum-noted', { pressurePa: -1 })],
    [
      'a correction that does not fit its kind',
      entry('correction', { entryId: randomUUID(), kind: 'note', body: { weightMg: 1 }, reason: '' }),
    ],
    [
      'a correction of a correction',
      entry('correction', { entryId: randomUUID(), kind: 'correction', body: null, reason: '' }),
    ],
  ])('gives back %s, and keeps the others', (_what, bad) => {
    const good = entry('note', { text: 'hello' })
    expect(read(bad, good)).toMatchObject({ entries: [good], malformed: [bad.entryId] })
  })
  it('takes every verdict that core can give', () => {
    const numbers = [{ name: 'recovered', value: 2.95, unit: 'kg', sigma: 0.01 }]
    const good = judged({ numbers, reasons: [{ code: Object.keys(VERDICT_REASONS)[0]!, numbers }] })
    expect(read(good)).toMatchObject({ entries: [good], malformed: [] })
  })
  it('is no batch without entries', () => {
    expect(readBatch({ userId: randomUUID(), entries: [], sentAt: 1 })).toBeUndefined()
    expect(readBatch({ entries: [entry('job-closed', {})], sentAt: 1 })).toBeUndefined()
    expect(readBatch('hello')).toBeUndefined()
    expect(read(null)).toMatchObject({ entries: [], malformed: [''] })
  })
})
