import type { Chapter } from '../chapter'
import { checkNotes } from '../check-readings'

/** test: nitrogen in the circuit. */
export type PressurePoint = 'low' | 'high' | 'cylinder' | 'test'
export type TemperaturePoint = 'suction' | 'liquid' | 'ambient' | 'cylinder' | 'vent'

export interface ReadingsBodies {
  /** @param atmospherePa of the place where the gauge was zeroed; missing: not written down */
  'pressure-noted': { point: PressurePoint; pressurePa: number; atmospherePa?: number }
  'temperature-noted': { point: TemperaturePoint; tempK: number }
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
}

const MOST_KEPT = 200

export const readings: Chapter<ReadingsBodies, ReadingsSlice> = {
  blank: () => ({ pressureNotes: [], temperatureNotes: [] }),
  kinds: {
    'pressure-noted': {
      version: 1,
      upcast: [],
      refs: () => ({}),
      ownId: null,
      figure: { quantity: 'pressure', key: 'pressurePa' },
      correctable: true,
      afterClose: false,
      decides: null,
      fold(state, { point, pressurePa, atmospherePa }, { time, order }) {
        const note = { at: time, order, point, value: pressurePa, ...(atmospherePa && { atmospherePa }) }
        state.pressureNotes = [...state.pressureNotes, note].slice(-MOST_KEPT)
      },
    },
    'temperature-noted': {
      version: 1,
      upcast: [],
      refs: () => ({}),
      ownId: null,
      figure: { quantity: 'temperature', key: 'tempK' },
      correctable: true,
      afterClose: false,
      decides: null,
      fold(state, { point, tempK }, { time, order }) {
        state.temperatureNotes = [...state.temperatureNotes, { at: time, order, point, value: tempK }].slice(
          -MOST_KEPT,
        )
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
