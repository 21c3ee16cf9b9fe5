import { isNearLimit } from '../cylinders'
import type { Stop } from '../programme'
import {
  type AlarmFacts,
  type PullAlarm,
  pullAlarms,
  type PullState,
  type TimeLeft,
  watch,
} from '../recovery'
import { clocksOf, type JobState, openTransfer, type Transfer } from '../tape'
import { type LinesOf, mayStillComeKg, meteringOf, type Place, pullLeft, pullOf } from '../watching'

/** Everything that calls. */
export type AlarmCode =
  | PullAlarm['code']
  | (typeof STATES)[number]
  | 'finished'
  | 'due'
  | 'instrument-lost'
  | 'hand-wanted'
  | 'too-far-open'
  | 'station-stopped'

/** States of a pull that somebody must see to. */
const STATES = ['stuck', 'cut-out', 'falling'] as const

export interface Alarm {
  code: AlarmCode
  /** Names it for good: raised once, whoever notices it, and however often. */
  cause: string
  /** A hand is needed at once; else it wants to be looked at. */
  urgent: boolean
}

/** An instrument in use that says nothing any more. */
export interface Silent {
  deviceId: string
  /** ms. */
  since: number
}

/** What a running pull stands against. */
export interface CylinderFacts extends AlarmFacts {
  /** How full it is, as a share of what it may hold; undefined: no limit is known. */
  share: number | undefined
}

export interface Judged {
  state: PullState
  kgPerS: number | undefined
  /** What has come in this pull on this scale, kg; a knock does not count. */
  movedKg: number
  left: TimeLeft | undefined
  alarms: Alarm[]
}

const URGENT: ReadonlySet<AlarmCode> = new Set<AlarmCode>([
  'limit-passed',
  'stop-line-near',
  'below-stop-line',
  'above-rating',
  'cylinder-hot',
  'may-freeze',
  'falling',
  'cut-out',
])
/** Stands at another weight than it did: stuck once more. */
const STANDS_KG = 0.05
/** A knock is one knock, however its second is reckoned. */
const KNOCK_S = 10
/** A pull that stands for so long is done, and not only slow, s. */
const DONE_S = 90

/** What a running recovery says now, and what must be called for it. */
export function judgePull(
  state: JobState,
  transfer: Transfer,
  lines: LinesOf,
  place: Place,
  facts: CylinderFacts,
): Judged {
  const pull = pullOf(state, transfer, lines, place)
  const watched = watch(pull)
  const own = transfer.transferId
  const said = watched.state
  const alarm = (code: AlarmCode, mark: string | number = ''): Alarm => ({
    code,
    cause: [code, own, mark].filter((each) => each !== '').join(':'),
    urgent: URGENT.has(code),
  })
  const standsAt = Math.round((watched.weights.at(-1)?.value ?? 0) / STANDS_KG)
  const movedKg = watched.weights.at(-1)?.value ?? 0
  const comesKg = mayStillComeKg(state, transfer, place, movedKg)
  const alarms = pullAlarms(pull, watched, { ...facts, comesKg }).map((each) =>
    each.code === 'nudged' ? alarm('nudged', Math.round(each.atS / KNOCK_S)) : alarm(each.code),
  )
  const called = (code: AlarmCode) => alarms.some((each) => each.code === code)
  if (isNearLimit(facts.share) && !called('limit-near') && !called('limit-passed'))
    alarms.push(alarm('limit-near'))
  if ((STATES as readonly string[]).includes(said.code)) alarms.push(alarm(said.code as 'stuck', standsAt))
  if (said.code === 'maybe-done' && said.flatS >= DONE_S) alarms.push(alarm('finished'))
  return {
    state: said,
    kgPerS: watched.kgPerS,
    movedKg,
    left: pullLeft(state, transfer, pull, watched, place),
    alarms,
  }
}

/** Liquid metered into a running system, and the valve too far open: each time it is so. */
export function meteringAlarms(state: JobState, transfer: Transfer, lines: LinesOf, place: Place): Alarm[] {
  const seen = meteringOf(state, transfer, lines, place)
  if (seen?.code !== 'too-much') return []
  const mark = `${state.metering!.at}:${Math.round(seen.sinceS)}`
  return [{ code: 'too-far-open', cause: `too-far-open:${transfer.transferId}:${mark}`, urgent: true }]
}

/** What is due in a job: holds and watches whose time is up. */
export function dueAlarms(state: JobState, nowMs: number): Alarm[] {
  return clocksOf(state, null)
    .filter(({ what, dueAt }) => what !== 'recover' && what !== 'charge' && dueAt !== null && dueAt <= nowMs)
    .map(({ clockId }) => ({ code: 'due', cause: `due:${clockId}`, urgent: false }))
}

/** Instruments that have gone silent while something runs that they watch. */
export function silentAlarms(state: JobState, silent: readonly Silent[]): Alarm[] {
  if (clocksOf(state, null).length === 0) return []
  return silent.map(({ deviceId, since }) => ({
    code: 'instrument-lost',
    cause: `instrument-lost:${deviceId}:${since}`,
    urgent: openTransfer(state) !== undefined,
  }))
}

/** Stops that somebody made who stood there: they call nobody. */
const MADE_HERE: ReadonlySet<string> = new Set<Stop>(['by-hand', 'answered-no'])

/** What a job's stations call for: a hand, or somebody who sees why one has stopped. */
export function stationAlarms({ programmes }: Pick<JobState, 'programmes'>): Alarm[] {
  return programmes.flatMap(({ programmeId, asks, ended }): Alarm[] => {
    if (asks) return [{ code: 'hand-wanted', cause: `hand-wanted:${asks.askId}`, urgent: true }]
    const stopped = ended?.how === 'stopped' && !MADE_HERE.has(ended.why ?? '')
    return stopped ? [{ code: 'station-stopped', cause: `station-stopped:${programmeId}`, urgent: true }] : []
  })
}

/** Those of them that nobody has raised or seen yet. */
export function notYet(wanted: readonly Alarm[], raised: ReadonlySet<string>, state: JobState): Alarm[] {
  const causes = new Set(raised)
  return wanted.filter(({ cause }) => {
    if (causes.has(cause) || Object.hasOwn(state.acknowledged, cause)) return false
    causes.add(cause)
    return true
  })
}
