// Whatever a device's clock does, masses stay.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aCourse } from '../../../testing/a-course'
import { anEntry } from '../../../testing/an-entry'
import { bookings, type Entry, foldTape } from '..'

const MINUTE = 60_000
const KG = 1_000_000

/** A job as two phones note it, each entry with its true time. */
function trueTape(): Entry[] {
  const { entries } = aCourse()
    .about('R-410A', 'sys')
    .recover('A', 2)
    .recover('B', 1)
    .end('emptied')
    .vacuum(450)
    .hold(430, 500)
    .target(3)
    .charge('A', 3.2)
    .recover('A', 0.2)
  const run = [
    anEntry('run-started', {
      runId: 'x',
      use: 'charge',
      cylinderId: 'B',
      scale: '',
      mode: 'gross',
      weightMg: 20 * KG,
    }),
    anEntry('weight-noted', { runId: 'x', weightMg: 19.8 * KG }),
    anEntry('scale-changed', { runId: 'x', scale: '', mode: 'net', weightMg: 0 }),
    anEntry('weight-noted', { runId: 'x', weightMg: -0.1 * KG }),
    anEntry('run-ended', { runId: 'x', weightMg: -0.3 * KG }),
  ]
  const last = entries.at(-1)!.at
  return [...entries, ...run.map((entry, i) => ({ ...entry, at: last + (i + 1) * 5 * MINUTE }) as Entry)]
}

const masses = (entries: Entry[]) => {
  const state = foldTape(entries)
  return {
    transfers: Object.fromEntries(state.transfers.map((each) => [each.transferId, each.amountMg])),
    inMg: state.episodes.map((each) => each.inMg),
    outMg: state.episodes.map((each) => each.outMg),
    books: bookings(state).map((b) => [b.key, b.from.kind, b.to.kind, b.massMg]),
    flags: state.flags,
  }
}

/** As devices write and the server takes them: each with its own count, its clock, and the offset found at sending. */
function asTaken(tape: Entry[], onPhone: boolean[], offsets: number[][]): Entry[] {
  const counts = [0, 0]
  return tape.map((entry, i) => {
    const device = onPhone[i % onPhone.length] ? 1 : 0
    const offsetMs = offsets[device]![i % offsets[device]!.length]!
    return {
      ...entry,
      at: entry.at + offsetMs,
      offsetMs,
      deviceId: `device-${device}`,
      deviceSeq: ++counts[device]!,
      seq: i + 1,
    }
  })
}

describe('clocks', () => {
  const tape = trueTape()
  const hours = fc.integer({ min: -5 * 60, max: 5 * 60 }).map((minutes) => minutes * MINUTE)
  it('any offsets and jumps of two devices give the same masses', () => {
    const truth = masses(tape)
    fc.assert(
      fc.property(
        fc.array(fc.boolean(), { minLength: 1, maxLength: 12 }),
        fc.tuple(
          fc.array(hours, { minLength: 1, maxLength: 6 }),
          fc.array(hours, { minLength: 1, maxLength: 6 }),
        ),
        (onPhone, offsets) => {
          expect(masses(asTaken(tape, onPhone, offsets))).toEqual(truth)
        },
      ),
    )
  })
  it('one device whose clock jumped without a signal keeps its own order', () => {
    const truth = masses(tape)
    fc.assert(
      fc.property(fc.array(hours, { minLength: 1, maxLength: 6 }), (jumps) => {
        // All sent at once at the end: the offset is that of the last clock.
        const last = jumps[(tape.length - 1) % jumps.length]!
        const taken = tape.map((entry, i) => ({
          ...entry,
          at: entry.at + jumps[i % jumps.length]!,
          offsetMs: last,
          seq: i + 1,
          deviceSeq: i + 1,
        }))
        expect(masses(taken)).toEqual(truth)
        // And while it still waits on the device, without any offset.
        expect(masses(taken.map(({ offsetMs: _o, seq: _s, ...entry }) => entry as Entry))).toEqual(truth)
      }),
    )
  })
  it('a phone ten minutes slow joins in without changing an amount', () => {
    const begun = anEntry('run-started', {
      runId: 'r',
      use: 'recover',
      cylinderId: 'A',
      scale: '',
      mode: 'gross',
      weightMg: 14 * KG,
    })
    const at = 10_000_000
    const state = foldTape([
      { ...begun, at, offsetMs: 0, seq: 1, deviceId: 'desk', deviceSeq: 1 },
      {
        ...anEntry('weight-noted', { runId: 'r', weightMg: 15 * KG }),
        at: at + MINUTE - 10 * MINUTE,
        offsetMs: -10 * MINUTE,
        seq: 2,
        deviceId: 'phone',
        deviceSeq: 1,
      },
    ])
    expect(state.transfers[0]!.amountMg).toBe(KG)
    expect(state.lines[1]!.time).toBe(at + MINUTE)
  })
  it('what was said to have been earlier stands where it was said', () => {
    const at = 10_000_000
    const one = (kg: number, over: Partial<Entry>) =>
      ({ ...anEntry('weight-noted', { runId: 'r', weightMg: kg * KG }), offsetMs: 0, ...over }) as Entry
    const begun = anEntry(
      'run-started',
      { runId: 'r', use: 'recover', cylinderId: 'A', scale: '', mode: 'gross', weightMg: 14 * KG },
      { at, deviceSeq: 1, seq: 1, offsetMs: 0 },
    )
    const state = foldTape([
      begun,
      one(16, { at: at + 10 * MINUTE, deviceSeq: 2, seq: 2 }),
      one(15, { at: at + 5 * MINUTE, deviceSeq: 3, seq: 3, backdated: true }),
    ])
    expect(state.lines.map((line) => line.entry.seq)).toEqual([1, 3, 2])
    expect(state.transfers[0]!.amountMg).toBe(2 * KG)
  })
  it('a time said by hand is true, however slow the phone is that it is written on', () => {
    const at = 10_000_000
    const said = anEntry(
      'note',
      { text: 'x' },
      { at, backdated: true, offsetMs: 0, seq: 2, deviceId: 'phone', deviceSeq: 2 },
    )
    const before = anEntry(
      'note',
      { text: 'y' },
      { at: at - 5 * MINUTE, offsetMs: -10 * MINUTE, seq: 1, deviceId: 'phone', deviceSeq: 1 },
    )
    // And while it waits on the phone whose offset is known.
    for (const entry of [said, { ...said, offsetMs: undefined, seq: undefined } as unknown as Entry])
      expect(foldTape([before, entry]).lines.map((line) => line.time - at)).toEqual([0, 5 * MINUTE])
  })
  it('tapes from before clocks were known stand as they said', () => {
    const old = (at: number, seq: number) => ({ ...anEntry('note', { text: 'x' }), at, seq, deviceSeq: seq })
    expect(foldTape([old(50, 1), old(20, 2)]).lines.map((line) => line.time)).toEqual([20, 50])
  })
})
