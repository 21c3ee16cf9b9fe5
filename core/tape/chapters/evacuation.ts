import { type HoldReading, MANIFOLD_RULE } from '../../vacuum'
import { type Chapter, type KindRules, PLAIN } from '../envelope/chapter'
import { circuitOf, holdStands } from '../judging/circuit'
import { DEEP_VACUUM_PA, openedAt } from '../mass/episodes'
import { holdRule, runningHold } from '../judging/holds'
import type { JobState } from '../envelope/state'

export interface EvacuationBodies {
  'vacuum-noted': { pressurePa: number; holdId?: string }
  /** The pump is valved off. */
  'hold-started': { holdId: string; pressurePa: number }
  'hold-ended': { holdId: string; pressurePa: number }
  /** What a live gauge said all the while, thinned: seconds since valving off, and absolute Pa. */
  'hold-curve': { holdId: string; readings: [atS: number, pressurePa: number][] }
  /** How it is pumped; the last one counts. */
  'vacuum-planned': VacuumPlan
  /** Pump, hoses and gauge alone, against closed valves. */
  'kit-proof': { reachedPa: number; heldPa: number; forS: number }
  /** The vacuum was broken with dry nitrogen. */
  'nitrogen-let-in': { pressurePa: number }
}

export type VacuumMethod = 'single' | 'deep' | 'triple' | 'timed'

export interface VacuumPlan {
  method: VacuumMethod
  gaugeAt: 'system' | 'pump'
  hose: '1/4' | '3/8' | '1/2'
  lengthM: number
  coresOut: boolean
  pumpM3S: number
  /** Inner volume, m3; left out: reckoned from the charge. */
  volumeM3?: number
  /** By the maker, the profile, or the shop. */
  targetPa: number
  targetFrom: 'maker' | 'profile' | 'shop'
}

export interface Hold {
  holdId: string
  startedAt: number
  endedAt?: number
  readings: { at: number; pressurePa: number }[]
  /** Of a live gauge. */
  curve?: HoldReading[]
  /** The plan as it was when it ended: it is held against that one, whatever is planned afterwards. */
  plan?: VacuumPlan
}

export interface EvacuationSlice {
  vacuum: { at: number; value: number }[]
  /** When the gauge showed that a pump is at work. */
  deepVacuums: { at: number; order: number }[]
  holds: Hold[]
  /** Readings and ends of holds that came before their start. */
  earlyHolds: { holdId: string; at: number; pressurePa: number; ends: boolean }[]
  /** Curves that came before their hold. */
  earlyCurves: Record<string, HoldReading[]>
  vacuumPlan: (VacuumPlan & { at: number }) | null
  kitProofs: { at: number; reachedPa: number; heldPa: number; forS: number }[]
  nitrogenBreaks: { at: number; pressurePa: number }[]
}

/** Beyond this many readings every second one in the middle is let go. */
const MOST_KEPT = 240

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
  blank: () => ({
    vacuum: [],
    deepVacuums: [],
    holds: [],
    earlyHolds: [],
    earlyCurves: {},
    vacuumPlan: null,
    kitProofs: [],
    nitrogenBreaks: [],
  }),
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
        // A pump was valved off, read on a gauge that shows no deeper.
        if (pressurePa > DEEP_VACUUM_PA && pressurePa <= MANIFOLD_RULE.targetPa)
          state.deepVacuums.push({ at: time, order })
        const curve = state.earlyCurves[holdId]
        state.holds.push({
          holdId,
          startedAt: time,
          readings: [{ at: time, pressurePa }],
          ...(curve && { curve }),
        })
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
    'hold-curve': {
      ...PLAIN,
      fold(state, { holdId, readings }) {
        const curve = readings.map(([atS, pressurePa]) => ({ atS, pressurePa }))
        const hold = state.holds.find((each) => each.holdId === holdId)
        if (hold) hold.curve = curve
        else state.earlyCurves = { ...state.earlyCurves, [holdId]: curve }
      },
    },
    'vacuum-planned': {
      ...PLAIN,
      fold(state, plan, { time }) {
        state.vacuumPlan = { ...plan, at: time }
      },
    },
    'kit-proof': {
      ...PLAIN,
      fold(state, { reachedPa, heldPa, forS }, { time }) {
        state.kitProofs.push({ at: time, reachedPa, heldPa, forS })
      },
    },
    'nitrogen-let-in': {
      ...READ,
      upcast: [],
      ownId: null,
      figure: { quantity: 'pressure', key: 'pressurePa' },
      fold(state, { pressurePa }, { time }) {
        state.nitrogenBreaks.push({ at: time, pressurePa })
      },
    },
  },
  underWay: (state) => (runningHold(state) ? 'watch-hold' : undefined),
  next(state) {
    const circuit = openedAt(state) === undefined ? undefined : circuitOf(state)
    if (!circuit) return undefined
    const { filledAt, hold } = circuit
    const last = state.vacuum.at(-1)
    if (!last || last.at < filledAt) return 'evacuate'
    if (hold.stands === 'passed') return undefined
    const pumpedSince = hold.last?.endedAt !== undefined && last.at > hold.last.endedAt
    if (hold.stands === 'leaking') return 'pump-on-or-find-leak'
    if (hold.stands === 'failed' && !pumpedSince) return 'pump-on-or-find-leak'
    if (hold.stands === 'pump-on' && !pumpedSince) return 'evacuate'
    return last.value > holdRule(state).targetPa ? 'evacuate' : 'hold-vacuum'
  },
  progress: {
    evacuate: (state) =>
      holdStands(state) === 'passed' ? 'done' : state.vacuum.length > 0 ? 'begun' : 'untouched',
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
  if (!early.ends) return
  hold.endedAt = early.at
  if (state.vacuumPlan) hold.plan = state.vacuumPlan
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
