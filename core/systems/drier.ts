import { liquidDensity, type SaturationTable } from '../refrigerants'
import { ZERO_CELSIUS_K } from '../units'

/**
 * What a filter-drier in the liquid line holds, kg: roughly 0.6 of its shell volume, liquid at 40 C. The maker's figure
 * wins.
 */
export function drierHoldKg(table: SaturationTable, shellM3: number): number {
  return 0.6 * shellM3 * liquidDensity(table, 40 + ZERO_CELSIUS_K)
}
