import { HOLD_RULE, holdPassed, type HoldVerdict, judgeHold } from '../../vacuum'
import type { Chapter, KindRules } from '../chapter'
import { DEEP_VACUUM_PA, openedAt } from '../episodes'
import type { JobState } from '../state'

export interface EvacuationBodies {
  'vacuum-noted': { pressurePa: number; holdId?: string }
  /** The pump is valved off. */
  'hold-started': { holdId: string; pressurePa: number }
  'hold-ended': { holdId: string; pressurePa: number }
}

export interface Hold {
  holdId: string
  startedAt: number
  endedAt?: number
  readings: { at: number; pressurePa: number }[]
}

export interface EvacuationSlice {
  vacuum: { at: number; value: number }[]
  /** When the gauge showed that a pump is at work. */
  deepVacuums: { at: number; order: number }[]
  holds: Hold[]
  /** Readings and ends of holds that came before their start. */
  earlyHolds: { holdId: string; at: number; pressurePa: number; ends: boolean }[]
}

/** Beyond this many readings every second one in the middle is let go. */
const MOST_KEPT = 240
/** A hold that other work followed, or that began this long before anything noted since, is forgotten, ms. */
const FORGOTTEN_MS = 3 * 3_600_000

const READ = {
  version: 1,
  upcast: [],
  refs: () => ({}),
  figure: { quantity: 'vacuum', key: 'pressurePa' },
  correctable: true,
  afterClose: false,
  decides: null,
} as const satisfies Partial<KindRules<EvacuationBodies['vacuum-noted']>>

export const evacuation: Chapter<EvacuationBodies, EvacuationSlice> = {
  blank: () => ({ vacuum: [], deepVacuums: [], holds: [], earlyHolds: [] }),
  kinds: {
    'vacuum-noted': {
      ...READ,
      upcast: [],
      ownId: null,
      fold(state, { pressurePa, holdId }, { time, order }) {
        read(state, time, order, pressurePa)
        if (holdId !== undefined) onHold(state, { holdId, at: time, pressurePa, ends: false })
        else
          addReading(
            state.holds.findLast((each) => each.endedAt === undefined),
            time,
            pressurePa,
          )
      },
    },
    'hold-started': {
      ...READ,
      upcast: [],
      ownId: 'holdId',
      fold(state, { holdId, pressurePa }, { time, order }) {
        state.stage = 'evacuate'
        read(state, time, order, pressurePa)
        state.holds.push({ holdId, startedAt: time, readings: [{ at: time, pressurePa }] })
        const waiting = state.earlyHolds.filter((each) => each.holdId === holdId)
        state.earlyHolds = state.earlyHolds.filter((each) => each.holdId !== holdId)
        for (const each of waiting) onHold(state, each)
      },
    },
    'hold-ended': {
      ...READ,
      upcast: [],
      ownId: null,
      fold(state, { holdId, pressurePa }, { time, order }) {
        read(state, time, order, pressurePa)
        onHold(state, { holdId, at: time, pressurePa, ends: true })
      },
    },
  },
  underWay: (state) => (runningHold(state) ? 'watch-hold' : undefined),
  next(state) {
    const since = openedAt(state)
    if (since === undefined) return undefined
    const tested = Math.max(since, state.leakChecks.at(-1)?.at ?? since)
    const last = state.vacuum.at(-1)
    if (!last || last.at < tested) return 'evacuate'
    const hold = state.holds.findLast((each) => each.endedAt !== undefined && each.startedAt >= tested)
    const held = hold && holdVerdict(hold)
    if (held && holdPassed(held.code)) return undefined
    const pumpedSince = hold !== undefined && last.at > hold.endedAt!
    if (held?.code === 'hold-failed' && !pumpedSince) return 'pump-on-or-find-leak'
    if (held?.code === 'held-but-shallow' && !pumpedSince) return 'evacuate'
    return last.value > HOLD_RULE.targetPa ? 'evacuate' : 'hold-vacuum'
  },
  progress: {
    evacuate: (state) =>
      holdPassed(lastHoldVerdict(state)?.code ?? '')
        ? 'done'
        : state.vacuum.length > 0
          ? 'begun'
          : 'untouched',
  },
}

function read(state: JobState, at: number, order: number, value: number) {
  state.vacuum.push({ at, value })
  if (state.vacuum.length > MOST_KEPT) state.vacuum = thinned(state.vacuum)
  if (value <= DEEP_VACUUM_PA) state.deepVacuums.push({ at, order })
  if (state.deepVacuums.length > MOST_KEPT) state.deepVacuums = thinned(state.deepVacuums)
}

function onHold(state: JobState, early: EvacuationSlice['earlyHolds'][number]) {
  const hold = state.holds.find((each) => each.holdId === early.holdId)
  if (!hold) return void state.earlyHolds.push(early)
  addReading(hold, early.at, early.pressurePa)
  if (early.ends) hold.endedAt = early.at
}

function addReading(hold: Hold | undefined, at: number, pressurePa: number) {
  if (!hold || hold.endedAt !== undefined) return
  hold.readings.push({ at, pressurePa })
  if (hold.readings.length <= MOST_KEPT) return
  const highest = Math.max(...hold.readings.map((each) => each.pressurePa))
  const kept = thinned(hold.readings)
  hold.readings = hold.readings.filter((each) => kept.includes(each) || each.pressurePa === highest)
}

/** The first, the last sixty, and every second one of the rest. */
function thinned<T>(list: T[]): T[] {
  return list.filter((_, i) => i % 2 === 0 || i >= list.length - 60)
}

/** The hold that is being watched; one that other work followed was forgotten, and blocks nothing. */
export function runningHold(state: JobState): Hold | undefined {
  const hold = state.holds.findLast((each) => each.endedAt === undefined)
  if (!hold) return undefined
  const later =
    state.transfers.some((each) => each.startedAt > hold.startedAt) ||
    state.leakChecks.some((each) => each.at > hold.startedAt) ||
    state.holds.some((each) => each.startedAt > hold.startedAt) ||
    state.lastAt - hold.startedAt > FORGOTTEN_MS
  return later ? undefined : hold
}

/** Pass or fail of a hold that has readings. @param gaugePct what its gauge may be off, percent of the reading */
export function holdVerdict(hold: Hold, gaugePct?: number): HoldVerdict {
  return judgeHold(
    hold.readings.map((r) => ({ atS: (r.at - hold.startedAt) / 1000, pressurePa: r.pressurePa })),
    HOLD_RULE,
    gaugePct,
  )
}

export function lastHoldVerdict(state: Pick<JobState, 'holds'>): HoldVerdict | undefined {
  const hold = state.holds.findLast((each) => each.endedAt !== undefined)
  return hold && holdVerdict(hold)
}
