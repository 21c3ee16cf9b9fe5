import type { Condition } from '../../cylinders'
import type { CylinderPort, EndLevelUse, HoseSize, RecoveryEndKind, RecoveryMethod } from '../../recovery'
import { type Chapter, PLAIN, wordsOnly } from '../envelope/chapter'
import { type Episode, episodesOf, isRecovered, recoveredEpisode } from '../mass/episodes'
import { leakKnown } from '../mass/leak-known'
import type { NextStep } from '../asks/next'
import { type JobState, stepDone } from '../envelope/state'

export interface RecoveryBodies {
  /**
   * How the recovery ended: also the answer to what became of gas that should still have been there.
   * @param levelPa what it had to come down to
   * @param stoodS how long it had been read to stay there, where that was long enough to tell
   */
  'recovery-ended': { how: RecoveryEndKind; levelPa?: number; stoodS?: number }
  /** What the gas in a cylinder is worth. */
  'gas-judged': { cylinderId: string; condition: Condition }
  /** Which way it is to be pulled, through which rig, and by which rule it is down. */
  'recovery-planned': RecoveryPlan
  /** What a test of the gas or of the oil said. */
  'gas-tested': GasTest
}

export interface RecoveryPlan {
  method: RecoveryMethod
  port: CylinderPort
  hose: HoseSize
  coresOut: boolean
  level: EndLevelUse
}

export interface GasTest {
  test: 'acid' | 'identifier'
  passed: boolean
  /** What an identifier names as the main part, and its share of all, where it says so. */
  found?: string
  purityPct?: number
}

export interface RecoverySlice {
  recoveryEnds: { entryId: string; at: number; order: number; how: RecoveryEndKind; levelPa?: number }[]
  gas: Record<string, Condition>
  /** null: nobody has planned. */
  plan: (RecoveryPlan & { at: number }) | null
  gasTests: (GasTest & { at: number })[]
  /** What has been in the system, one after the other; at least one. */
  episodes: Episode[]
  /** Net out of the system in the last episode that was recovered from. */
  recoveredMg: number
  /** Net into the system in the last episode, less what was taken out again; nothing once it was emptied. */
  chargedMg: number
}

export const recovery: Chapter<RecoveryBodies, RecoverySlice> = {
  blank: () => ({
    recoveryEnds: [],
    gas: {},
    plan: null,
    gasTests: [],
    episodes: [],
    recoveredMg: 0,
    chargedMg: 0,
  }),
  kinds: {
    'recovery-ended': {
      ...PLAIN,
      version: 2,
      upcast: [
        ({ emptied }: { emptied: unknown }) => ({
          how: emptied === true ? 'emptied' : emptied === false ? 'not-emptied' : undefined,
        }),
      ],
      fold(state, { how, levelPa }, { entryId, time, order }) {
        state.recoveryEnds.push({ entryId, at: time, order, how, ...(levelPa !== undefined && { levelPa }) })
      },
    },
    'gas-judged': {
      version: 1,
      upcast: [],
      refs: ({ cylinderId }) => ({ cylinders: [cylinderId] }),
      ownId: null,
      figure: null,
      correctable: true,
      afterClose: true,
      decides: null,
      fold(state, { cylinderId, condition }) {
        state.gas[cylinderId] = condition
      },
    },
    'recovery-planned': wordsOnly<RecoveryPlan>((state, plan, { time }) => {
      state.plan = { ...plan, at: time }
    }),
    'gas-tested': wordsOnly<GasTest>(
      (state, test, { time }) => {
        state.gasTests.push({ ...test, at: time })
      },
      { correctable: true },
    ),
  },
  settle(state) {
    state.episodes = episodesOf(state)
    state.recoveredMg = recoveredEpisode(state)?.recoveredMg ?? 0
    const now = state.episodes.at(-1)!
    const inMg = now.began === 'empty' ? now.heldMg : now.inMg
    state.chargedMg = now.emptiedAt === undefined ? inMg : 0
  },
  next,
  progress: {
    recover: (state) => {
      const last = recoveredEpisode(state)
      if (!last && !state.episodes.at(-1)!.end) return 'untouched'
      const end = (last ?? state.episodes.at(-1)!).end
      return end && end.how !== 'not-emptied' && end.contradictedPa === undefined ? 'done' : 'begun'
    },
  },
}

function next(state: JobState): NextStep | undefined {
  const now = state.episodes.at(-1)!
  const { end, emptiedAt, lastWas, lastAt = 0 } = now
  if (end && (end.how === 'not-emptied' || end.contradictedPa !== undefined)) return 'pull-again'
  if (end?.how === 'shut-in') return undefined
  if (emptiedAt !== undefined) {
    if (stepDone(state, 'unit-taken-away', emptiedAt)) return 'close-job'
    return end === undefined && lastWas === 'recover' && lastAt > emptiedAt ? afterPull(state) : undefined
  }
  if (now.began === 'empty') {
    if (isRecovered(now)) return afterPull(state)
    const found = state.leakChecks.findLast((each) => each.found)
    return found && found.at > lastAt && leakKnown(state) ? beforePull(state) : undefined
  }
  if (lastWas === 'charge') return undefined
  return now.pulls > 0 ? afterPull(state) : beforePull(state)
}

function beforePull({ refrigerant, systemId, chosen, transfers }: JobState): NextStep {
  if (!refrigerant && !systemId) return 'describe-system'
  // One that this job has recovered into already takes more.
  const known = [...chosen, ...transfers].some((each) => each.use === 'recover')
  return known ? 'start-recovery' : 'choose-cylinder'
}

/** A second cylinder that was planned and not used yet is there because the first has not room enough. */
function afterPull({ chosen, transfers }: JobState): NextStep {
  const unused = chosen.some(
    (each) =>
      each.use === 'recover' &&
      !transfers.some((one) => one.use === 'recover' && one.cylinderId === each.cylinderId),
  )
  return unused ? 'next-cylinder' : 'end-recovery'
}
