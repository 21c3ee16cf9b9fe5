import { MG_PER_KG } from '../units'
import type { Verdict } from '../verdict'
import type { Trade } from '../systems'

export type TargetBasis = 'recovered' | 'expected' | 'typed'

export interface ChargeTarget {
  basis: TargetBasis
  massMg: number
  /** The amount may miss the target by this much either way. */
  toleranceMg: number
  /** Why this basis is offered. */
  reason: string
}

export interface TargetInput {
  trade: Trade
  /** Net recovered on this job, mg. */
  recoveredMg: number
  /** Plate + lines + accessories, mg; null where unknown. */
  expectedMg: number | null
  /** The recovered weight matched what was expected, and no leak was found. */
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
  recoveredAgrees,
}: TargetInput): ChargeTarget[] {
  const target = (basis: TargetBasis, massMg: number, reason: string): ChargeTarget => ({
    basis,
    massMg,
    reason,
    toleranceMg: chargeToleranceMg(massMg, trade),
  })
  const recovered =
    recoveredMg > 0
      ? [target('recovered', recoveredMg, recoveredAgrees ? 'recovered-agrees' : 'recovered-only')]
      : []
  const expected =
    expectedMg !== null
      ? [target('expected', expectedMg, recoveredAgrees ? 'plate-agrees' : 'plate-wins')]
      : []
  return recoveredAgrees && trade === 'stationary' ? [...recovered, ...expected] : [...expected, ...recovered]
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

/**
 * Did what went in meet the target? Judged against the tolerance and twice the weighing's standard deviation.
 * @param charged net of what stayed in the hoses
 */
export function judgeCharge(
  charged: { massMg: number; sigmaMg: number },
  target: { massMg: number; toleranceMg: number },
): Verdict {
  const differenceMg = charged.massMg - target.massMg
  const kg = (massMg: number) => massMg / MG_PER_KG
  const within = Math.abs(differenceMg) <= target.toleranceMg + 2 * charged.sigmaMg
  return {
    outcome: within ? 'good' : 'caution',
    code: within ? 'charge-on-target' : differenceMg < 0 ? 'charge-short' : 'charge-over',
    reasons: [{ code: within ? 'within-tolerance' : 'outside-tolerance' }],
    numbers: [
      { name: 'charged', value: kg(charged.massMg), unit: 'kg', sigma: kg(charged.sigmaMg) },
      { name: 'target', value: kg(target.massMg), unit: 'kg' },
      { name: 'difference', value: kg(differenceMg), unit: 'kg', sigma: kg(charged.sigmaMg) },
      { name: 'tolerance', value: kg(target.toleranceMg), unit: 'kg' },
    ],
    source:
      'tolerance of the plate, else 15 g for vehicles and the larger of 1 % and 15 g for stationary systems',
  }
}
