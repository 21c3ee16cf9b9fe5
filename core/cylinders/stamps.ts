import { MG_PER_KG, MG_PER_LB } from '../units'

/**
 * Is a water capacity suspiciously round? Stamped figures are odd ones (26.2 lb, 47.7 lb, 21.6 kg); a round one is
 * more often the size in the cylinder's name, which is not its water capacity, and would overfill it.
 */
export function looksLikeASizeName(waterCapacityMg: number): boolean {
  return [MG_PER_LB, MG_PER_KG].some((unit) => {
    const value = waterCapacityMg / unit
    const nearest = Math.round(value / 5) * 5
    return nearest > 0 && Math.abs(value - nearest) < 0.005
  })
}

/** A steel cylinder weighs half its water to one and a half times as much, a one-way one a fifth: a tenfold slip lies outside. */
const TARE_SHARE = { least: 0.12, most: 3 }

/** Is a tare no cylinder's of this water capacity? A point that slipped. */
export function isUnlikelyTare(tareMg: number, waterCapacityMg: number): boolean {
  const share = tareMg / waterCapacityMg
  return share < TARE_SHARE.least || share > TARE_SHARE.most
}
