import { MG_PER_G, MG_PER_KG } from '../units'

/** Divisions that scales of the trade count in, mg. */
export const DIVISIONS_MG = [100, 500, 1_000, 2_000, 5_000, 10_000, 20_000, 50_000] as const

/** Where nobody knows it: what the trade's scales count in, and above 60 kg twice that. */
const ASSUMED = { upToMg: 60 * MG_PER_KG, smallMg: 5 * MG_PER_G, largeMg: 10 * MG_PER_G }
/** Half a division either way, evenly spread: one standard deviation is the division over the root of twelve. */
const SPREAD = 1 / Math.sqrt(12)
/** Hose and table add about half as much again. */
const HOSE_AND_TABLE = 1.5
/** Two scales of unknown accuracy are each off by something: one standard deviation, in divisions. An assumption. */
export const OFF_BY_DIVISIONS = 2

/**
 * The division to reckon with, mg: the scale's own, else 5 g up to 60 kg gross and 10 g above.
 * @param heaviestMg largest reading taken on it
 */
export function divisionMg(own: number | null, heaviestMg: number): number {
  return own ?? (heaviestMg > ASSUMED.upToMg ? ASSUMED.largeMg : ASSUMED.smallMg)
}

/** One standard deviation of a difference of two readings of one scale, mg: its offset cancels. 5 g: 3.1 g. */
export function differenceSigmaMg(division: number): number {
  return Math.SQRT2 * HOSE_AND_TABLE * SPREAD * division
}

/** What a scale counts in, and how far it may be off over its range (a limit of error); null: not known. */
export interface ScaleDoubt {
  divisionMg: number
  accuracyMg: number | null
}

/** One standard deviation of a difference of readings of two scales, mg: their offsets do not cancel. */
export function twoScalesSigmaMg(first: ScaleDoubt, second: ScaleDoubt): number {
  return Math.hypot(alone(first), alone(second))
}

function alone({ divisionMg: division, accuracyMg }: ScaleDoubt): number {
  const offMg = accuracyMg === null ? OFF_BY_DIVISIONS * division : accuracyMg / Math.sqrt(3)
  return Math.hypot(HOSE_AND_TABLE * SPREAD * division, offMg)
}

/** The coarsest division, mg, whose difference of two readings is known to a tolerance at two standard deviations. */
export function divisionThatCould(toleranceMg: number): number | undefined {
  return DIVISIONS_MG.findLast((division) => 2 * differenceSigmaMg(division) <= toleranceMg)
}
