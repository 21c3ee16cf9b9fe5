import { describe, expect, it } from 'vitest'
import { ENGINE_VERSION } from '../verdict'
import { wrote } from '../../testing/an-entry'
import {
  type Entry,
  foldTape,
  holdBefore,
  innerVolume,
  judgeLastHold,
  nextStep,
  openPoints,
  standingVerdict,
  targetsFor,
} from '.'

const context = {
  books: null,
  plate: { massMg: 2_000_000, sigmaMg: 20_000 },
  trade: 'stationary',
  metering: 'valve',
  plateSubcoolingK: null,
} as const
const MIN = 60_000
const id = (n: number) => `00000000-0000-4000-8000-00000000000${n}`
const PA = 0.133322368
const plan = {
  method: 'deep',
  gaugeAt: 'system',
  hose: '3/8',
  lengthM: 1.5,
  coresOut: true,
  pumpM3S: 0.0024,
  targetPa: 200 * PA,
  targetFrom: 'maker',
} as const
const described = () => wrote('job-described', { title: '', systemId: null, refrigerant: 'R-404A' }, 0)
/** A hold that begins so many minutes on, with readings so many minutes into it, micron. */
const hold = (n: number, from: number, readings: [number, number][]): Entry[] => {
  const [first, ...rest] = readings
  const [until, end] = rest.pop()!
  return [
    wrote('hold-started', { holdId: id(n), pressurePa: first![1] * PA }, from * MIN),
    ...rest.map(([m, micron]) =>
      wrote('vacuum-noted', { holdId: id(n), pressurePa: micron * PA }, (from + m) * MIN),
    ),
    wrote('hold-ended', { holdId: id(n), pressurePa: end * PA }, (from + until) * MIN),
  ]
}
const WET: [number, number][] = [
  [0, 400],
  [1, 1400],
  [2, 2100],
  [4, 2900],
  [6, 3300],
  [8, 3450],
  [10, 3520],
  [12, 3550],
]
const codes = (entries: Entry[]) => judgeLastHold(foldTape(entries), context)!.reasons.map(({ code }) => code)

describe('a hold on the tape', () => {
  it('is judged from its typed readings', () => {
    expect(codes([described(), ...hold(1, 10, WET)])[0]).toBe('dry-it')
  })
  it('from a live curve where there is one, and a note after its end counts', () => {
    const readings = Array.from({ length: 91 }, (_, i): [number, number] => [10 * i, (300 + 100 * i) * PA])
    const tape = [
      described(),
      wrote('hold-started', { holdId: id(1), pressurePa: 300 * PA }, MIN),
      wrote('hold-curve', { holdId: id(1), readings }, 16 * MIN),
      wrote('hold-ended', { holdId: id(1), pressurePa: 9300 * PA }, 16 * MIN),
    ]
    expect(codes(tape)).toContain('leak-certain')
  })
  it('a curve that came before its hold waits for it', () => {
    const early = wrote(
      'hold-curve',
      {
        holdId: id(1),
        readings: [
          [0, 50],
          [600, 52],
        ],
      },
      2 * MIN,
    )
    const state = foldTape([
      described(),
      early,
      ...hold(1, 3, [
        [0, 400],
        [5, 410],
        [11, 420],
      ]),
    ])
    expect(state.holds[0]!.curve).toHaveLength(2)
  })
  it('is compared with the hold before, unless something was repaired or charged in between', () => {
    const first = hold(1, 10, WET)
    const second = hold(
      2,
      60,
      WET.map(([m, micron]) => [m, 400 + 0.4 * (micron - 400)]),
    )
    const state = foldTape([described(), ...first, ...second])
    expect(holdBefore(state, state.holds[1]!)?.holdId).toBe(id(1))
    expect(codes([described(), ...first, ...second])).toContain('rise-fell')
    const again = hold(1, 10, WET)
    const repaired = wrote('step-done', { step: 'repair-done' }, 30 * MIN)
    const apart = foldTape([described(), ...again, repaired, ...hold(2, 60, WET)])
    expect(holdBefore(apart, apart.holds[1]!)).toBeUndefined()
  })
  it('the maker’s target is the one that is held against, its limit twice that', () => {
    const tape = [
      described(),
      wrote('vacuum-planned', plan, MIN),
      ...hold(1, 5, [
        [0, 180],
        [5, 300],
        [11, 450],
      ]),
    ]
    expect(judgeLastHold(foldTape(tape), context)!.code).toBe('hold-failed')
    // A limit of 400, and a gauge that may be 20 % off: 390 may have been 468.
    const near = [
      ...tape.slice(0, 2),
      ...hold(1, 5, [
        [0, 180],
        [5, 300],
        [11, 390],
      ]),
    ]
    expect(judgeLastHold(foldTape(near), context)!.code).toBe('too-near-to-tell')
    const timed = [
      described(),
      wrote('vacuum-planned', { ...plan, method: 'timed', targetPa: 66 }, MIN),
      wrote('hold-started', { holdId: id(1), pressurePa: 4_000 }, 5 * MIN),
      wrote('hold-ended', { holdId: id(1), pressurePa: 4_900 }, 12 * MIN),
    ]
    expect(judgeLastHold(foldTape(timed), context)!.code).toBe('held-by-manifold')
  })
})

describe('a hold that was judged a moment before it was noted', () => {
  const given = (moreS: number) => {
    const readings: [number, number][] = [
      [0, 420],
      [5, 430],
      [11, 440],
    ]
    const tape = [described(), ...hold(1, 5, readings)]
    const verdict = judgeLastHold(foldTape(tape), context)!
    const numbers = verdict.numbers.map((each) =>
      each.name === 'held-for' ? { ...each, value: each.value + moreS } : each,
    )
    const body = {
      about: 'hold',
      verdict: { ...verdict, numbers },
      engine: ENGINE_VERSION,
      tables: 1,
    } as const
    return standingVerdict(foldTape([...tape, wrote('verdict-given', body, 17 * MIN)]), 'hold', context)!
      .stale
  }
  it('is not stale for it, and is for a minute', () => {
    expect([given(0), given(-1), given(2)]).toEqual([false, false, false])
    expect(given(60)).toBe(true)
  })
})

describe('a plan that is made afterwards', () => {
  it('changes nothing for a hold that has ended, and counts for the next', () => {
    const kept = hold(1, 5, [
      [0, 420],
      [5, 600],
      [11, 640],
    ])
    const then = wrote('vacuum-planned', plan, 20 * MIN)
    const next = hold(2, 30, [
      [0, 420],
      [5, 600],
      [11, 640],
    ])
    const state = foldTape([described(), ...kept, then])
    expect(judgeLastHold(state, context)!.code).toBe('held')
    expect(judgeLastHold(foldTape([described(), ...kept, then, ...next]), context)!.code).toBe('hold-failed')
  })
})

describe('inner volume', () => {
  it('is what was planned, else 3 to 7 L for each kilogram of the plate', () => {
    expect(innerVolume({ vacuumPlan: null }, context)).toEqual({ least: 0.006, most: 0.014 })
    expect(innerVolume({ vacuumPlan: null }, { books: null, plate: null })).toBeUndefined()
  })
})

describe('nitrogen', () => {
  const test = (part: 'whole' | 'condenser', endPa: number): Entry[] => [
    described(),
    wrote('pressure-test-started', { testId: id(1), part, pressurePa: 2_501_325, tempK: 298.15 }, MIN),
    wrote('pressure-test-ended', { testId: id(1), pressurePa: endPa, tempK: 298.15 }, 61 * MIN),
  ]
  const found = (entries: Entry[]) => foldTape(entries).leakChecks.map((each) => each.found)
  it('lost is a leak; a whole circuit that held is a look without one; a part that held clears that part only', () => {
    expect(found(test('whole', 2_300_000))).toEqual([true])
    expect(found(test('whole', 2_500_000))).toEqual([false])
    expect(found(test('condenser', 2_500_000))).toEqual([])
    expect(found(test('condenser', 2_300_000))).toEqual([true])
    expect(found(test('whole', 2_700_000))).toEqual([])
  })
  it('ten seconds are no test', () => {
    const [described, start, end] = test('whole', 2_500_000)
    expect(found([described!, start!, { ...end!, at: start!.at + 10_000 }])).toEqual([])
  })
})

describe('what was taken off', () => {
  const off = wrote('taken-off', { itemId: id(1), what: 'side panel' }, MIN)
  const points = (...entries: Entry[]) => openPoints(foldTape([described(), ...entries]), context)
  it('is asked for until it is back, or said why not', () => {
    expect(points(off)).toContain('parts-back')
    expect(points(off, wrote('put-back', { itemId: id(1) }, 2 * MIN))).not.toContain('parts-back')
    expect(points(off, wrote('left-off', { itemId: id(1), reason: 'on order' }, 2 * MIN))).not.toContain(
      'parts-back',
    )
  })
})

describe('a new part', () => {
  const drier = wrote(
    'part-replaced',
    { part: 'drier', number: 'HB-1', text: '', oilMl: 45, chargeMg: 150_000 },
    MIN,
  )
  it('adds to the target from the plate, and to the oil that goes back', () => {
    const state = foldTape([described(), drier])
    expect(targetsFor(state, context).find((each) => each.basis === 'expected')?.massMg).toBe(2_150_000)
    expect(state.oil.partsMl).toBe(45)
    const struck = { entryId: drier.entryId, kind: drier.kind, body: null, reason: 'twice' }
    expect(foldTape([described(), drier, wrote('correction', struck, 2 * MIN)]).oil.partsMl).toBe(0)
  })
})

describe('next', () => {
  it('a place with a leak calls for its repair', () => {
    const tape = [
      described(),
      wrote('step-done', { step: 'repair-opened' }, MIN),
      wrote('recovery-ended', { how: 'lost' }, 2 * MIN),
      wrote('place-searched', { place: 'Shaft seal', how: 'detector', found: true, text: '' }, 3 * MIN),
    ]
    expect(nextStep(foldTape(tape))).toBe('repair')
  })
})
