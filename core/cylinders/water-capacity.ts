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
