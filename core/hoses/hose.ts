/**
 * Inner bore of a hose by its nominal size in inches, metres: usual values of the trade (half-inch hoses are 11 to 12.7
 * mm). Makes differ: a measured bore wins.
 */
export const HOSE_BORE_M: Record<string, number> = { '1/4': 4.8e-3, '3/8': 8e-3, '1/2': 11e-3 }

/** A round tube. */
export interface Tube {
  boreM: number
  lengthM: number
}

/** A valve core left in acts like this tube in series: an estimate, not a measurement. */
export const VALVE_CORE: Tube = { boreM: 1.5e-3, lengthM: 0.01 }
