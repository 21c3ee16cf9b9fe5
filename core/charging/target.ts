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
