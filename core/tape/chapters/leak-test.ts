import { type Chapter, wordsOnly } from '../chapter'
import { openedAt } from '../episodes'

export type LeakMethod = 'nitrogen' | 'detector' | 'bubbles' | 'dye' | 'vacuum'

export interface LeakTestBodies {
  'leak-checked': { method: LeakMethod; found: boolean; text: string }
}

export interface LeakTestSlice {
  leakChecks: { at: number; method: LeakMethod; found: boolean; text: string }[]
}

export const leakTest: Chapter<LeakTestBodies, LeakTestSlice> = {
  blank: () => ({ leakChecks: [] }),
  kinds: {
    'leak-checked': wordsOnly<LeakTestBodies['leak-checked']>(
      (state, { method, found, text }, { time }) => {
        state.leakChecks.push({ at: time, method, found, text })
      },
      { correctable: true },
    ),
  },
  next(state) {
    const since = openedAt(state)
    if (since === undefined) return undefined
    // A search before the opening is not the test after it.
    const last = state.leakChecks.findLast((each) => each.at >= since)
    if (!last) return 'check-leaks'
    if (!last.found) return undefined
    return state.steps.some(({ step, at }) => step === 'repair-done' && at >= last.at)
      ? 'check-leaks'
      : 'repair'
  },
  progress: {
    'leak-test': ({ leakChecks }) => {
      const last = leakChecks.at(-1)
      return last ? (last.found ? 'begun' : 'done') : 'untouched'
    },
  },
}
