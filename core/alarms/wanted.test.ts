import { describe, expect, it } from 'vitest'
import { aCourse } from '../../testing/a-course'
import { wrote } from '../../testing/an-entry'
import { type Entry, foldTape, openTransfer } from '../tape'
import type { LinesOf } from '../watching'
import { type CylinderFacts, dueAlarms, judgePull, meteringAlarms, notYet, silentAlarms } from '.'

const T0 = 1_000_000_000
const at = (seconds: number) => T0 + seconds * 1_000
const FACTS: CylinderFacts = { roomKg: 5, share: 0.3, leaking: false, ratingPa: undefined }
const NONE: LinesOf = () => []
const started = wrote(
  'run-started',
  { runId: 'r', use: 'recover', cylinderId: 'c', scale: 'S', mode: 'gross', weightMg: 12e6 },
  at(0),
)
const named = wrote('job-described', { refrigerant: 'R-410A' }, at(-60))
const weight = (seconds: number, kg: number) =>
  wrote('weight-noted', { runId: 'r', weightMg: kg * 1e6, on: started.entryId }, at(seconds))
const low = (seconds: number, barG: number) =>
  wrote('pressure-noted', { point: 'low', pressurePa: 101_325 + barG * 1e5 }, at(seconds))
function judged(entries: Entry[], nowS: number, facts: Partial<CylinderFacts> = {}) {
  const state = foldTape([named, started, ...entries])
  const place = { expected: { massMg: 3e6 }, trade: 'stationary' as const, speed: 1, nowMs: at(nowS) }
  return judgePull(state, openTransfer(state)!, NONE, place, { ...FACTS, ...facts })
}
const codes = (entries: Entry[], nowS: number, facts: Partial<CylinderFacts> = {}) =>
  judged(entries, nowS, facts).alarms.map((each) => each.code)

describe('what a running pull calls for', () => {
  const going = [weight(60, 12.5), weight(120, 13)]
  it('nothing, while all is well; how much has come, and how long it takes', () => {
    const now = judged([...going, weight(180, 13.5)], 185)
    expect(now.alarms).toEqual([])
    expect(now.movedKg).toBeCloseTo(1.5, 9)
    // 1.5 kg are still in there, of which 1.335 usually come, at half a kilogram a minute: twice 160.2 s, since without a gauge it may be liquid; 5 are gone.
    expect(now.left).toMatchObject({ kind: 'steady', leftS: expect.closeTo(315.4, 1) as number })
  })
  it('how long it takes is not said of what only creeps: the gauge near zero, and a few grams a minute', () => {
    const creeps = [low(10, 0), weight(60, 14.8), weight(120, 14.84), weight(180, 14.87), low(181, 0)]
    const now = judged(creeps, 185)
    expect(now.state.code).toBe('last-of-it')
    expect(now.left).toBeUndefined()
  })
  it('the limit, at nine tenths and when it is passed, each once', () => {
    expect(codes(going, 125, { share: 0.899 })).toEqual([])
    expect(codes(going, 125, { share: 0.9 })).toEqual(['limit-near'])
    expect(codes(going, 125, { share: 0.99, roomKg: 0.02 })).toEqual(['limit-near'])
    expect(codes(going, 125, { share: 1.01, roomKg: -0.1 })).toEqual(['limit-passed'])
  })
  it('stuck names where it stands: at another weight it is another cause', () => {
    const stuck = [low(10, 5), weight(60, 12.5), weight(120, 12.5), low(121, 5)]
    const again = [...stuck, weight(140, 12.9), weight(220, 12.9), low(221, 5)]
    const causes = [judged(stuck, 125), judged(again, 225)].map((each) => each.alarms[0]!.cause)
    expect(causes[0]).toMatch(/^stuck:r:/)
    expect(new Set(causes).size).toBe(2)
    expect(judged(stuck, 130).alarms[0]!.cause).toBe(causes[0])
  })
  it('done only after it has stood a while, and that is not urgent', () => {
    const done = [low(10, 0), weight(60, 13), weight(125, 13), low(126, 0)]
    expect(codes(done, 130)).toEqual([])
    const later = judged([...done, weight(190, 13), low(191, 0)], 195)
    expect(later.alarms).toEqual([{ code: 'finished', cause: 'finished:r', urgent: false }])
  })
  it('a leak below zero is urgent', () => {
    const below = [weight(60, 12.5), low(70, -0.3), low(80, -0.4)]
    const { alarms } = judged(below, 85, { leaking: true })
    expect(alarms[0]).toMatchObject({ code: 'below-stop-line', urgent: true })
  })
})

describe('liquid that is metered into a running system', () => {
  const charge = wrote(
    'run-started',
    { runId: 'c', use: 'charge', cylinderId: 'c', scale: 'S', mode: 'gross', weightMg: 12e6 },
    at(0),
  )
  // 4 bar with the valve still shut: at most 0.7 above.
  const begun = wrote('metering-begun', { lowPa: 501_325, nearCompressor: false }, at(10))
  const causes = (...entries: Entry[]) => {
    const state = foldTape([named, charge, ...entries])
    const place = { expected: null, trade: 'stationary' as const, speed: 1, nowMs: at(100) }
    return meteringAlarms(state, openTransfer(state)!, NONE, place).map((each) => each.cause)
  }
  it('calls when the valve is too far open, each time anew', () => {
    expect(causes(begun, low(20, 4.69))).toEqual([])
    const first = causes(begun, low(20, 4.5), low(30, 4.72))
    expect(first).toEqual([`too-far-open:c:${at(10)}:20`])
    // The needle trembles about 4.7: it was not closed meanwhile.
    expect(causes(begun, low(20, 4.5), low(30, 4.72), low(32, 4.68), low(34, 4.71))).toEqual(first)
    expect(causes(begun, low(20, 4.5), low(30, 4.72), low(40, 5))).toEqual(first)
    expect(causes(begun, low(30, 4.72), low(50, 4.2))).toEqual([])
    expect(causes(begun, low(30, 4.72), low(50, 4.2), low(70, 4.9))).not.toEqual(first)
  })
  it('and never where nothing is metered', () => expect(causes(low(20, 9))).toEqual([]))
})

describe('clocks and instruments', () => {
  it('a watch whose time is up calls once; one that runs, or was answered, does not', () => {
    const watch = wrote('watch-started', { watchId: 'w', what: 'pull', forS: 600 }, at(0))
    const state = foldTape([watch])
    expect(dueAlarms(state, at(599))).toEqual([])
    expect(dueAlarms(state, at(600))).toEqual([{ code: 'due', cause: 'due:w', urgent: false }])
    expect(dueAlarms(foldTape([watch, wrote('watch-ended', { watchId: 'w' }, at(610))]), at(700))).toEqual([])
  })
  it('an instrument that is lost is missed only while something runs', () => {
    const silent = [{ deviceId: 'd', since: at(5) }]
    expect(silentAlarms(aCourse().recover('A', 1).state(), silent)).toEqual([])
    expect(silentAlarms(foldTape([started]), silent)).toEqual([
      { code: 'instrument-lost', cause: `instrument-lost:d:${at(5)}`, urgent: true },
    ])
  })
  it('nothing calls twice for one cause, nor after somebody has seen it', () => {
    const due = { code: 'due', cause: 'due:w', urgent: false } as const
    const state = foldTape([wrote('alarm-acknowledged', { code: 'due', cause: 'due:x' }, at(0))])
    expect(notYet([due, due, { ...due, cause: 'due:x' }], new Set(), state)).toEqual([due])
    expect(notYet([due], new Set(['due:w']), state)).toEqual([])
  })
})
