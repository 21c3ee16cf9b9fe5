import { type CompressorDrive, judgeOilType, type OilType } from '../../oil'
import { type Chapter, PLAIN } from '../envelope/chapter'
import { gasAt } from '../envelope/gas-at'
import type { JobState } from '../envelope/state'

export type OilDirection = 'out' | 'parts' | 'in'
/** How the way for another oil was made clean. */
export type OilClearing = 'hoses-flushed' | 'own-tool'

export interface OilBodies {
  /** @param bottleId the piece of kit that it came from; @param dyed the oil, or the part, has dye in it */
  'oil-noted': {
    direction: OilDirection
    volumeMl: number
    text: string
    oil?: OilType
    bottleId?: string
    dyed?: boolean
  }
  /** Dye put in by itself. */
  'dye-noted': { volumeMl: number; text: string; bottleId?: string }
  /** The bottle that the oil drains into, read before and after the recovery. */
  'drain-read': { when: 'before' | 'after'; volumeMl: number }
  'drive-noted': { drive: CompressorDrive }
  /** Nothing of another oil is in the way any more, and who says so. */
  'oil-cleared': { how: OilClearing; who: string }
}

export interface OilPut {
  entryId: string
  at: number
  volumeMl: number
  oil: OilType | null
  bottleId: string | null
  what: 'oil' | 'dye'
}

export interface OilSlice {
  /** With when it was last noted that some came out, or went with a part. */
  oil: { outMl: number; partsMl: number; inMl: number; noted: boolean; outAt?: number; partsAt?: number }
  /** Everything that went in, oil and dye. */
  oilPut: OilPut[]
  drain: { beforeMl?: number; afterMl?: number; at: number }
  drive?: CompressorDrive
  oilCleared?: { at: number; how: OilClearing; who: string }
  /** By the bottle that it drains into: what came out, mL. */
  drainedMl: number
  /** Dye is in it by this job: put in, or with oil or a part. */
  dyed: boolean
}

const fromBottle = ({ bottleId }: { bottleId?: string }) =>
  bottleId === undefined ? {} : { kit: [bottleId] }

export const oil: Chapter<OilBodies, OilSlice> = {
  blank: () => ({
    oil: { outMl: 0, partsMl: 0, inMl: 0, noted: false },
    oilPut: [],
    drain: { at: 0 },
    drainedMl: 0,
    dyed: false,
  }),
  kinds: {
    'oil-noted': {
      ...PLAIN,
      version: 2,
      // Version 1 said the type in words, and no bottle.
      upcast: [(body: object) => body],
      refs: fromBottle,
      figure: { quantity: 'volume', key: 'volumeMl' },
      fold(state, { direction, volumeMl, oil: type, bottleId, dyed }, { entryId, time }) {
        state.oil.noted = true
        state.oil[`${direction}Ml`] += volumeMl
        if (direction !== 'in') state.oil[`${direction}At`] = time
        state.dyed ||= dyed === true && direction !== 'out'
        if (direction !== 'in') return
        state.oilPut.push({
          entryId,
          at: time,
          volumeMl,
          oil: type ?? null,
          bottleId: bottleId ?? null,
          what: 'oil',
        })
      },
    },
    'dye-noted': {
      ...PLAIN,
      refs: fromBottle,
      figure: { quantity: 'volume', key: 'volumeMl' },
      fold(state, { volumeMl, bottleId }, { entryId, time }) {
        state.dyed = true
        state.oilPut.push({
          entryId,
          at: time,
          volumeMl,
          oil: null,
          bottleId: bottleId ?? null,
          what: 'dye',
        })
      },
    },
    'drain-read': {
      ...PLAIN,
      figure: { quantity: 'volume', key: 'volumeMl' },
      fold(state, { when, volumeMl }, { time }) {
        state.drain = { ...state.drain, [`${when}Ml`]: volumeMl, at: time }
      },
    },
    'drive-noted': {
      ...PLAIN,
      fold(state, { drive }) {
        state.drive = drive
      },
    },
    'oil-cleared': {
      ...PLAIN,
      fold(state, { how, who }, { time }) {
        state.oilCleared = { at: time, how, who }
      },
    },
  },
  settle(state) {
    const { beforeMl, afterMl } = state.drain
    state.drainedMl = beforeMl === undefined || afterMl === undefined ? 0 : Math.max(0, afterMl - beforeMl)
  },
  progress: {
    oil: (state) => {
      if (!state.oil.noted && state.drainedMl === 0) return 'untouched'
      return oilDueMl(state) <= 1e-6 ? 'done' : 'begun'
    },
  },
}

/** What should still go in, mL; negative: too much went in. What the bottle says came out counts with what was noted. */
export function oilDueMl({ oil: { outMl, partsMl, inMl }, drainedMl }: JobState): number {
  return outMl + drainedMl + partsMl - inMl
}

/** Whether an oil does not belong into this job's compressor. @param gas what the system held when it went in */
export function wrongOil(state: JobState, type: OilType, gas = state.refrigerant): boolean {
  const { drive } = state
  const code = gas ?? (drive === 'high-voltage' ? 'R-1234yf' : null)
  return code !== null && judgeOilType(type, code, drive ?? 'stationary').outcome === 'bad'
}

/** Whether one like that went in: compressor and oil may have been said in either order. */
export const hasWrongOil = (state: JobState): boolean =>
  state.oilPut.some(({ oil, at }) => oil !== null && wrongOil(state, oil, gasAt(state, at)))

/** Oil may go into a high-voltage compressor only by a way that somebody has cleared of other oils. */
export function needsClearing({ drive, oilCleared }: JobState): boolean {
  return drive === 'high-voltage' && oilCleared === undefined
}
