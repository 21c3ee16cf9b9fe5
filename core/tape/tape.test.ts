import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { books, wrote as entry } from '../../testing/an-entry'
import {
  bookings,
  cylinderEffects,
  type Entry,
  type EntryBodies,
  foldTape,
  NewerEntryError,
  nextStep,
  onTheScale,
  reservations,
  stageProgress,
} from '.'
import { type Booking, differences } from '../ledger'

const start = (runId: string, weightMg: number, over: Partial<EntryBodies['run-started']> = {}) =>
  entry('run-started', {
    runId,
    use: 'recover',
    cylinderId: 'A',
    scale: 'S1',
    mode: 'gross',
    weightMg,
    ...over,
  })
const weight = (runId: string, weightMg: number) => entry('weight-noted', { runId, weightMg })
const end = (runId: string, weightMg: number, hoseMg = 0) => entry('run-ended', { runId, weightMg, hoseMg })
const described = entry('job-described', { systemId: 'sys', refrigerant: 'R-410A' }, 1)

describe('foldTape', () => {
  it('weighs gross and net, and follows a change of scale', () => {
    const state = foldTape([
      described,
      start('r1', 12_000_000),
      weight('r1', 13_000_000),
      entry('scale-changed', { runId: 'r1', scale: 'S2', mode: 'net', weightMg: 0 }),
      weight('r1', 700_000),
      end('r1', 1_500_000),
      start('c1', 20_000_000, { use: 'charge', cylinderId: 'B' }),
      end('c1', 17_500_000, 60_000),
      start('c2', 0, { use: 'charge', cylinderId: 'B', mode: 'net' }),
      end('c2', -500_000),
    ])
    expect(state.recoveredMg).toBe(2_500_000)
    expect(state.chargedMg).toBe(2_940_000)
    expect(state.transfers[0]!.segments.at(-1)!.scale).toBe('S2')
  })

  it('takes a minus on a zeroed scale or none in tapes of version 1', () => {
    const charged = (weightMg: number) =>
      foldTape([
        { ...start('c', 0, { use: 'charge', mode: 'net' }), version: 1 },
        { ...end('c', weightMg), version: 1 },
      ]).chargedMg
    expect(charged(-800_000)).toBe(800_000)
    expect(charged(800_000)).toBe(800_000)
  })

  it('applies the last correction, and strikes what is corrected to nothing', () => {
    const started = start('r1', 12_000_000)
    const slip = weight('r1', 36_000_000)
    const ended = end('r1', 15_000_000)
    const tape = [started, slip, ended]
    expect(
      foldTape([
        ...tape,
        entry('correction', { entryId: slip.entryId, kind: 'weight-noted', body: null, reason: 'slip' }),
      ]).lines[1]!.struck,
    ).toBe(true)
    const twice = foldTape([
      ...tape,
      entry('correction', {
        entryId: ended.entryId,
        kind: 'run-ended',
        body: { runId: 'r1', weightMg: 14_000_000, hoseMg: 0 },
        reason: 'a',
      }),
      entry('correction', {
        entryId: ended.entryId,
        kind: 'run-ended',
        body: { runId: 'r1', weightMg: 14_500_000, hoseMg: 0 },
        reason: 'b',
      }),
    ])
    expect(twice.recoveredMg).toBe(2_500_000)
  })

  it('flags what does not fit instead of refusing it', () => {
    expect(foldTape([weight('nowhere', 1)]).flags).toEqual(['weight-without-start'])
    expect(foldTape([entry('hold-ended', { holdId: 'x', pressurePa: 1 })]).flags).toEqual([
      'hold-without-start',
    ])
    expect(foldTape([start('r', 1), entry('job-closed', {}), weight('r', 5)]).flags).toEqual([
      'noted-after-close',
    ])
    expect(
      foldTape([entry('correction', { entryId: 'x', kind: 'note', body: null, reason: '' })]).flags,
    ).toEqual(['correction-without-entry'])
  })

  it('refuses a tape from a newer version', () => {
    expect(() => foldTape([{ ...described, version: 2 }])).toThrow(NewerEntryError)
  })

  it('knows status, waiting and reopening', () => {
    const waiting = [described, entry('job-waiting', { what: 'compressor' })]
    expect(foldTape(waiting)).toMatchObject({ status: 'waiting', waitingFor: 'compressor' })
    expect(foldTape([...waiting, entry('job-resumed', {})])).toMatchObject({ status: 'open', waitingFor: '' })
    const closed = [...waiting, entry('job-closed', {})]
    expect(foldTape(closed)).toMatchObject({ status: 'closed', stage: 'close' })
    const reopened = foldTape([...closed, entry('job-reopened', { reason: 'forgot' })])
    expect(reopened.status).toBe('open')
    expect(reopened.closedAt).toBeUndefined()
  })
})

describe('nextStep', () => {
  it('walks the usual order', () => {
    const tape: Entry[] = []
    // Each a quarter of an hour after the one before: long enough for a hold.
    const then = (one: Entry) => {
      tape.push({ ...one, at: (tape.length + 1) * 900_000 })
      return nextStep(foldTape(tape))
    }
    expect(then(entry('job-described', { title: 'van' }))).toBe('describe-system')
    expect(then(entry('job-described', { refrigerant: 'R-134a' }))).toBe('choose-cylinder')
    expect(then(entry('cylinder-chosen', { cylinderId: 'A', use: 'recover', massMg: null }))).toBe(
      'start-recovery',
    )
    expect(then(start('r', 12_000_000))).toBe('note-weight')
    expect(then(end('r', 13_000_000))).toBe('end-recovery')
    expect(then(entry('recovery-ended', { how: 'emptied' }))).toBe('check-leaks')
    expect(then(entry('leak-checked', { method: 'nitrogen', found: false, text: '' }))).toBe('evacuate')
    expect(then(entry('vacuum-noted', { pressurePa: 60 }))).toBe('hold-vacuum')
    expect(then(entry('hold-started', { holdId: 'h', pressurePa: 60 }))).toBe('watch-hold')
    expect(then(entry('hold-ended', { holdId: 'h', pressurePa: 80 }))).toBe('set-target')
    expect(then(entry('target-set', { massMg: 1_000_000, toleranceMg: 15_000, basis: 'recovered' }))).toBe(
      'choose-charge-cylinder',
    )
    expect(then(entry('cylinder-chosen', { cylinderId: 'B', use: 'charge', massMg: 1_000_000 }))).toBe(
      'start-charge',
    )
    expect(then(start('c', 9_000_000, { use: 'charge', cylinderId: 'B' }))).toBe('charge-on')
    expect(then(end('c', 8_000_000))).toBe('note-readings')
    expect(then(entry('pressure-noted', { point: 'low', pressurePa: 3e5 }))).toBe('note-readings')
    tape.push({
      ...entry('temperature-noted', { point: 'suction', tempK: 283 }),
      at: tape.length * 900_000 + 5_000,
    })
    expect(nextStep(foldTape(tape))).toBe('close-job')
    expect(then(entry('job-closed', {}))).toBe('nothing')
    expect(stageProgress(foldTape(tape))).toMatchObject({
      recover: 'done',
      evacuate: 'done',
      charge: 'done',
      oil: 'untouched',
      close: 'done',
    })
  })
  it('goes on to the leak test when nothing came out', () => {
    expect(nextStep(foldTape([described, entry('recovery-ended', { how: 'emptied' })]))).toBe('check-leaks')
  })
})

describe('bookings', () => {
  const net = (list: Booking[], kind: string, id: string | null) =>
    list.reduce(
      (sum, b) =>
        sum +
        (b.to.kind === kind && b.to.id === id ? b.massMg : 0) -
        (b.from.kind === kind && b.from.id === id ? b.massMg : 0),
      0,
    )

  it('brings from outside what the books did not have, and loses what they still had', () => {
    const tape = [
      described,
      start('r', 12_000_000),
      end('r', 14_000_000),
      entry('recovery-ended', { how: 'emptied' }),
    ]
    const more = bookings(foldTape(tape), books(500_000))
    expect(more.map((b) => [b.from.kind, b.to.kind, b.massMg])).toEqual([
      ['outside', 'system', 1_500_000],
      ['system', 'cylinder', 2_000_000],
    ])
    const less = bookings(foldTape(tape), books(2_600_000))
    expect(less.map((b) => [b.from.kind, b.to.kind, b.massMg])).toEqual([
      ['system', 'cylinder', 2_000_000],
      ['system', 'lost', 600_000],
    ])
  })
  it('books a run when it ends, or when the job stands still', () => {
    const running = [described, start('r', 12_000_000), weight('r', 13_000_000)]
    expect(bookings(foldTape(running))).toEqual([])
    expect(net(bookings(foldTape([...running, entry('job-waiting', { what: 'x' })])), 'cylinder', 'A')).toBe(
      1_000_000,
    )
  })
  it('keeps the hose out of the system', () => {
    const list = bookings(
      foldTape([described, start('c', 9_000_000, { use: 'charge' }), end('c', 8_000_000, 40_000)]),
    )
    expect([net(list, 'cylinder', 'A'), net(list, 'system', 'sys'), net(list, 'rig', null)]).toEqual([
      -1_000_000, 960_000, 40_000,
    ])
  })
  it('books from outside while nobody knows the system', () => {
    const list = bookings(foldTape([start('r', 1_000_000), end('r', 2_000_000)]))
    expect(list.map((b) => [b.from.kind, b.to.kind])).toEqual([['outside', 'cylinder']])
  })
})

describe('reservations', () => {
  const chosen = entry('cylinder-chosen', { cylinderId: 'A', use: 'recover', massMg: 3_000_000 })
  const room = (...more: Entry[]) => reservations(foldTape([described, chosen, ...more]))
  it('keeps room for what is expected, less what the books already have in it', () => {
    expect(room()).toEqual([{ cylinderId: 'A', roomMg: 3_000_000 }])
    const run = [start('r', 12_000_000), weight('r', 13_000_000)]
    expect(room(...run)).toEqual([{ cylinderId: 'A', roomMg: 3_000_000 }])
    const ended = [...run, end('r', 13_500_000)]
    expect(room(...ended)).toEqual([{ cylinderId: 'A', roomMg: 1_500_000 }])
    expect(room(...ended, entry('recovery-ended', { how: 'emptied' }))).toEqual([
      { cylinderId: 'A', roomMg: 0 },
    ])
  })
  it('keeps more than was planned while more is coming, and a cylinder nobody chose', () => {
    expect(room(start('r', 12_000_000), weight('r', 16_000_000))).toEqual([
      { cylinderId: 'A', roomMg: 4_000_000 },
    ])
    expect(reservations(foldTape([start('r', 0, { cylinderId: 'B' }), weight('r', 500_000)]))).toEqual([
      { cylinderId: 'B', roomMg: 500_000 },
    ])
  })
  it('lets go when the job ends, and holds on while it waits', () => {
    expect(room(entry('job-waiting', { what: 'compressor' }))).toHaveLength(1)
    expect(room(entry('job-closed', {}))).toEqual([])
    expect(room(entry('job-cancelled', { reason: '' }))).toEqual([])
  })
})

describe('cylinderEffects', () => {
  const tape = [described, start('r', 1_000_000), end('r', 2_000_000)]
  const effect = (refrigerant: string | null, condition: 'clean' | 'used' = 'clean', more: Entry[] = []) =>
    cylinderEffects(foldTape([...tape, ...more]), new Map([['A', { refrigerant, condition }]]))
  it('names an empty one, and marks a wrong gas as mixed', () => {
    expect(effect(null)).toEqual([{ cylinderId: 'A', refrigerant: 'R-410A', condition: 'used' }])
    expect(effect('R-22')).toEqual([{ cylinderId: 'A', condition: 'mixed' }])
    expect(effect('R-410A', 'used')).toEqual([])
    expect(
      effect('R-410A', 'used', [entry('gas-judged', { cylinderId: 'A', condition: 'doubtful' })]),
    ).toEqual([{ cylinderId: 'A', condition: 'doubtful' }])
  })
})

describe('onTheScale', () => {
  const cylinder = { tareMg: 12_000_000, contentsBeforeMg: 3_000_000, grossLimitMg: 29_000_000 }
  it('knows the gross weight either way', () => {
    const gross = foldTape([start('r', 15_040_000), weight('r', 17_040_000)]).transfers[0]!
    expect(onTheScale(gross, cylinder)).toEqual({
      grossMg: 17_040_000,
      limitMg: 29_000_000,
      leftMg: 11_960_000,
      startOffMg: 40_000,
    })
    const zeroed = foldTape([start('r', 0, { mode: 'net' }), weight('r', 2_000_000)]).transfers[0]!
    expect(onTheScale(zeroed, cylinder)).toEqual({
      grossMg: 17_000_000,
      limitMg: 29_000_000,
      leftMg: 12_000_000,
    })
  })
})

/** Random tapes: runs on three cylinders, in any order, some corrected, some sent twice. */
const randomTape = fc
  .array(
    fc.record({
      cylinderId: fc.constantFrom('A', 'B', 'C'),
      use: fc.constantFrom('recover' as const, 'charge' as const),
      first: fc.integer({ min: 0, max: 20_000_000 }),
      last: fc.integer({ min: 0, max: 20_000_000 }),
      corrected: fc.option(fc.oneof(fc.integer({ min: 0, max: 20_000_000 }), fc.constant('strike' as const))),
      moved: fc.option(fc.constantFrom('A', 'B', 'C')),
      emptied: fc.boolean(),
    }),
    { maxLength: 8 },
  )
  .map((runs) =>
    runs.flatMap((run, i) => {
      const runId = `r${i}`
      const at = i * 10
      const entries = [
        entry(
          'run-started',
          { runId, use: run.use, cylinderId: run.cylinderId, scale: 'S', mode: 'gross', weightMg: run.first },
          at,
        ),
        entry('run-ended', { runId, weightMg: run.last, hoseMg: 0 }, at + 1),
      ]
      if (run.corrected === 'strike')
        entries.push(
          entry(
            'correction',
            { entryId: entries[1]!.entryId, kind: 'run-ended', body: null, reason: '' },
            at + 2,
          ),
        )
      else if (run.corrected !== null)
        entries.push(
          entry(
            'correction',
            {
              entryId: entries[1]!.entryId,
              kind: 'run-ended',
              body: { runId, weightMg: run.corrected, hoseMg: 0 },
              reason: '',
            },
            at + 2,
          ),
        )
      if (run.moved)
        entries.push(
          entry(
            'correction',
            {
              entryId: entries[0]!.entryId,
              kind: 'run-started',
              body: {
                runId,
                use: run.use,
                cylinderId: run.moved,
                scale: 'S',
                mode: 'gross',
                weightMg: run.first,
              },
              reason: '',
            },
            at + 3,
          ),
        )
      if (run.emptied) entries.push(entry('recovery-ended', { how: 'emptied' }, at + 4))
      return entries
    }),
  )
  .map((entries) => [described, ...entries])

const balances = (list: Booking[]) => {
  const sums = new Map<string, number>()
  for (const b of list) {
    for (const [p, sign] of [
      [b.from, -1],
      [b.to, 1],
    ] as const) {
      const key = `${p.kind}:${p.id ?? ''}`
      sums.set(key, (sums.get(key) ?? 0) + sign * b.massMg)
    }
  }
  return sums
}
const sorted = (sums: Map<string, number>) =>
  [...sums].filter(([, v]) => v !== 0).sort(([a], [b]) => (a < b ? -1 : 1))

describe('over random tapes', () => {
  it('any interleaving with duplicates folds to the same state', () => {
    fc.assert(
      fc.property(
        randomTape.chain((tape) =>
          fc.tuple(
            fc.constant(tape),
            fc.shuffledSubarray([...tape, ...tape], { minLength: tape.length * 2 }),
          ),
        ),
        ([tape, shuffled]) => {
          expect(foldTape(shuffled)).toEqual(foldTape(tape))
        },
      ),
    )
  })

  it('mass is conserved, moves are positive, and no system goes below nothing', () => {
    fc.assert(
      fc.property(randomTape, fc.integer({ min: 0, max: 5_000_000 }), (tape, beforeMg) => {
        const state = foldTape(tape)
        const list = bookings(state, books(beforeMg))
        for (const b of list) expect(b.massMg).toBeGreaterThan(0)
        const sums = balances(list)
        expect([...sums.values()].reduce((a, b) => a + b, 0)).toBe(0)
        expect(beforeMg + (sums.get('system:sys') ?? 0)).toBeGreaterThanOrEqual(0)
        const intoCylinders = ['A', 'B', 'C'].reduce((sum, id) => sum + (sums.get(`cylinder:${id}`) ?? 0), 0)
        const ended = state.transfers.filter((r) => r.endedAt !== undefined)
        expect(intoCylinders).toBe(
          ended.reduce((sum, r) => sum + (r.use === 'recover' ? r.amountMg : -r.amountMg), 0),
        )
      }),
    )
  })

  it('booking differences after every arrival, in any order, ends at the bookings of the whole tape', () => {
    fc.assert(
      fc.property(
        randomTape.chain((tape) =>
          fc.tuple(fc.constant(tape), fc.shuffledSubarray(tape, { minLength: tape.length })),
        ),
        ([tape, arrivals]) => {
          const booked: Booking[] = []
          arrivals.forEach((_, i) =>
            booked.push(
              ...differences(booked, bookings(foldTape(arrivals.slice(0, i + 1)), books(1_000_000))),
            ),
          )
          const wanted = bookings(foldTape(tape), books(1_000_000))
          expect(differences(booked, wanted)).toEqual([])
          expect(sorted(balances(booked))).toEqual(sorted(balances(wanted)))
        },
      ),
    )
  })
})
