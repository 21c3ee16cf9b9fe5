import {
  highestPressurePa,
  OutOfRangeError,
  saturationPressurePa,
  saturationTempK,
  type SaturationTable,
} from '../refrigerants'
import { ZERO_CELSIUS_K } from '../units'

/** Plenty for a cylinder, and never more. */
export const PLENTY_K = 40 + ZERO_CELSIUS_K
export const NEVER_ABOVE_K = 50 + ZERO_CELSIUS_K

export interface WarmWater {
  /** How warm the water is made. */
  tempK: number
  /** What the cylinder then stands at, absolute Pa; undefined: beyond the gas's table. */
  pressurePa?: number
  /** Its rating, not the usual 40 C, keeps it cooler. */
  byRating: boolean
}

/**
 * Warm water for a cylinder that gives nothing more: 40 C is plenty, never above 50; cooler where the cylinder's own
 * service pressure would be passed.
 * @param servicePa its stamped service pressure, absolute; null: not known
 */
export function warmWater(table: SaturationTable, servicePa: number | null): WarmWater {
  let tempK = PLENTY_K
  let byRating = false
  try {
    if (servicePa !== null && servicePa < highestPressurePa(table)) {
      const ratedK = saturationTempK(table, servicePa, 'bubble')
      if (ratedK < tempK) [tempK, byRating] = [ratedK, true]
    }
    return { tempK, pressurePa: saturationPressurePa(table, tempK, 'bubble'), byRating }
  } catch (error) {
    if (error instanceof OutOfRangeError) return { tempK, byRating }
    throw error
  }
}
