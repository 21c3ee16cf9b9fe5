import { waterPa } from '../refrigerants'

/** Psychrometer constant of a wetted thermometer in moving air, 1/K (Sprung), and the air around at sea level, Pa. */
const PER_K = 0.000665
const AIR_PA = 101_325

/** Relative humidity from dry and wet bulb, 0 to 1. */
export function relativeHumidity(dryK: number, wetK: number): number {
  const vapourPa = waterPa(wetK) - PER_K * AIR_PA * (dryK - wetK)
  return Math.min(1, Math.max(0, vapourPa / waterPa(dryK)))
}
