import { randomUUID } from 'node:crypto'
import { describe, expect, it } from 'vitest'
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
const read = (...entries: unknown[]) => readBatch({ entries, sentAt: 1 })

describe('readBatch', () => {
  it('takes well-formed entries', () => {
    const good = entry('weight-noted', { runId: randomUUID(), weightMg: 12_000_000 })
    expect(read(good)).toMatchObject({ entries: [good], malformed: [] })
  })
  it.each([
    ['an unknown kind', entry('weight-guessed', {})],
    ['half a milligram', entry('weight-noted', { runId: randomUUID(), weightMg: 0.5 })],
    ['text for a number', entry('weight-noted', { runId: randomUUID(), weightMg: '12' })],
    ['more than the kind says', entry('job-closed', { by: 'me' })],
    ['a newer version', entry('job-closed', {}, { version: 2 })],
    ['a refrigerant nobody knows', entry('job-described', { refrigerant: 'R-1' })],
    ['a character that cannot be kept', entry('note', { text: 'a\0b' })],
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
  it('is no batch without entries', () => {
    expect(readBatch({ entries: [], sentAt: 1 })).toBeUndefined()
    expect(readBatch('hello')).toBeUndefined()
    expect(read(null)).toMatchObject({ entries: [], malformed: [''] })
  })
})
