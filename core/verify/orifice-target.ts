import { ZERO_CELSIUS_K } from '../units'

const F_PER_K = 1.8
const toF = (tempK: number) => (tempK - ZERO_CELSIUS_K) * F_PER_K + 32

/** Below this, kelvin, a system with a fixed orifice is not charged by superheat (about 5 F). */
export const LEAST_TARGET_K = 5 / F_PER_K

/**
 * Superheat that a fixed orifice should show, kelvin: (3 WB - 80 - DB)/2 with indoor wet bulb and outdoor dry bulb in F.
 * May be negative or below {@link LEAST_TARGET_K}: then do not charge by superheat.
 */
export function orificeTargetSuperheatK(indoorWetBulbK: number, outdoorK: number): number {
  return (3 * toF(indoorWetBulbK) - 80 - toF(outdoorK)) / 2 / F_PER_K
}

/** A healthy system with a fixed orifice shows that so far either way, kelvin. */
export const ORIFICE_EITHER_WAY_K = 3
