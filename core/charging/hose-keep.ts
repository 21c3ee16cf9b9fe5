import { type Tube, tubeVolumeM3 } from '../hoses'
import { liquidDensity, OutOfRangeError, type SaturationTable, vapourDensity } from '../refrigerants'
import { MG_PER_KG } from '../units'

/** What a hose keeps of a charge, mg. */
export interface HoseKeeps {
  /** Full of liquid: closed off at the port while the cylinder stands open, or taken off. */
  liquidMg: number
  /** The cylinder shut first, and the running system draws it in: vapour at its low side's saturation stays. */
  swallowedMg: number
}

/** Evaporating, about: what the low side of a running system stands at, K. */
const LOW_SIDE_K = 273.15

/**
 * What the hose from the cylinder keeps, full of liquid at a temperature, and once the running system has swallowed it.
 * @returns undefined where the gas has no liquid there
 */
export function hoseKeeps(table: SaturationTable, hose: Tube, tempK: number): HoseKeeps | undefined {
  const volumeM3 = tubeVolumeM3(hose)
  try {
    return {
      liquidMg: Math.round(volumeM3 * liquidDensity(table, tempK) * MG_PER_KG),
      swallowedMg: Math.round(volumeM3 * vapourDensity(table, LOW_SIDE_K) * MG_PER_KG),
    }
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
