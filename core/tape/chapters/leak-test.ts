import { judgePressureHold, type PressureHoldResult } from '../../leaks'
import { type Chapter, type KindRules, wordsOnly } from '../envelope/chapter'
import { circuitOf } from '../judging/circuit'
import { openedAt } from '../mass/episodes'
import { leakKnown } from '../mass/leak-known'
import type { JobState } from '../envelope/state'

export type LeakMethod = 'nitrogen' | 'detector' | 'bubbles' | 'dye' | 'vacuum'

/** Which part of the circuit is shut off and tested. */
export const TESTED_PARTS = ['whole', 'condenser', 'evaporator', 'lines'] as const
export type TestedPart = (typeof TESTED_PARTS)[number]

/** With what a place was looked at. */
export const LOOKED_WITH = ['detector', 'bubbles', 'dye', 'stain', 'ear'] as const
export type LookedWith = (typeof LOOKED_WITH)[number]

export interface LeakTestBodies {
  /** falseAlarm: what was found before is none after all; the words say why. */
  'leak-checked': { method: LeakMethod; found: boolean; text: string; falseAlarm?: true }
  /** Nitrogen stands on it, and the valve is shut. */
  'pressure-test-started': {
    testId: string
    part: TestedPart
    pressurePa: number
    tempK: number
    /** Of the place, where the gauge was zeroed. */
    atmospherePa?: number
    /** What it may be tested with, absolute, by plate or weakest part. */
    mostPa?: number
  }
  'pressure-test-ended': { testId: string; pressurePa: number; tempK: number }
  /** One place of a round. */
  'place-searched': { place: string; how: LookedWith; found: boolean; text: string }
  /** A day to look again, for a leak too slow to be found today. */
  'recheck-set': { on: string; reason: string }
}

export interface PressureTest {
  testId: string
  part: TestedPart
  startedAt: number
  pressurePa: number
  tempK: number
  atmospherePa?: number
  mostPa?: number
  end?: { at: number; pressurePa: number; tempK: number }
}

export interface LeakTestSlice {
  leakChecks: { at: number; method: LeakMethod; found: boolean; text: string; falseAlarm?: true }[]
  pressureTests: PressureTest[]
  /** Ends that came before their start. */
  earlyTestEnds: Record<string, NonNullable<PressureTest['end']>>
  searched: { at: number; place: string; how: LookedWith; found: boolean; text: string }[]
  recheck: { on: string; reason: string } | null
}

/** What a search of one place counts as. */
const METHOD_OF: Record<LookedWith, LeakMethod> = {
  detector: 'detector',
  bubbles: 'bubbles',
  dye: 'dye',
  stain: 'dye',
  ear: 'nitrogen',
}

/** A reading repeats to so much, Pa and K: judged by the change, which cancels what the gauge is off. */
const TEST_REPEATS = { gaugePa: 5_000, clampK: 0.5 }

/** What a nitrogen hold says once it has ended. */
export function pressureTestResult(test: PressureTest): PressureHoldResult | undefined {
  if (!test.end) return undefined
  return judgePressureHold({
    startPa: test.pressurePa,
    endPa: test.end.pressurePa,
    startK: test.tempK,
    endK: test.end.tempK,
    heldS: Math.max(1, (test.end.at - test.startedAt) / 1000),
    ...(test.atmospherePa !== undefined && { atmospherePa: test.atmospherePa }),
    ...(test.mostPa !== undefined && { mostPa: test.mostPa }),
    ...TEST_REPEATS,
  })
}

/** A test that ended is a look for leaks; one that gained pressure, was too short or too low says nothing. */
function ended(state: JobState, test: PressureTest): void {
  const code = pressureTestResult(test)?.verdict.code
  const found = code === 'pressure-lost'
  // A part that holds clears that part only; one that loses has a leak.
  if (found || (code === 'pressure-held' && test.part === 'whole'))
    state.leakChecks.push({ at: test.end!.at, method: 'nitrogen', found, text: '' })
}

const TEST = {
  version: 1,
  upcast: [],
  refs: () => ({}),
  figure: { quantity: 'pressure', key: 'pressurePa' },
  correctable: true,
  afterClose: false,
  decides: null,
} as const satisfies Partial<KindRules<{ pressurePa: number }>>

export const leakTest: Chapter<LeakTestBodies, LeakTestSlice> = {
  blank: () => ({ leakChecks: [], pressureTests: [], earlyTestEnds: {}, searched: [], recheck: null }),
  kinds: {
    'leak-checked': wordsOnly<LeakTestBodies['leak-checked']>(
      (state, body, { time }) => {
        state.leakChecks.push({ ...body, at: time })
      },
      { correctable: true },
    ),
    'pressure-test-started': {
      ...TEST,
      ownId: 'testId',
      fold(state, body, { time }) {
        const end = state.earlyTestEnds[body.testId]
        const test: PressureTest = { ...body, startedAt: time, ...(end && { end }) }
        state.pressureTests.push(test)
        if (end) ended(state, test)
      },
    },
    'pressure-test-ended': {
      ...TEST,
      ownId: null,
      fold(state, { testId, pressurePa, tempK }, { time }) {
        const end = { at: time, pressurePa, tempK }
        const test = state.pressureTests.find((each) => each.testId === testId)
        if (!test) return void (state.earlyTestEnds = { ...state.earlyTestEnds, [testId]: end })
        if (test.end) return
        test.end = end
        ended(state, test)
      },
    },
    'place-searched': wordsOnly<LeakTestBodies['place-searched']>(
      (state, { place, how, found, text }, { time }) => {
        state.searched.push({ at: time, place, how, found, text })
        if (found) state.leakChecks.push({ at: time, method: METHOD_OF[how], found, text: place })
      },
      { correctable: true },
    ),
    'recheck-set': wordsOnly<LeakTestBodies['recheck-set']>(
      (state, { on, reason }) => {
        state.recheck = { on, reason }
      },
      { correctable: true, afterClose: true },
    ),
  },
  next(state) {
    const circuit = openedAt(state) === undefined ? undefined : circuitOf(state)
    if (!circuit) return undefined
    if (leakKnown(state)) return 'repair'
    // A search before the opening is not the test after it, and one that found a leak is none of its repair.
    const last = state.leakChecks.findLast((each) => each.at >= circuit.openedAt)
    return !last || last.found ? 'check-leaks' : undefined
  },
  progress: {
    'leak-test': (state) => {
      const last = state.leakChecks.at(-1)
      if (!last) return 'untouched'
      const stands = !last.found && last.at >= (circuitOf(state)?.openedAt ?? -Infinity)
      return stands && !leakKnown(state) ? 'done' : 'begun'
    },
  },
}
