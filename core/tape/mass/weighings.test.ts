// What the scale saw: every expected value derived by hand beside it.
import { describe, expect, it } from 'vitest'
import { wrote } from '../../../testing/an-entry'
import {
  bookings,
  doubtOf,
  movedWhen,
  type Entry,
  type EntryBodies,
  foldTape,
  netMg,
  stopReadingMg,
  type Transfer,
} from '..'

const KG = 1_000_000
type Start = EntryBodies['run-started']
const start = (over: Partial<Start>): Entry =>
  wrote('run-started', {
    runId: 'r',
    use: 'recover',
    cylinderId: 'A',
    scale: 'S1',
    mode: 'gross',
    weightMg: 14 * KG,
    ...over,
  })
const weight = (kg: number) => wrote('weight-noted', { runId: 'r', weightMg: Math.round(kg * KG) })
const change = (kg: number, over: Partial<EntryBodies['scale-changed']> = {}) =>
  wrote('scale-changed', { runId: 'r', scale: 'S2', mode: 'gross', weightMg: Math.round(kg * KG), ...over })
const end = (kg: number) => wrote('run-ended', { runId: 'r', weightMg: Math.round(kg * KG) })
const fold = (...entries: Entry[]): Transfer => foldTape(entries).transfers[0]!
const inVersion1 = (entry: Entry): Entry => ({ ...entry, version: 1 })

describe('a change of scale', () => {
  it('from gross to gross: the difference between the two counts, and the limit goes by the newest', () => {
    // 14 -> 15, the scale fails, the other reads 17.0, later 17.2.
    const transfer = fold(start({}), weight(15), change(17), weight(17.2))
    expect(transfer.amountMg).toBe(3.2 * KG)
    expect(transfer.grossMg).toBe(17.2 * KG)
  })
  it('with the valve shut between: the gap is how far the scales disagree', () => {
    const transfer = fold(start({}), weight(15), change(15.3, { valveShut: true }), weight(16.3))
    expect(transfer.amountMg).toBe(2 * KG)
    expect(transfer.gaps).toEqual([{ segment: 1, gapMg: 0.3 * KG }])
    expect(transfer.grossMg).toBe(16.3 * KG)
  })
  it('from net to gross: gross less tare less what was in it before', () => {
    // Tare 12, books 4: 16 gross at the start. 1.0 in on the zeroed scale, the other reads 17.4, then 17.5.
    const transfer = fold(
      start({ mode: 'net', weightMg: 0, bookedMg: 16 * KG }),
      weight(1),
      change(17.4),
      weight(17.5),
    )
    expect(transfer.amountMg).toBe(1.5 * KG)
    expect(transfer.grossMg).toBe(17.5 * KG)
  })
  it('from net to gross without tare and books: only what each scale saw', () => {
    const transfer = fold(start({ mode: 'net', weightMg: 0 }), weight(1), change(17.4), weight(17.9))
    expect(transfer.amountMg).toBe(1.5 * KG)
  })
  it('from gross to a zeroed scale goes on from the last reading', () => {
    const transfer = fold(start({}), weight(15), change(0, { mode: 'net' }), weight(0.7))
    expect([transfer.amountMg, transfer.grossMg]).toEqual([1.7 * KG, 15.7 * KG])
  })
  it('knows a difference over two scales less well', () => {
    // One scale of 5 g: 3.06 g. Two: 14.47 g, and 3.06 of what moved on the second.
    expect(fold(start({}), weight(15)).sigmaMg).toBe(3_062)
    expect(fold(start({}), weight(15), change(17), weight(17.2)).sigmaMg).toBe(14_790)
    expect(fold(start({ divisionMg: 1_000 }), weight(15)).sigmaMg).toBe(612)
  })
  it('with the valve open, and no gross weight to go by: what may have passed meanwhile is in its doubt', () => {
    const MIN = 60_000
    const at = (entry: Entry, minutes: number): Entry => ({ ...entry, at: minutes * MIN })
    const after = (noted: boolean, over: Partial<EntryBodies['scale-changed']>) => {
      const before = [at(start({}), 0), ...(noted ? [at(weight(15), 1)] : [])]
      return fold(...before, at(change(15.6, over), 1.5)).sigmaMg
    }
    const net = { mode: 'net', weightMg: 0 } as const
    // 1 kg in the first minute, half a minute between the scales: 0.5 kg, beside the 3.06 g of the scale itself.
    expect(after(true, net)).toBe(500_009)
    expect(after(true, { ...net, valveShut: true })).toBe(3_062)
    // Nothing was noted since it began: a minute and a half of the fastest hose, 15 kg a minute.
    expect(after(false, net)).toBe(22_500_000)
    // A gross weight afterwards says it.
    expect(after(true, {})).toBe(14_470)
  })
  it('a weight that was noted on the first scale counts there, though it arrives after the change', () => {
    const begun = start({ mode: 'net', weightMg: 0 })
    const late = wrote('weight-noted', { runId: 'r', weightMg: 1.2 * KG, on: begun.entryId })
    const transfer = fold(
      begun,
      weight(1),
      change(0, { mode: 'net' }),
      { ...late, at: 1e9, backdated: true },
      weight(0.5),
    )
    expect(transfer.amountMg).toBe(1.7 * KG)
  })
})

describe('a zeroed scale', () => {
  const charge = { use: 'charge', mode: 'net', weightMg: 0 } as const
  it('keeps its sign: +0.05 to -0.80 while charging is 0.85', () => {
    expect(fold(start({ ...charge, weightMg: 0.05 * KG }), end(-0.8)).amountMg).toBe(0.85 * KG)
    expect(fold(start({ ...charge, weightMg: 0.05 * KG }), end(-0.8)).grossMg).toBeNull()
  })
  it('names gas that flows back, and old tapes wrote the minus or did not', () => {
    expect(fold(start(charge), end(0.8)).amountMg).toBe(-0.8 * KG)
    expect(foldTape([start(charge), end(0.8)]).flags).toEqual(['backflow'])
    expect(fold(inVersion1(start(charge)), inVersion1(end(0.8))).amountMg).toBe(0.8 * KG)
    expect(fold(inVersion1(start(charge)), inVersion1(end(-0.8))).amountMg).toBe(0.8 * KG)
    expect(fold(inVersion1(start({ ...charge, weightMg: 0.05 * KG })), inVersion1(end(-0.8))).amountMg).toBe(
      0.85 * KG,
    )
  })
})

describe('a transfer', () => {
  it('of a recovery has no hose keep: what the scale saw go in is in the cylinder', () => {
    const ended = wrote('run-ended', { runId: 'r', weightMg: 15 * KG, hoseMg: 40_000 })
    const state = foldTape([start({}), inVersion1(ended)])
    expect(netMg(state.transfers[0]!)).toBe(KG)
    expect(bookings(state).map((b) => [b.from.kind, b.to.kind, b.massMg])).toEqual([
      ['outside', 'cylinder', KG],
    ])
  })
  it('is over with its end: a weight that comes later is flagged and does not count', () => {
    const state = foldTape([start({}), end(15), weight(19)])
    expect(state.transfers[0]!.amountMg).toBe(KG)
    expect(state.flags).toEqual(['weight-after-end'])
  })
  it('is found by its id, whatever order the times are in', () => {
    const entries = [start({}), weight(15), end(16)]
    const [first, second, third] = entries.map((entry, i) => ({ ...entry, deviceId: `d${i}` }) as Entry)
    const state = foldTape([
      { ...first!, at: 9_000 },
      { ...second!, at: 5_000 },
      { ...third!, at: 1_000 },
    ])
    expect(state.transfers[0]).toMatchObject({ amountMg: 2 * KG, endedAt: 1_000 })
  })
  it('two at once on one cylinder are flagged', () => {
    const second = () =>
      wrote('run-started', {
        runId: 'r2',
        use: 'charge',
        cylinderId: 'A',
        scale: '',
        mode: 'gross',
        weightMg: 14 * KG,
      })
    expect(foldTape([start({}), second()]).flags).toEqual(['two-at-once'])
    expect(foldTape([start({}), end(15), second()]).flags).toEqual([])
  })
  it('keeps its sums while the weighings of a long one are thinned', () => {
    const many = Array.from({ length: 3_000 }, (_, i) => weight(14 + i / 1000))
    const transfer = fold(start({}), ...many, end(17.5))
    expect(transfer.amountMg).toBe(3.5 * KG)
    expect(transfer.weighings.length).toBeLessThan(260)
    expect(transfer.weighings[0]!.weightMg).toBe(14 * KG)
    expect(transfer.weighings.at(-1)!.weightMg).toBe(17.5 * KG)
  })
})

describe('the stop weight', () => {
  const emptied = wrote('recovery-ended', { how: 'emptied' })
  const target = wrote('target-set', { massMg: 3 * KG, toleranceMg: 30_000, basis: 'typed' })
  const stop = (...entries: Entry[]) => {
    const state = foldTape([emptied, target, ...entries])
    return stopReadingMg(state, state.transfers.at(-1)!)
  }
  it('counts what the hose will keep, on a gross scale, a zeroed one, and after a change', () => {
    const charge = { use: 'charge', hoseMg: 50_000 } as const
    expect(stop(start({ ...charge, weightMg: 20 * KG }))).toBe(16.95 * KG)
    expect(stop(start({ ...charge, weightMg: 20 * KG }), weight(19))).toBe(16.95 * KG)
    expect(stop(start({ ...charge, mode: 'net', weightMg: 0 }), weight(-1))).toBe(-3.05 * KG)
    // 1.0 went in on the first scale; the second was zeroed then.
    expect(stop(start({ ...charge, weightMg: 20 * KG }), weight(19), change(0, { mode: 'net' }))).toBe(
      -2_050_000,
    )
    // Another gross scale reads 18.9 at once: 1.1 has left the cylinder.
    expect(stop(start({ ...charge, weightMg: 20 * KG }), weight(19), change(18.9))).toBe(16.95 * KG)
  })
  it('goes on from what an earlier charge put in', () => {
    const first = [
      wrote('run-started', {
        runId: 'r0',
        use: 'charge',
        cylinderId: 'B',
        scale: '',
        mode: 'gross',
        weightMg: 9 * KG,
      }),
      wrote('run-ended', { runId: 'r0', weightMg: 8 * KG, hoseMg: 40_000 }),
    ]
    // 0.96 is in; 2.04 to go.
    expect(stop(...first, start({ use: 'charge', weightMg: 20 * KG }))).toBe(17.96 * KG)
  })
})

describe('which way a scale counts', () => {
  const moved = (over: Partial<Start>, readKg: number, ...kgs: number[]) => {
    const { use, segments } = fold({ ...start(over) }, ...kgs.map(weight))
    return movedWhen(use, segments.at(-1)!, Math.round(readKg * KG)) / KG
  }
  it('up while gas is recovered, down while it is charged, below zero where it was zeroed', () => {
    expect(moved({}, 14.5)).toBeCloseTo(0.5, 9)
    expect(moved({ use: 'charge', weightMg: 20 * KG }, 19.25)).toBeCloseTo(0.75, 9)
    expect(moved({ use: 'charge', mode: 'net', weightMg: 0 }, -0.75)).toBeCloseTo(0.75, 9)
    // It has drifted up: that is nothing that went in.
    expect(moved({ use: 'charge', mode: 'net', weightMg: 0 }, -0.5, 0.01)).toBeCloseTo(0.5, 9)
    expect(moved({ use: 'charge', mode: 'net', weightMg: 0 }, 0.01)).toBeCloseTo(-0.01, 9)
  })
})

describe('doubtOf', () => {
  const minute = 60_000
  const tape = (over: Partial<Start>, ...kgs: number[]) => {
    const first = start(over)
    return fold(
      { ...first, at: 0 },
      ...kgs.map((kg, i) => ({ ...weight(kg), at: (i + 1) * minute, backdated: true }) as Entry),
    )
  }
  const next = (transfer: Transfer, kg: number, minutes = 1) =>
    doubtOf(transfer, { at: transfer.weighings.at(-1)!.at + minutes * minute, weightMg: Math.round(kg * KG) })
  it('is none while it goes on as before', () => {
    expect(next(tape({}, 14.4, 14.8), 15.1)).toBeUndefined()
    expect(next(tape({}, 14.4, 14.8), 14.79)).toBeUndefined()
    expect(next(tape({}, 14.4, 14.8), 16.1, 5)).toBeUndefined()
  })
  it('sees a weight go the wrong way', () => {
    expect(next(tape({}, 14.4, 14.8), 14.7)).toBe('wrong-way')
    expect(next(tape({ use: 'charge' }, 13.6, 13.2), 13.4)).toBe('wrong-way')
  })
  it('sees a jump that the rate does not explain', () => {
    // 0.4 kg a minute so far: 4 times that is 1.6.
    expect(next(tape({}, 14.4, 14.8), 16.3)).toBeUndefined()
    expect(next(tape({}, 14.4, 14.8), 16.5)).toBe('jump')
    expect(next(tape({}), 36)).toBe('jump')
    // However long it takes: what was fast once is not forgotten when the middle of a long tape is let go.
    const kgs = [14.4, ...Array.from({ length: 400 }, (_, i) => 14.4 + (i + 1) / 100)]
    expect(next(tape({}, ...kgs), 19.9)).toBeUndefined()
    expect(next(tape({}, ...kgs), 20.1)).toBe('jump')
    // After a night nobody knows the rate.
    const pulled = fold({ ...start({}), at: 0 }, {
      ...weight(14.4),
      at: 600 * minute,
      backdated: true,
    } as Entry)
    expect(next(pulled, 16.5)).toBeUndefined()
  })
  it('sees a zeroed scale that was zeroed again', () => {
    expect(next(tape({ mode: 'net', weightMg: 0 }, 0.8, 1.4), 0)).toBe('zeroed-again')
    expect(next(tape({ mode: 'net', weightMg: 0, use: 'charge' }, -0.8, -1.4), 0.005)).toBe('zeroed-again')
  })
  it('sees a minus that is missing, and a recovery that would be negative by kilograms', () => {
    expect(next(tape({ mode: 'net', weightMg: 0, use: 'charge' }), 0.8)).toBe('minus-missing')
    expect(next(tape({}, 15), 1.5)).toBe('negative-in-all')
  })
  it('stands beside the weighing on the tape', () => {
    expect(fold(start({}), weight(15), weight(14.6)).weighings.at(-1)).toMatchObject({ doubt: 'wrong-way' })
  })
})
