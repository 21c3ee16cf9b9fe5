import type { MachineState, Service } from '../../verify'
import { type Chapter, PLAIN } from '../envelope/chapter'
import { checkNotes } from '../judging/check-readings'

/** test: nitrogen in the circuit. */
export type PressurePoint = 'low' | 'high' | 'cylinder' | 'test'
export const TEMPERATURE_POINTS = [
  'suction',
  'liquid',
  'ambient',
  'cylinder',
  'vent',
  'air-on',
  'air-off',
  'condenser-off',
  'wet-bulb',
  'drier-in',
  'drier-out',
] as const
export type TemperaturePoint = (typeof TEMPERATURE_POINTS)[number]

export interface ReadingsBodies {
  /** @param atmospherePa of the place where the gauge was zeroed; missing: not written down */
  'pressure-noted': { point: PressurePoint; pressurePa: number; atmospherePa?: number }
  'temperature-noted': { point: TemperaturePoint; tempK: number }
  /** It runs; for how long already, where nobody saw it start. */
  'system-running': { service: Service; beforeS: number }
  /** What it is at, or is not: a healthy machine may read like a faulty one there. */
  'machine-state': { state: MachineState; is: boolean }
  /** Off, equalised and as warm as the air: air in it shows as pressure above saturation. */
  'standing-noted': { pressurePa: number; tempK: number; atmospherePa?: number }
  'supply-noted': { volts?: number; amps?: number }
  /** A whole cycle of a freezer or store that was watched: how long it ran, stood, defrosted; how cold it got. */
  'cycle-noted': { runS: number; offS: number; defrostS?: number; coldestK?: number }
}

export interface Running {
  at: number
  order: number
  service: Service
  /** Since when it runs. */
  since: number
}

export interface MachineStateNote {
  order: number
  state: MachineState
  is: boolean
}

export interface StandingNote {
  at: number
  order: number
  pressurePa: number
  tempK: number
}

export interface CycleNote {
  at: number
  runS: number
  offS: number
  defrostS?: number
  coldestK?: number
}

export interface PressureNote {
  at: number
  order: number
  point: PressurePoint
  value: number
  atmospherePa?: number
}

export interface TemperatureNote {
  at: number
  order: number
  point: TemperaturePoint
  value: number
}

export interface ReadingsSlice {
  pressureNotes: PressureNote[]
  temperatureNotes: TemperatureNote[]
  /** Each time that it was said to run. */
  running: Running[]
  machineStates: MachineStateNote[]
  standing: StandingNote[]
  supply: { at: number; volts?: number; amps?: number }[]
  cycles: CycleNote[]
}

const MOST_KEPT = 200

export const readings: Chapter<ReadingsBodies, ReadingsSlice> = {
  blank: () => ({
    pressureNotes: [],
    temperatureNotes: [],
    running: [],
    machineStates: [],
    standing: [],
    supply: [],
    cycles: [],
  }),
  kinds: {
    'pressure-noted': {
      ...PLAIN,
      figure: { quantity: 'pressure', key: 'pressurePa' },
      fold(state, { point, pressurePa, atmospherePa }, { time, order }) {
        const note = { at: time, order, point, value: pressurePa, ...(atmospherePa && { atmospherePa }) }
        state.pressureNotes = [...state.pressureNotes, note].slice(-MOST_KEPT)
      },
    },
    'temperature-noted': {
      ...PLAIN,
      figure: { quantity: 'temperature', key: 'tempK' },
      fold(state, { point, tempK }, { time, order }) {
        state.temperatureNotes = [...state.temperatureNotes, { at: time, order, point, value: tempK }].slice(
          -MOST_KEPT,
        )
      },
    },
    'system-running': {
      ...PLAIN,
      fold(state, { service, beforeS }, { time, order }) {
        state.running.push({ at: time, order, service, since: time - 1000 * beforeS })
      },
    },
    'machine-state': {
      ...PLAIN,
      fold(state, body, { order }) {
        state.machineStates.push({ ...body, order })
      },
    },
    'standing-noted': {
      ...PLAIN,
      figure: { quantity: 'pressure', key: 'pressurePa' },
      fold(state, { pressurePa, tempK }, { time, order }) {
        state.standing.push({ at: time, order, pressurePa, tempK })
      },
    },
    'supply-noted': {
      ...PLAIN,
      fold(state, { volts, amps }, { time }) {
        state.supply.push({
          at: time,
          ...(volts !== undefined && { volts }),
          ...(amps !== undefined && { amps }),
        })
      },
    },
    'cycle-noted': {
      ...PLAIN,
      fold(state, body, { time }) {
        state.cycles.push({ at: time, ...body })
      },
    },
  },
  next: (state) => {
    const { pressures, temperatures } = checkNotes(state)
    return pressures.length > 0 && temperatures.length > 0 ? undefined : 'note-readings'
  },
  progress: {
    verify: (state) => {
      const { pressures, temperatures, since } = checkNotes(state)
      if (state.verdicts.some((each) => each.about === 'readings' && each.at >= since)) return 'done'
      return pressures.length + temperatures.length > 0 ? 'begun' : 'untouched'
    },
  },
}
