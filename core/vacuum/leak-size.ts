import { GAS_CONSTANT } from '../refrigerants'
import { STANDARD_ATMOSPHERE_PA } from '../units'

const YEAR_S = 365 * 86_400
/** Air at 20 C, and refrigerant vapours about there, Pa s. */
const AIR_VISCOSITY = 18.2e-6
const VAPOUR_VISCOSITY = 12.5e-6

/** Air that comes in, Pa m3/s: V dp/dt. */
export const inflow = (slopePaS: number, volumeM3: number): number => slopePaS * volumeM3

/**
 * What a leak that lets air into a vacuum would let out in a year, kg: viscous flow goes as p1^2 - p2^2 over the
 * viscosity. An order of magnitude: a fine leak is not viscous, and a seal leaks otherwise the other way.
 * @param paM3S air coming in; @param workingPa absolute, standing pressure of the system
 */
export function lostInYearKg(
  paM3S: number,
  workingPa: number,
  molarMassG: number,
  tempK: number,
  atmospherePa = STANDARD_ATMOSPHERE_PA,
): number {
  const drive = Math.max(0, workingPa ** 2 - atmospherePa ** 2) / atmospherePa ** 2
  const out = paM3S * drive * (AIR_VISCOSITY / VAPOUR_VISCOSITY)
  return ((out * molarMassG) / 1000 / (GAS_CONSTANT * tempK)) * YEAR_S
}
