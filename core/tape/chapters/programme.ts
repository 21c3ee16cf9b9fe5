import type { Ask, HandAnswer, PlannedStep, ProgrammeStep, Stop } from '../../programme'
import { type Chapter, PLAIN } from '../envelope/chapter'
import type { JobState } from '../envelope/state'
import { runningProgramme } from '../envelope/running-programme'

export interface ProgrammeBodies {
  /** A service station is told what to do. @param preset by which of the shop's presets, as it was called then */
  'programme-begun': {
    programmeId: string
    kitId: string
    deviceId: string
    steps: PlannedStep[]
    preset?: string
  }
  'programme-step': { programmeId: string; step: ProgrammeStep; phase: 'began' | 'done' }
  /** It waits for a hand. */
  'hand-asked': { programmeId: string; askId: string; ask: Ask; step?: ProgrammeStep }
  'hand-given': { programmeId: string; askId: string; answer: HandAnswer }
  /** @param left-alone nobody hears from it any more: what it has not said is done by hand */
  'programme-ended': {
    programmeId: string
    how: 'finished' | 'stopped' | 'left-alone'
    why?: Stop
    step?: ProgrammeStep
  }
}

export interface Programme {
  programmeId: string
  kitId: string
  deviceId: string
  begunAt: number
  steps: PlannedStep[]
  preset?: string
  /** Steps as far as the station has said. */
  course: { step: ProgrammeStep; beganAt: number; doneAt?: number }[]
  /** Asks that were answered: in one moment the answer may stand before its question. */
  given: string[]
  /** What it waits for. */
  asks?: { askId: string; ask: Ask; at: number; step?: ProgrammeStep }
  ended?: { at: number; how: ProgrammeBodies['programme-ended']['how']; why?: Stop; step?: ProgrammeStep }
}

export interface ProgrammeSlice {
  programmes: Programme[]
}

const TOLD = { ...PLAIN, correctable: false }

export const programme: Chapter<ProgrammeBodies, ProgrammeSlice> = {
  blank: () => ({ programmes: [] }),
  kinds: {
    'programme-begun': {
      ...TOLD,
      refs: ({ kitId, steps }) => ({ kit: [kitId, ...steps.flatMap((each) => each.bottleId ?? [])] }),
      ownId: 'programmeId',
      decides: ({ kitId }) => ({ kitId }),
      fold(state, { programmeId, kitId, deviceId, steps, preset }, { time }) {
        const known = { programmeId, kitId, deviceId, begunAt: time, steps, ...(preset && { preset }) }
        // Its station may have a clock that is behind: what it said first is not lost.
        const early = state.programmes.find((each) => each.programmeId === programmeId)
        if (early) Object.assign(early, known)
        else state.programmes.push({ ...known, course: [], given: [] })
      },
    },
    'programme-step': {
      ...TOLD,
      fold(state, { programmeId, step, phase }, { time }) {
        const { course } = of(state, programmeId, time)
        if (phase === 'began') course.push({ step, beganAt: time })
        else {
          const begun = course.findLast((each) => each.step === step && each.doneAt === undefined)
          if (begun) begun.doneAt = time
          else course.push({ step, beganAt: time, doneAt: time })
        }
      },
    },
    'hand-asked': {
      ...TOLD,
      ownId: 'askId',
      fold(state, { programmeId, askId, ask, step }, { time }) {
        const found = of(state, programmeId, time)
        if (!found.ended && !found.given.includes(askId))
          found.asks = { askId, ask, at: time, ...(step && { step }) }
      },
    },
    'hand-given': {
      ...TOLD,
      fold(state, { programmeId, askId }, { time }) {
        const found = of(state, programmeId, time)
        found.given.push(askId)
        if (found.asks?.askId === askId) delete found.asks
      },
    },
    'programme-ended': {
      ...TOLD,
      fold(state, { programmeId, how, why, step }, { time }) {
        const found = of(state, programmeId, time)
        delete found.asks
        // What a station says once somebody has left it alone is no end of its own.
        found.ended ??= { at: time, how, ...(why && { why }), ...(step && { step }) }
      },
    },
  },
  underWay(state) {
    const running = runningProgramme(state)
    return running && (running.asks ? 'give-a-hand' : 'programme-runs')
  },
}

function of(state: JobState, programmeId: string, time: number): Programme {
  const found = state.programmes.find((each) => each.programmeId === programmeId)
  if (found) return found
  const early: Programme = {
    programmeId,
    kitId: '',
    deviceId: '',
    begunAt: time,
    steps: [],
    course: [],
    given: [],
  }
  state.programmes.push(early)
  return early
}
