import { divisionThatCould } from '../scales'
import { MG_PER_KG } from '../units'
import { rule, quantity, type Verdict } from '../verdict'
import type { Trade } from '../systems'

/** earlier: what an earlier job left in it by the books; retrofit: percent of the plate, in another gas. */
export type TargetBasis = 'recovered' | 'expected' | 'earlier' | 'retrofit' | 'typed'

export type TargetReason =
  | 'recovered-agrees'
  | 'recovered-only'
  | 'plate-agrees'
  | 'plate-wins'
  | 'label-of-earlier'
  | 'percent-of-plate'

export interface ChargeTarget {
  basis: TargetBasis
  massMg: number
  /** The amount may miss the target by this much either way. */
  toleranceMg: number
  /** Why this basis is offered. */
  reason: TargetReason
}

export interface TargetInput {
  trade: Trade
  /** Net recovered on this job, mg. */
  recoveredMg: number
  /** Plate + lines + accessories, mg; null where unknown. */
  expectedMg: number | null
  /** What an earlier job left in it, by the books, mg; null: they do not know. */
  earlierMg?: number | null
  /** After a change of gas: so much of the plate's mass, mg; null: nobody has said how much. What came out was another gas, and says nothing. */
  retrofitMg?: number | null
  /** The verdict that stands says that the recovered weight is what was expected, and no leak was found. */
  recoveredAgrees: boolean
}

/**
 * The targets to choose from, the default first. Two schools: what came out goes back in (when nothing leaked and the
 * plate agrees), or what the plate says with lines and accessories. Stationary work defaults to the recovered weight;
 * vehicles to the plate, because a recovered weight is only good to about 30 g and a vehicle wants 15.
 */
export function chargeTargets({
  trade,
  recoveredMg,
  expectedMg,
  earlierMg = null,
  retrofitMg,
  recoveredAgrees,
}: TargetInput): ChargeTarget[] {
  const target = (basis: TargetBasis, massMg: number, reason: TargetReason): ChargeTarget => ({
    basis,
    massMg,
    reason,
    toleranceMg: chargeToleranceMg(massMg, trade),
  })
  if (retrofitMg !== undefined)
    return retrofitMg === null ? [] : [target('retrofit', retrofitMg, 'percent-of-plate')]
  const recovered =
    recoveredMg > 0
      ? [target('recovered', recoveredMg, recoveredAgrees ? 'recovered-agrees' : 'recovered-only')]
      : []
  const expected =
    expectedMg !== null
      ? [target('expected', expectedMg, recoveredAgrees ? 'plate-agrees' : 'plate-wins')]
      : []
  // Only where it says something else than the plate does.
  const differs =
    earlierMg !== null &&
    earlierMg > 0 &&
    (expectedMg === null || Math.abs(earlierMg - expectedMg) > chargeToleranceMg(expectedMg, trade))
  const earlier = differs ? [target('earlier', earlierMg, 'label-of-earlier')] : []
  return recoveredAgrees && trade === 'stationary'
    ? [...recovered, ...expected, ...earlier]
    : [...expected, ...earlier, ...recovered]
}

/**
 * How far a charge may be off, mg: vehicles 15 g; stationary the larger of 1 % and 15 g; under 500 g the larger of
 * 2 % and 2 g (and a scale that reads 1 g). The plate's own tolerance wins.
 */
export function chargeToleranceMg(massMg: number, trade: Trade): number {
  if (massMg < 500_000) return Math.max(Math.round(0.02 * massMg), 2_000)
  if (trade === 'vehicle') return 15_000
  return Math.max(Math.round(0.01 * massMg), 15_000)
}

/**
 * Scale reading at which to close the cylinder.
 * @param startMg reading before charging: gross, or 0 on a zeroed scale (the result is then negative)
 * @param hoseKeepMg what the liquid hose will keep, if the running system does not swallow it
 */
export function stopWeightMg(startMg: number, targetMg: number, hoseKeepMg: number): number {
  return startMg - targetMg - hoseKeepMg
}

export type ChargeCode = 'charge-on-target' | 'charge-short' | 'charge-over' | 'cannot-tell-with-this-scale'
export type ChargeReason = 'within-tolerance' | 'outside-tolerance' | 'scale-too-coarse'
export type ChargeVerdict = Verdict<ChargeCode, ChargeReason>

/**
 * Is what is in the system on target? Short or over is sure beyond the tolerance and twice the weighing's standard
 * deviation. Within that, a scale whose doubt is larger than the tolerance cannot tell; else the tolerance decides.
 * @param charged what is in the system now, with one standard deviation
 */
export function judgeCharge(
  charged: { massMg: number; sigmaMg: number },
  target: { massMg: number; toleranceMg: number },
): ChargeVerdict {
  const differenceMg = charged.massMg - target.massMg
  const kg = (massMg: number) => massMg / MG_PER_KG
  const doubtMg = 2 * charged.sigmaMg
  const numbers = [
    quantity('charged', kg(charged.massMg), 'kg', kg(charged.sigmaMg)),
    quantity('target', kg(target.massMg), 'kg'),
    quantity('difference', kg(differenceMg), 'kg', kg(charged.sigmaMg)),
    quantity('tolerance', kg(target.toleranceMg), 'kg'),
  ]
  const verdict = (outcome: Verdict['outcome'], code: ChargeCode, reason: ChargeReason): ChargeVerdict => ({
    outcome,
    code,
    reasons: [{ code: reason }],
    numbers,
    rule: rule('charge-tolerance'),
  })
  const off = differenceMg < 0 ? 'charge-short' : 'charge-over'
  if (Math.abs(differenceMg) > target.toleranceMg + doubtMg)
    return verdict('caution', off, 'outside-tolerance')
  if (doubtMg > target.toleranceMg) {
    const division = divisionThatCould(target.toleranceMg)
    if (division !== undefined) numbers.push(quantity('division', kg(division), 'kg'))
    return verdict('open', 'cannot-tell-with-this-scale', 'scale-too-coarse')
  }
  return Math.abs(differenceMg) <= target.toleranceMg
    ? verdict('good', 'charge-on-target', 'within-tolerance')
    : verdict('caution', off, 'outside-tolerance')
}
