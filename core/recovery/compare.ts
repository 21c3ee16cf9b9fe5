import { divisionThatCould } from '../scales'
import { MG_PER_KG } from '../units'
import { rule, quantity, type Verdict } from '../verdict'

/** A mass with one standard deviation, mg. */
export interface Weighed {
  massMg: number
  sigmaMg: number
}

/** How a recovery ended. Without `emptied` too little says nothing. */
export type RecoveryEndKind =
  /** Down to level. */
  | 'emptied'
  /** Stopped before that, or nobody can say. */
  | 'not-emptied'
  /** The charge was gone: lost before anybody came, or let go since. */
  | 'lost'
  /** Somebody else took it out, without Keg. */
  | 'elsewhere'
  /** The charge stays, shut into a part of the system. */
  | 'shut-in'
  /** There never was any: a new system, or one that stood evacuated. */
  | 'never-filled'

export type RecoveryCode =
  | 'nothing-recovered'
  | 'no-expectation'
  | 'more-than-expected'
  | 'as-expected'
  | 'not-emptied'
  | 'mostly-gone'
  | 'less-than-expected'
  | 'cannot-tell-with-this-scale'
  /** What should have been in there is a guess. */
  | 'expectation-in-doubt'
  | 'charge-shut-in'
  | 'recovered-elsewhere'
export type RecoveryReason =
  | 'charge-gone'
  | 'leak-test-next'
  | 'plate-unknown'
  | 'overcharged-unless-explained'
  | 'look-for-lines-and-driers'
  | 'not-a-leak'
  | 'may-go-back-if-clean'
  | 'rest-still-inside'
  | 'nothing-came-valve-or-empty'
  /** There was pressure in it before the pull. */
  | 'pressure-was-there'
  | 'flowed-back'
  | 'line-first'
  | 'rest-may-come'
  | 'pressure-above-level'
  | 'pull-again-or-hold'
  | 'large-leak'
  | 'undercharged'
  | 'find-the-leak'
  | 'scale-too-coarse'
  | 'stays-in-the-unit'
  | 'not-weighed-here'
export type RecoveryVerdict = Verdict<RecoveryCode, RecoveryReason>

/**
 * What a finished recovery leaves behind in oil, corners and hoses: 1 % of the charge and 30 g, of a small charge no
 * more than a tenth. Experience of the trade, not a standard.
 */
const REST = { fixedMg: 30_000, share: 0.01, most: 0.1 }
/** Below this nothing was recovered to speak of: 20 g, of a small charge 2 %, never less than the scale can tell. */
const NOTHING = { mostMg: 20_000, share: 0.02 }
const MOSTLY_GONE = 0.5
/** A plate alone is known to about 1 %: what is known worse than that has something guessed in it. */
const isGuess = ({ massMg, sigmaMg }: Weighed) => sigmaMg > 0.015 * massMg
/** Nothing is missing can be said where all doubt together is within this share. */
const WITHIN = 0.1

export interface HowItEnded {
  how?: Exclude<RecoveryEndKind, 'never-filled'>
  /** Noted after the last pull, above the level, Pa. */
  contradictedPa?: number | undefined
  /** What is expected was weighed in, by this job or the books: nothing of it is guessed. */
  weighed?: boolean
  /** Noted before the first pull, above the air around by more than its gauge may be off, Pa. */
  stoodPa?: number | undefined
}

/**
 * What the recovered weight says. The difference to the expected charge is judged against twice the combined
 * uncertainty; on the low side also against what a recovery leaves behind. Where the scale alone is coarser than that,
 * the answer is that this scale cannot tell.
 * Nothing recovered, or no plate: no verdict on over or under, on to the leak test.
 * Not emptied, more may come: about right says nothing yet. And a guess of what was in there is no proof that nothing is missing.
 * @param recovered net in this episode
 * @param expected null where no plate is known
 */
export function compareRecovered(
  recovered: Weighed,
  expected: Weighed | null,
  { how = 'emptied', weighed = false, contradictedPa, stoodPa }: HowItEnded = {},
): RecoveryVerdict {
  const kg = (massMg: number) => massMg / MG_PER_KG
  const twoSigmaMg = 2 * recovered.sigmaMg
  const numbers = [quantity('recovered', kg(recovered.massMg), 'kg', kg(recovered.sigmaMg))]
  const verdict = (
    outcome: Verdict['outcome'],
    code: RecoveryCode,
    ...reasons: RecoveryReason[]
  ): RecoveryVerdict => ({
    outcome,
    code,
    reasons: reasons.map((reason) => ({ code: reason })),
    numbers,
    rule: rule('against-expected'),
  })
  if (how === 'shut-in') return verdict('open', 'charge-shut-in', 'stays-in-the-unit')
  if (how === 'elsewhere') return verdict('open', 'recovered-elsewhere', 'not-weighed-here')
  // By the books it was left empty: a share of nothing is no bound.
  const some = expected && expected.massMg > 2 * expected.sigmaMg
  const nothingMg = Math.max(
    twoSigmaMg,
    Math.min(NOTHING.mostMg, some ? NOTHING.share * expected.massMg : NOTHING.mostMg),
  )
  const nothing = recovered.massMg < nothingMg
  if (contradictedPa !== undefined) {
    numbers.push(quantity('level', contradictedPa, 'Pa'))
    return verdict('open', 'not-emptied', 'pressure-above-level', 'pull-again-or-hold')
  }
  // Expected little and a coarse scale: what "nothing" is cannot be seen on it.
  if (nothing && how === 'not-emptied')
    return verdict('open', 'not-emptied', 'nothing-came-valve-or-empty', 'pull-again-or-hold')
  if (nothing && some && twoSigmaMg > NOTHING.share * expected.massMg && twoSigmaMg > restMg(expected)) {
    addDivision(restMg(expected))
    return verdict('open', 'cannot-tell-with-this-scale', 'scale-too-coarse')
  }
  if (recovered.massMg < -twoSigmaMg)
    return verdict('open', 'not-emptied', 'flowed-back', 'pull-again-or-hold')
  if (nothing && stoodPa !== undefined) {
    numbers.push(quantity('level', stoodPa, 'Pa'))
    return verdict('open', 'not-emptied', 'pressure-was-there', 'nothing-came-valve-or-empty')
  }
  if (nothing) return verdict('open', 'nothing-recovered', 'charge-gone', 'leak-test-next')
  if (!expected)
    return how === 'not-emptied'
      ? verdict('open', 'not-emptied', 'plate-unknown', 'pull-again-or-hold')
      : verdict('open', 'no-expectation', 'plate-unknown')

  const differenceMg = recovered.massMg - expected.massMg
  const sigmaMg = Math.hypot(recovered.sigmaMg, expected.sigmaMg)
  const rest = restMg(expected)
  numbers.push(
    quantity('expected', kg(expected.massMg), 'kg', kg(expected.sigmaMg)),
    quantity('difference', kg(differenceMg), 'kg', kg(sigmaMg)),
    ...(expected.massMg > 0
      ? [quantity('variance', differenceMg / expected.massMg, 'share', sigmaMg / expected.massMg)]
      : []),
    quantity('left-behind', kg(rest), 'kg'),
  )
  if (differenceMg > 2 * sigmaMg)
    return verdict(
      'caution',
      'more-than-expected',
      'overcharged-unless-explained',
      'look-for-lines-and-driers',
    )
  if (differenceMg >= -(2 * sigmaMg + rest)) {
    if (twoSigmaMg > rest) {
      addDivision(rest)
      return verdict('open', 'cannot-tell-with-this-scale', 'scale-too-coarse')
    }
    if (how === 'not-emptied') return verdict('open', 'not-emptied', 'rest-may-come', 'pull-again-or-hold')
    if (!weighed && isGuess(expected) && 2 * sigmaMg + rest > WITHIN * expected.massMg)
      return verdict('open', 'expectation-in-doubt', 'line-first')
    return verdict('good', 'as-expected', 'not-a-leak', 'may-go-back-if-clean')
  }
  if (how === 'not-emptied') return verdict('open', 'not-emptied', 'rest-still-inside', 'pull-again-or-hold')
  if (recovered.massMg < MOSTLY_GONE * expected.massMg)
    return verdict('bad', 'mostly-gone', 'large-leak', 'leak-test-next')
  return verdict('caution', 'less-than-expected', 'undercharged', 'find-the-leak')

  function addDivision(toleranceMg: number) {
    const division = divisionThatCould(toleranceMg)
    if (division !== undefined) numbers.push(quantity('division', kg(division), 'kg'))
  }
}

/** What a recovery leaves behind at the most, of a charge, mg. */
export function restMg({ massMg }: Pick<Weighed, 'massMg'>): number {
  return Math.min(REST.fixedMg, REST.most * massMg) + REST.share * massMg
}
