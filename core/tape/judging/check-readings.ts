import type { MachineState, RunningReadings } from '../../verify'
import type {
  PressureNote,
  PressurePoint,
  Running,
  TemperatureNote,
  TemperaturePoint,
} from '../chapters/readings'
import { transferAt } from '../mass/episodes'
import type { JobState } from '../envelope/state'

/** Readings that are judged together were taken within so much of each other, ms. */
export const TOGETHER_MS = 10 * 60_000

/**
 * The notes that count as check readings: after the last gas moved, since before that they tell of another charge,
 * and after it was started, where somebody said so.
 * While nothing was charged after a recovery there are none: such a system does not run.
 */
export function checkNotes(state: JobState): {
  since: number
  pressures: PressureNote[]
  temperatures: TemperatureNote[]
} {
  const now = state.episodes.at(-1)
  const runs = now !== undefined && now.emptiedAt === undefined && now.end === undefined
  const open = state.transfers.some((each) => each.endedAt === undefined)
  const shutIn = now?.end?.how === 'shut-in'
  const since = Math.max(
    -Infinity,
    ...state.transfers.map(transferAt),
    ...(now?.shutIn ? [now.shutIn.letBackAt ?? Infinity] : []),
    // What was read before it ran was read at rest.
    runningNow(state)?.since ?? -Infinity,
  )
  if (open || !(runs || shutIn) || (now?.lastWas === 'recover' && now.began === 'as-found'))
    return { since, pressures: [], temperatures: [] }
  const moved = Math.max(-1, ...state.transfers.map((each) => each.order))
  const counts = ({ at, order, point }: PressureNote | TemperatureNote) =>
    order > moved && at >= since && point !== 'cylinder' && point !== 'test'
  return {
    since,
    pressures: state.pressureNotes.filter(counts),
    temperatures: state.temperatureNotes.filter(counts),
  }
}

export interface CheckNotes {
  pressures: PressureNote[]
  temperatures: TemperatureNote[]
}

/** The newest of each check reading, as far as they were taken together; what is older is left out. */
export function checkReadings(state: JobState): RunningReadings & { at?: number } {
  return together(checkNotes(state))
}

/** Since when something was done to it. */
export function workBegan({ transfers, recoveryEnds }: JobState): number {
  return Math.min(Infinity, ...[...transfers, ...recoveryEnds].map(({ order }) => order))
}

/** The readings of a running system from before this job's first gas moved: what the end is compared with. */
export function baselineReadings(state: JobState): RunningReadings & { at?: number } {
  const work = workBegan(state)
  const began = state.running.find((each) => each.order < work)
  // Before anything was done there is nothing to compare.
  if (!began || work === Infinity) return {}
  const counts = ({ order, point }: PressureNote | TemperatureNote) =>
    order > began.order && order < work && point !== 'cylinder' && point !== 'test'
  return together({
    pressures: state.pressureNotes.filter(counts),
    temperatures: state.temperatureNotes.filter(counts),
  })
}

/** That it runs, as far as it was said since the last gas moved; however long it ran before, it settles from then on. */
export function runningNow(state: JobState): Running | undefined {
  const moved = Math.max(-1, ...state.transfers.map((each) => each.order))
  const running = state.running.findLast((each) => each.order > moved)
  return running && { ...running, since: Math.max(running.since, ...state.transfers.map(transferAt)) }
}

/** What a machine was said to be at, of each state the last word, in one run: said of another one it counts for nothing. */
export function statesSaid(
  { machineStates }: Pick<JobState, 'machineStates'>,
  { fromOrder, toOrder = Infinity }: { fromOrder: number; toOrder?: number },
): Partial<Record<MachineState, boolean>> {
  const said = machineStates.filter(({ order }) => order > fromOrder && order < toOrder)
  return Object.fromEntries(said.map(({ state, is }) => [state, is]))
}

/** Of the run whose readings count now. */
export const statesNow = (state: JobState) =>
  statesSaid(state, { fromOrder: runningNow(state)?.order ?? Infinity })

function together({ pressures, temperatures }: CheckNotes): RunningReadings & { at?: number } {
  const newest = Math.max(-Infinity, ...[...pressures, ...temperatures].map((each) => each.at))
  const pressure = (point: PressurePoint) =>
    pressures.findLast((each) => each.point === point && newest - each.at <= TOGETHER_MS)?.value
  const temperature = (point: TemperaturePoint) =>
    temperatures.findLast((each) => each.point === point && newest - each.at <= TOGETHER_MS)?.value
  const found = {
    lowPa: pressure('low'),
    highPa: pressure('high'),
    suctionK: temperature('suction'),
    liquidK: temperature('liquid'),
    ventK: temperature('vent'),
    ambientK: temperature('ambient'),
    airOnK: temperature('air-on'),
    airOffK: temperature('air-off'),
    condenserOffK: temperature('condenser-off'),
    wetBulbK: temperature('wet-bulb'),
    drierInK: temperature('drier-in'),
    drierOutK: temperature('drier-out'),
    at: Number.isFinite(newest) ? newest : undefined,
  }
  return Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined))
}
