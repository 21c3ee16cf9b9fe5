import {
  DENSE_GAS_DOUBT,
  denseGasPa,
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
  /** What the cylinder then stands at, absolute Pa; undefined: above its critical point, and nobody knows how full it is. */
  pressurePa?: number
  /** How far that may be off, as a share: above its critical point it goes by what is in it. */
  doubt?: number
  /** Its rating, not the usual 40 C, keeps it cooler. */
  byRating: boolean
}

/**
 * Warm water for a cylinder that gives nothing more: 40 C is plenty, never above 50; cooler where the cylinder's own
 * service pressure would be passed.
 * @param servicePa its stamped service pressure, absolute; null: not known
 * @param heldKgM3 what is in it over its volume: above its critical point a gas goes by that
 */
export function warmWater(table: SaturationTable, servicePa: number | null, heldKgM3?: number): WarmWater {
  let tempK = PLENTY_K
  let byRating = false
  try {
    if (servicePa !== null && servicePa < highestPressurePa(table)) {
      const ratedK = saturationTempK(table, servicePa, 'bubble')
      if (ratedK < tempK) [tempK, byRating] = [ratedK, true]
    }
    return { tempK, pressurePa: saturationPressurePa(table, tempK, 'bubble'), byRating }
  } catch (error) {
    if (!(error instanceof OutOfRangeError)) throw error
    return heldKgM3 === undefined ? { tempK, byRating } : asDenseGas(table, servicePa, heldKgM3)
  }
}

/** The warmest water, degree by degree, in which the cylinder may be at its service pressure at most. */
function asDenseGas(table: SaturationTable, servicePa: number | null, heldKgM3: number): WarmWater {
  const pressureAt = (tempK: number) => denseGasPa(table.code, heldKgM3, tempK)
  const mostPa = servicePa === null ? Infinity : servicePa / (1 + DENSE_GAS_DOUBT)
  let tempK = PLENTY_K
  while ((pressureAt(tempK) ?? 0) > mostPa) tempK -= 1
  const pressurePa = pressureAt(tempK)
  return {
    tempK,
    byRating: tempK < PLENTY_K,
    ...(pressurePa !== undefined && { pressurePa, doubt: DENSE_GAS_DOUBT }),
  }
}
