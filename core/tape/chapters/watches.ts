import { type Chapter, PLAIN, wordsOnly } from '../envelope/chapter'

/** What is watched for a set time: the low side after a pull, or nitrogen in the circuit. */
export type Watched = 'pull' | 'nitrogen'

export interface WatchBodies {
  /** @param forS seconds until the reading that is due */
  'watch-started': { watchId: string; what: Watched; forS: number }
  /** The reading that was due is a note of its own. */
  'watch-ended': { watchId: string }
  /** Somebody has seen what called. @param cause names it for good; the same never calls again */
  'alarm-acknowledged': { code: string; cause: string }
}

export interface Watch {
  watchId: string
  what: Watched
  startedAt: number
  forS: number
  endedAt?: number
}

export interface WatchSlice {
  watches: Watch[]
  /** Ends that came before their start. */
  earlyWatchEnds: Record<string, number>
  /** Causes of alarms that somebody has seen, and when. */
  acknowledged: Record<string, number>
}

export const watches: Chapter<WatchBodies, WatchSlice> = {
  blank: () => ({ watches: [], earlyWatchEnds: {}, acknowledged: {} }),
  kinds: {
    'watch-started': {
      version: 1,
      upcast: [],
      refs: () => ({}),
      ownId: 'watchId',
      figure: null,
      correctable: true,
      afterClose: false,
      decides: null,
      fold(state, { watchId, what, forS }, { time }) {
        const endedAt = state.earlyWatchEnds[watchId]
        state.watches.push({
          watchId,
          what,
          startedAt: time,
          forS,
          ...(endedAt === undefined ? {} : { endedAt }),
        })
      },
    },
    'watch-ended': {
      ...PLAIN,
      fold(state, { watchId }, { time }) {
        const watch = state.watches.find((each) => each.watchId === watchId)
        if (watch) watch.endedAt ??= time
        else state.earlyWatchEnds[watchId] = time
      },
    },
    'alarm-acknowledged': wordsOnly<WatchBodies['alarm-acknowledged']>(
      (state, { cause }, { time }) => {
        if (!Object.hasOwn(state.acknowledged, cause))
          state.acknowledged = { ...state.acknowledged, [cause]: time }
      },
      { afterClose: true },
    ),
  },
}
