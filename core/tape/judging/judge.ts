import { chargeTargets, type ChargeTarget } from '../../charging'
import { compareRecovered, type RecoveryVerdict, type Weighed } from '../../recovery'
import type { Trade } from '../../systems'
import type { HoldVerdict } from '../../vacuum'
import { STANDARD_ATMOSPHERE_PA } from '../../units'
import { ENGINE_VERSION, type LimitedBy, type Verdict } from '../../verdict'
import type { Metering } from '../../verify'
import { judgeChecks } from './judge-readings'
import type { GivenVerdict, VerdictAbout } from '../chapters/verdicts'
import { verdictOn } from './hold-verdict'
import { vacuumGiven } from './vacuum-given'
import { type Episode, recoveredEpisode } from '../mass/episodes'
import { judgeCharged } from '../mass/charged'
import { asFound, type Reference } from '../mass/in-system'
import { coarsestScale, gaugeAt, vacuumGaugeAt } from '../mass/instruments'
import type { JobState } from '../envelope/state'

/** Everything outside the tape that judging needs. */
export interface JudgingContext extends Reference {
  trade: Trade
  metering: Metering
  plateSubcoolingK: number | null
}

/** What should have been in the system at the beginning of the episode that was recovered from. */
export function expectedMass(state: JobState, reference: Reference): Weighed | null {
  const episode = recoveredEpisode(state) ?? state.episodes.at(-1)!
  if (episode.began === 'empty') return { massMg: episode.inMg, sigmaMg: episode.inSigmaMg }
  return asFound(reference)?.weighed ?? null
}

/** What the recovery that ended says; undefined: none has ended. */
export function judgeRecovery(state: JobState, reference: Reference): RecoveryVerdict | undefined {
  const episode = recoveredEpisode(state) ?? state.episodes.findLast((each) => each.end)
  if (!episode?.end) return undefined
  const { recoveredMg, keptMg, outSigmaMg, inSigmaMg, end, began } = episode
  // Nothing was to come out: there is nothing to judge.
  if (end.how === 'never-filled') return undefined
  const sigmaMg = Math.round(Math.hypot(outSigmaMg, began === 'as-found' ? inSigmaMg : 0))
  const expected = expectedMass(state, reference)
  // What a machine that was not purged holds came out as well; it is known to about half of it.
  const recovered = {
    massMg: recoveredMg + keptMg,
    sigmaMg: Math.round(Math.hypot(sigmaMg, keptMg / 2)),
  }
  const verdict = compareRecovered(recovered, expected, {
    how: end.how,
    weighed: began === 'empty' || asFound(reference)?.from === 'books',
    contradictedPa: end.contradictedPa,
    stoodPa: stoodBefore(state, episode),
  })
  const scale = coarsestScale(state.transfers)
  const limitedBy: LimitedBy | undefined =
    expected && expected.sigmaMg > recovered.sigmaMg ? { what: 'expected', label: '' } : scale
  return limitedBy && verdict.numbers.some((each) => each.name === 'recovered')
    ? { ...verdict, limitedBy }
    : verdict
}

/** The newest pressure noted in an episode before anything was pulled, where its gauge shows that it is above the air around. */
function stoodBefore(state: JobState, { firstPullAt = -Infinity, beganAt }: Episode): number | undefined {
  const noted = state.pressureNotes.findLast(
    (each) => (each.point === 'low' || each.point === 'high') && each.at >= beganAt && each.at < firstPullAt,
  )
  if (!noted) return undefined
  const edgePa = (noted.atmospherePa ?? STANDARD_ATMOSPHERE_PA) + gaugeAt(state, noted.at).value
  return noted.value > edgePa ? noted.value : undefined
}

/** The last hold that ended: pass or fail, and what its curve says of leak and moisture. */
export function judgeLastHold(state: JobState, context: JudgingContext): HoldVerdict | undefined {
  const hold = state.holds.findLast((each) => each.endedAt !== undefined)
  if (!hold) return undefined
  const gauge = vacuumGaugeAt(state, hold.endedAt!)
  return {
    ...verdictOn(vacuumGiven(state, hold, context)),
    limitedBy: { what: 'vacuum-gauge', label: gauge.label },
  }
}

/** The numbers that a verdict was built on: where one of them is another now, the verdict is stale. */
const BUILT_ON: Record<VerdictAbout, string[]> = {
  recovery: ['recovered', 'expected', 'level'],
  hold: ['start', 'end', 'highest', 'held-for'],
  charge: ['charged', 'target', 'tolerance'],
  readings: [
    'superheat',
    'subcooling',
    'td',
    'over-ambient',
    'air-drop',
    'low-gauge',
    'vent-drop',
    'drier-drop',
    'standing',
  ],
}

/** A verdict is given a moment before what it is given on has its time: no more than that is no other length. */
const SLACK_S = 3

export interface StandingVerdict extends GivenVerdict {
  /** What it was built on has changed since: judge anew. */
  stale: boolean
  /** Neither overruled nor stale: others may build on it. */
  stands: boolean
}

/** The judgement as it would be given now; undefined where there is nothing to judge. */
export function judgeNow(state: JobState, about: VerdictAbout, context: JudgingContext): Verdict | undefined {
  switch (about) {
    case 'recovery':
      return judgeRecovery(state, context)
    case 'hold':
      return judgeLastHold(state, context)
    case 'charge':
      return judgeCharged(state)
    case 'readings':
      return judgeChecks(state, context)
  }
}

/** The last verdict given on something, and whether it still stands. */
export function standingVerdict(
  state: JobState,
  about: VerdictAbout,
  context: JudgingContext,
): StandingVerdict | undefined {
  const given = state.verdicts.findLast((each) => each.about === about)
  if (!given) return undefined
  const now = judgeNow(state, about, context)
  const numberIn = (verdict: Verdict | undefined, name: string) =>
    verdict?.numbers.find((each) => each.name === name)
  const otherNumber = BUILT_ON[about].some((name) => {
    const was = numberIn(given.verdict, name)
    const is = numberIn(now, name)
    // A number that only a newer judge names says nothing of an older verdict.
    if (!was) return false
    const slack = was.unit === 's' ? SLACK_S : 1e-9 * Math.max(1, Math.abs(was.value))
    return !is || Math.abs(was.value - is.value) > slack
  })
  // The same judge would say something else now: a plate was entered, or another end was said.
  const otherWord = given.engine === ENGINE_VERSION && now?.code !== given.verdict.code
  const stale = otherNumber || otherWord
  return { ...given, stale, stands: !stale && given.overruled === undefined }
}

/** The targets to choose from, the default first. They build on the recovery's verdict only while it stands. */
export function targetsFor(state: JobState, context: JudgingContext): ChargeTarget[] {
  const verdict = standingVerdict(state, 'recovery', context)
  const found = state.leakChecks.some((each) => each.found)
  const episode = recoveredEpisode(state)
  const retrofit = state.gasChanges.length > 0
  return chargeTargets({
    trade: context.trade,
    recoveredMg: episode?.recoveredMg ?? 0,
    expectedMg: massOf('expected', state, context),
    earlierMg: massOf('earlier', state, context),
    ...(retrofit && { retrofitMg: massOf('retrofit', state, context) }),
    recoveredAgrees: verdict?.stands === true && verdict.verdict.code === 'as-expected' && !found,
  })
}

/** What a target of such a basis is now, mg; null: nobody knows. */
function massOf(basis: 'expected' | 'earlier' | 'retrofit', state: JobState, { plate, books }: Reference) {
  switch (basis) {
    case 'expected':
      return withNewParts(state, plate?.massMg ?? null)
    case 'earlier':
      return withNewParts(state, books?.massMg ?? null)
    case 'retrofit': {
      const share = state.gasChanges.at(-1)?.platePct
      const plateMg = plate?.massMg ?? books?.massMg
      return share === undefined || plateMg === undefined ? null : Math.round((plateMg * share) / 100)
    }
  }
}

/** What new parts change in what a system should hold: a larger drier holds more. */
function withNewParts({ parts }: JobState, massMg: number | null): number | null {
  return massMg === null ? null : Math.max(0, massMg + parts.reduce((sum, each) => sum + each.chargeMg, 0))
}

/** What the target was taken from, where that is another mass now: a weight or a plate was put right, a part was changed, mg. */
export function targetMoved(state: JobState, reference: Reference): number | undefined {
  const { target } = state
  if (!target || target.basis === 'typed') return undefined
  const now = target.basis === 'recovered' ? state.recoveredMg : massOf(target.basis, state, reference)
  return now === null || now === target.massMg ? undefined : now
}
