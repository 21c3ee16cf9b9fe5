import type { Ask, PlannedStep, ProgrammeStep, StationReadings, Stop } from '#core/programme'
import type { Channel } from '#core/samples'
import { clearHoses, drawHoses, rest, type StationSetup, type StationState } from './state'

interface At {
  state: StationState
  setup: StationSetup
  /** Since this phase began, s. */
  forS: number
  read(): Partial<Record<Channel, number>>
  enter(phase: string): void
}

/** What a moment of a step comes to; undefined: it goes on. */
type Turn = { ask: Ask } | { stop: Stop; readings?: StationReadings } | { done: StationReadings } | undefined

const BATH_K = 318.15
/** A point of a hold's curve every so many seconds, and no more than so many. */
const CURVE_S = 5
const CURVE_POINTS = 200
/** A rise that no gas left in the oil makes: the hold is lost, Pa. */
const LOST_PA = 3_400
/** It pulls so much deeper than it has to stay, and lets so much pass as its gauge's own, Pa. */
const DEEPER_PA = 15_000
const REPEATS_PA = 3_000
const PULLS = 5
const LONGEST_PULL_S = 2_400
/** A share first; the rest once the vents were sniffed. */
const SNIFF_SHARE = 0.15

/** What a station does in each step, a moment at a time. */
export const RUNS: Record<ProgrammeStep, (planned: PlannedStep, at: At) => Turn> = {
  identify: ({ purityPct = 98 }, { state: { vehicle, parameters }, forS }) => {
    if (forS < 45) return undefined
    const gas = vehicle.gas ?? parameters.refrigerant
    const is = gas === parameters.refrigerant && vehicle.purityPct >= purityPct
    const readings = { gas, purityPct: vehicle.purityPct }
    return is ? { done: readings } : { stop: 'not-the-gas', readings }
  },
  before: (planned, at) => running(planned, at, false),
  recover,
  'oil-out': (_, { state, forS }) => {
    if (forS < 20) return undefined
    state.drainedMl += state.vehicle.oilOutMl
    return { done: { drainMl: state.vehicle.oilOutMl } }
  },
  vacuum: ({ forS: wanted = 0 }, { state: { plant }, forS, read }) => {
    Object.assign(plant.controls, { line: 'pump', valve: 'vapour', pump: true })
    return forS < wanted ? undefined : { done: pressure(read()) }
  },
  hold,
  'oil-in': ({ volumeMl = 0, withDrained }, { state, forS }) => {
    const oilMl = volumeMl + (withDrained ? state.drainedMl : 0)
    if (forS < 20) return undefined
    if (oilMl > state.oilMl) return { stop: 'oil-bottle-empty' }
    state.oilMl -= oilMl
    return { done: { oilMl } }
  },
  dye: ({ volumeMl = 0 }, { state, forS }) => {
    if (forS < 15) return undefined
    if (volumeMl > state.dyeMl) return { stop: 'oil-bottle-empty' }
    state.dyeMl -= volumeMl
    return { done: { dyeMl: volumeMl } }
  },
  charge,
  after: (planned, at) => running(planned, at, true),
  clear: (_, { state, forS, enter }) => {
    if (state.doing.phase === 'begin') {
      enter('hoses')
      return { ask: 'hoses-off' }
    }
    if (forS < 60) return undefined
    clearHoses(state)
    return { done: {} }
  },
}

const pressure = ({ vacuum }: Partial<Record<Channel, number>>): StationReadings =>
  vacuum === undefined ? {} : { vacuumPa: vacuum }

function recover(planned: PlannedStep, { state, forS, read, enter }: At): Turn {
  const { plant, doing, order } = state
  const { downToPa = 0, restS = 0 } = planned
  if ((read().weight ?? 0) >= order!.mostKg) return { stop: 'tank-full' }
  switch (doing.phase) {
    case 'begin':
      doing.notes.pulls = (doing.notes.pulls ?? 0) + 1
      Object.assign(plant.controls, { line: 'machine', valve: 'vapour', machine: 'run' })
      enter('pull')
      return undefined
    case 'pull':
      if (forS > LONGEST_PULL_S) return { stop: 'does-not-empty' }
      if (plant.seen.systemPa > downToPa - DEEPER_PA && !plant.machine.stoppedItself) return undefined
      Object.assign(plant.controls, { machine: 'off', valve: 'closed' })
      enter('rest')
      return undefined
    case 'rest':
      if (forS < restS) return undefined
      // It has risen: liquid was left, or boils out of the oil.
      if (plant.seen.systemPa > downToPa + REPEATS_PA) {
        if (doing.notes.pulls! >= PULLS) return { stop: 'does-not-empty' }
        enter('begin')
        return undefined
      }
      plant.controls.machine = 'purge'
      enter('purge')
      return undefined
    default: {
      if (forS < 60) return undefined
      rest(plant)
      const { low } = read()
      return { done: low === undefined ? {} : { lowPa: low } }
    }
  }
}

function hold({ forS: wanted = 0 }: PlannedStep, { state, forS, read, enter }: At): Turn {
  const { plant, doing } = state
  if (doing.phase === 'begin') {
    Object.assign(plant.controls, { line: 'pump', valve: 'closed', pump: false })
    enter('hold')
    return undefined
  }
  if (doing.phase === 'look') return doing.answered ? { done: pressure(read()) } : undefined
  const { vacuum } = read()
  const last = doing.curve.at(-1)
  if (vacuum !== undefined && (!last || forS - last[0] >= Math.max(CURVE_S, wanted / CURVE_POINTS)))
    doing.curve.push([forS, vacuum])
  if (vacuum !== undefined && vacuum - doing.curve[0]![1] > LOST_PA) {
    doing.curve.push([forS, vacuum])
    return { stop: 'pressure-lost' }
  }
  if (forS < wanted) return undefined
  enter('look')
  return { ask: 'look-at-hold' }
}

function charge({ massMg = 0, sniff }: PlannedStep, { state, forS, read, enter }: At): Turn {
  const { plant, doing, order } = state
  const weightKg = read().weight ?? 0
  if (weightKg < order!.leastKg) return { stop: 'tank-empty' }
  const wantedKg = massMg / 1e6
  const outKg = () => doing.notes.fromKg! - plant.cylinder.kg
  switch (doing.phase) {
    case 'begin':
      doing.notes.fromKg = plant.cylinder.kg
      enter(sniff ? 'first' : 'rest')
      return undefined
    case 'first':
    case 'rest':
      Object.assign(plant.controls, { line: 'cylinder', valve: 'liquid', bathK: BATH_K, fan: true })
      // It shuts a little early: what is on its way comes after.
      if (outKg() < (doing.phase === 'first' ? SNIFF_SHARE : 1) * wantedKg - 0.002) {
        return forS > LONGEST_PULL_S ? { stop: 'tank-empty' } : undefined
      }
      rest(plant)
      if (doing.phase === 'rest') return { done: {} }
      enter('sniff')
      return { ask: 'sniff-vents' }
    default:
      if (doing.answered) enter('rest')
      return undefined
  }
}

/** The engine runs: pressures and the vent. @param last the low hose is drawn empty, with the high side off */
function running({ forS: wanted = 0 }: PlannedStep, { state, forS, read, enter }: At, last: boolean): Turn {
  const { plant, doing } = state
  switch (doing.phase) {
    case 'begin':
      enter('on')
      return { ask: 'engine-on' }
    case 'on': {
      plant.controls.compressor = true
      if (forS < wanted) return undefined
      const { low, high, vent, ambient } = read()
      doing.notes = {
        ...(low !== undefined && { lowPa: low }),
        ...(high !== undefined && { highPa: high }),
        ...(vent !== undefined && { ventK: vent }),
        ...(ambient !== undefined && { ambientK: ambient }),
        ranS: Math.round(forS),
      }
      enter(last ? 'hose' : 'off')
      return { ask: last ? 'high-side-off' : 'engine-off' }
    }
    case 'hose':
      if (forS < 30) return undefined
      drawHoses(state)
      enter('off')
      return { ask: 'engine-off' }
    default:
      plant.controls.compressor = false
      return { done: { ...doing.notes } }
  }
}
