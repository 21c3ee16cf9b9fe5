import { describe, expect, it } from 'vitest'
import { aCourse } from '../../testing/a-course'
import { wrote } from '../../testing/an-entry'
import { clocksOf, type Entry, foldTape } from '.'

const KG = 1_000_000
const MIN = 60_000
const plate = (kg: number) => ({ books: null, plate: { massMg: kg * KG, sigmaMg: 0.01 * kg * KG } })
const start = (use: 'recover' | 'charge', kg: number, minute: number) =>
  wrote(
    'run-started',
    { runId: use, use, cylinderId: 'A', scale: '', mode: 'gross', weightMg: kg * KG },
    minute * MIN,
  )
const weight = (use: string, kg: number, minute: number) =>
  wrote('weight-noted', { runId: use, weightMg: Math.round(kg * KG) }, minute * MIN)
const clocks = (entries: Entry[], reference: Parameters<typeof clocksOf>[1] = null) =>
  clocksOf(foldTape(entries), reference)

describe('what runs in a job', () => {
  it('a hold is due after ten minutes, and gone once it has ended', () => {
    const holding = aCourse().about().recover('A', 3).end('emptied').holding(450)
    const [clock] = clocksOf(holding.state(), null)
    const startedAt = holding.state().holds[0]!.startedAt
    expect(clock).toMatchObject({ what: 'hold', startedAt, dueAt: startedAt + 600_000 })
    expect(clocksOf(aCourse().about().recover('A', 3).end('emptied').hold(450, 460).state(), null)).toEqual(
      [],
    )
  })
  it('a watch is due when its time is up; the one due first stands first', () => {
    const entries = [
      wrote('watch-started', { watchId: 'n', what: 'nitrogen', forS: 3600 }, 0),
      wrote('watch-started', { watchId: 'p', what: 'pull', forS: 600 }, 5 * MIN),
    ]
    expect(clocks(entries)).toEqual([
      { clockId: 'p', what: 'pull', startedAt: 5 * MIN, dueAt: 15 * MIN },
      { clockId: 'n', what: 'nitrogen', startedAt: 0, dueAt: 60 * MIN },
    ])
    expect(clocks([...entries, wrote('watch-ended', { watchId: 'p' }, 16 * MIN)])).toHaveLength(1)
  })
  it('an end that arrives before its start counts all the same', () => {
    const ended = wrote('watch-ended', { watchId: 'p' }, 1 * MIN)
    const begun = wrote('watch-started', { watchId: 'p', what: 'pull', forS: 600 }, 2 * MIN)
    expect(clocks([ended, begun])).toEqual([])
  })
  it('one that is struck never ran', () => {
    const begun = wrote('watch-started', { watchId: 'p', what: 'pull', forS: 600 }, 0)
    const struck = wrote('correction', {
      entryId: begun.entryId,
      kind: 'watch-started',
      body: null,
      reason: '',
    })
    expect(clocks([begun, struck])).toEqual([])
  })
  it('nothing runs in a job that is closed', () => {
    const begun = wrote('watch-started', { watchId: 'p', what: 'pull', forS: 600 }, 0)
    expect(clocks([begun, wrote('job-closed', {}, 2 * MIN)])).toEqual([])
  })
})

describe('how long a transfer takes', () => {
  // 1 kg a minute, 2 of 3 kg are out: 1 - 0.14 - 0.15 kg surely come, 42.6 s; 0.835 kg at most six times as long: it may be liquid.
  const near = (seconds: number) => expect.closeTo(2 * MIN + seconds * 1_000, -2) as number
  const RANGE = { dueAt: near(42.6), latestAt: near(300.6) }
  const steady = [start('recover', 14, 0), weight('recover', 15, 1), weight('recover', 16, 2)]
  it('while it is steady, by what should still come', () => {
    expect(clocks(steady, plate(3))).toEqual([
      { clockId: 'recover', what: 'recover', startedAt: 0, ...RANGE },
    ])
  })
  it('what an earlier pull took is not waited for again', () => {
    const earlier = [
      wrote(
        'run-started',
        { runId: 'a', use: 'recover', cylinderId: 'B', scale: '', mode: 'gross', weightMg: 20 * KG },
        -20 * MIN,
      ),
      wrote('run-ended', { runId: 'a', weightMg: 21 * KG }, -10 * MIN),
    ]
    // 1 + 2 of 4 kg: 1 kg left again.
    expect(clocks([...earlier, ...steady], plate(4))[0]).toMatchObject(RANGE)
  })
  it('without a plate only its beginning is told, and with two weights nothing more', () => {
    expect(clocks(steady, { books: null, plate: null })[0]).toMatchObject({ dueAt: null })
    expect(clocks(steady.slice(0, 2), plate(3))[0]).toMatchObject({ dueAt: null })
  })
  it('charging: to the target', () => {
    const entries = [
      ...[start('recover', 14, -9), wrote('run-ended', { runId: 'recover', weightMg: 17 * KG }, -5 * MIN)],
      wrote('recovery-ended', { how: 'emptied' }, -4 * MIN),
      wrote('target-set', { massMg: 3 * KG, toleranceMg: 30_000, basis: 'typed' }, -3 * MIN),
      start('charge', 20, 0),
      weight('charge', 19.5, 1),
      weight('charge', 19, 2),
    ]
    // 2 kg to go at 0.5 kg a minute: 4 minutes at the least, 12 at the most.
    expect(clocks(entries, plate(3))).toMatchObject([{ what: 'charge', dueAt: 6 * MIN, latestAt: 14 * MIN }])
  })
})
