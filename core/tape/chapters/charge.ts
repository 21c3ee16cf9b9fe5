import type { TargetBasis } from '../../charging'
import { type Chapter, PLAIN } from '../envelope/chapter'
import { judgeCharged } from '../mass/charged'
import { isEmpty, openedAt, shutInAt } from '../mass/episodes'

export interface ChargeBodies {
  'target-set': { massMg: number; toleranceMg: number; basis: TargetBasis }
  /** The charge was over or short: what is taken out or added, and why. */
  'charge-corrected': { way: 'out' | 'in'; massMg: number; reason: string }
  /** The suction pressure of the running system, before liquid is metered into it. */
  'metering-begun': { lowPa: number; nearCompressor: boolean }
}

export interface ChargeCorrection {
  at: number
  way: 'out' | 'in'
  massMg: number
  reason: string
}

export interface ChargeSlice {
  target?: { massMg: number; toleranceMg: number; basis: TargetBasis; at: number }
  chargeCorrections: ChargeCorrection[]
  metering?: { at: number; lowPa: number; nearCompressor: boolean }
}

export const charge: Chapter<ChargeBodies, ChargeSlice> = {
  blank: () => ({ chargeCorrections: [] }),
  kinds: {
    'target-set': {
      ...PLAIN,
      figure: { quantity: 'weight', key: 'massMg' },
      fold(state, body, { time }) {
        state.target = { ...body, at: time }
      },
    },
    'charge-corrected': {
      ...PLAIN,
      figure: { quantity: 'weight', key: 'massMg' },
      fold(state, body, { time }) {
        state.chargeCorrections.push({ ...body, at: time })
      },
    },
    'metering-begun': {
      ...PLAIN,
      figure: { quantity: 'pressure', key: 'lowPa' },
      fold(state, body, { time }) {
        state.metering = { ...body, at: time }
      },
    },
  },
  next(state) {
    const now = state.episodes.at(-1)!
    if (shutInAt(now) !== undefined) return 'open-valves'
    if (openedAt(state) !== undefined) {
      if (!state.target) return 'set-target'
      return state.chosen.some((each) => each.use === 'charge') ? 'start-charge' : 'choose-charge-cylinder'
    }
    return judgeCharged(state)?.code === 'charge-short' ? 'go-on-charging' : undefined
  },
  progress: {
    charge: (state) => {
      const charges = state.transfers.filter((each) => each.use === 'charge')
      if (charges.length === 0) return state.target ? 'begun' : 'untouched'
      const ended = charges.every((each) => each.endedAt !== undefined)
      // What was charged and recovered again is to be charged once more.
      const empty = isEmpty(state)
      return ended && !empty && judgeCharged(state)?.code !== 'charge-short' ? 'done' : 'begun'
    },
  },
}
