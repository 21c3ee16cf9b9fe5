import { appendFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { type SpooledSample, spoolIn } from './spool'

let folder: string
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'keg-spool-'))))
afterEach(() => rmSync(folder, { recursive: true, force: true }))

const samples = (from: number, count: number): SpooledSample[] =>
  Array.from({ length: count }, (_, i) => ({
    channel: 'weight',
    seq: from + i,
    at: 1_000 + from + i,
    value: 12,
  }))

it('gives what was kept in order, the same again until it has arrived, and nothing after that', () => {
  const spool = spoolIn(folder, 'd')
  spool.put(samples(0, 5))
  const first = spool.next(3)
  expect(first.samples).toEqual(samples(0, 3))
  expect(spool.next(3)).toEqual(first)
  spool.sent(first.end)
  const second = spool.next(3)
  expect(second.samples).toEqual(samples(3, 2))
  spool.sent(second.end)
  expect(spool.next(3).samples).toEqual([])
  expect(spool.waiting()).toBe(0)
})

it('a process that ended goes on where it was, and its sequences with it', () => {
  const before = spoolIn(folder, 'd')
  before.put(samples(0, 5))
  before.sent(before.next(2).end)
  const after = spoolIn(folder, 'd')
  expect(after.lastSeq().get('weight')).toBe(4)
  expect(after.next(10).samples).toEqual(samples(2, 3))
})

it('half a line, left by one that was killed while it wrote, is cut off', () => {
  spoolIn(folder, 'd').put(samples(0, 2))
  appendFileSync(join(folder, 'd.jsonl'), '{"channel":"weight","se')
  const spool = spoolIn(folder, 'd')
  spool.put(samples(2, 1))
  expect(spool.next(10).samples).toEqual(samples(0, 3))
})

it('a mark beyond the file, and one that cannot be read, begin at the start: what is sent twice is the same', () => {
  spoolIn(folder, 'd').put(samples(0, 2))
  for (const mark of ['999999', 'nonsense']) {
    writeFileSync(join(folder, 'd.sent'), mark)
    expect(spoolIn(folder, 'd').next(10).samples).toEqual(samples(0, 2))
  }
})

it('begins a large file anew once all of it has arrived, and forgets no sequence', () => {
  const spool = spoolIn(folder, 'd')
  let seq = 0
  for (; seq < 20_000; seq += 1_000) spool.put(samples(seq, 1_000))
  for (let batch = spool.next(1_000); batch.samples.length > 0; batch = spool.next(1_000))
    spool.sent(batch.end)
  expect(readFileSync(join(folder, 'd.jsonl'), 'utf8')).toBe('')
  expect(spoolIn(folder, 'd').lastSeq().get('weight')).toBe(19_999)
  spool.put(samples(20_000, 1))
  expect(spoolIn(folder, 'd').next(10).samples).toEqual(samples(20_000, 1))
})

it('full, it gives up the oldest that were not sent, says how many, and sends the others once and in order', () => {
  const line = JSON.stringify(samples(100, 1)[0]).length + 1
  const spool = spoolIn(folder, 'd', 100 * line)
  // Numbers of one length, so that a line is a line.
  expect(spool.put(samples(100, 60))).toBe(0)
  const first = spool.next(10)
  spool.sent(first.end)
  // Asked for, and not yet answered when it fills up.
  const onItsWay = spool.next(30)
  expect(onItsWay.samples).toEqual(samples(110, 30))
  // 101 lines; 75 stay. Ten were sent, so sixteen are given up.
  expect(spool.put(samples(160, 41))).toBe(16)
  expect(spool.waiting()).toBe(75 * line)
  spool.sent(onItsWay.end)
  expect(spool.next(1_000).samples).toEqual(samples(140, 61))
  const after = spoolIn(folder, 'd', 100 * line)
  expect(after.next(1_000).samples).toEqual(samples(140, 61))
  expect(after.lastSeq().get('weight')).toBe(200)
})

it('full of what was sent, it gives up nothing', () => {
  const line = JSON.stringify(samples(100, 1)[0]).length + 1
  const spool = spoolIn(folder, 'd', 100 * line)
  spool.put(samples(100, 90))
  spool.sent(spool.next(80).end)
  expect(spool.put(samples(190, 20))).toBe(0)
  expect(spool.next(1_000).samples).toEqual(samples(180, 30))
})
