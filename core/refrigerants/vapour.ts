import { type SaturationTable, saturationPressurePa, vapourDensity } from './saturation'

/** J/(mol K). */
export const GAS_CONSTANT = 8.314462618

/**
 * Density of vapour, kg/m3, at or below its dew pressure; at a higher pressure it condenses, and the density is that of
 * saturated vapour. Ideal gas bent so that it meets the table at saturation: within 1.7 % of the equations of state.
 * @param molarMassG g/mol
 * @param pressurePa absolute
 * @throws OutOfRangeError for a temperature outside the table
 */
export function vapourDensityAt(
  table: SaturationTable,
  molarMassG: number,
  pressurePa: number,
  tempK: number,
): number {
  const saturationPa = saturationPressurePa(table, tempK, 'dew')
  const saturated = vapourDensity(table, tempK)
  const share = pressurePa / saturationPa
  if (share >= 1) return saturated
  const ideal = (saturationPa * molarMassG) / 1000 / (GAS_CONSTANT * tempK)
  return (share * ideal) / (1 - (1 - ideal / saturated) * share)
}
