/** Copper, ohm for each kilometre of one conductor. */
export const LEAD_OHM_PER_KM: Record<string, number> = {
  '2.5 mm2': 7.4,
  '1.5 mm2': 12.1,
  '12 AWG': 5.21,
  '14 AWG': 8.29,
  '16 AWG': 13.2,
}

export interface VoltDrop {
  dropV: number
  share: number
  /** Longest lead of this size that stays within the limit, m. */
  longestM: number
}

/** A machine that gets less than this share below its plate is in danger. */
export const LARGEST_DROP = 0.05

/**
 * Voltage lost in an extension lead, there and back: 2 L I r.
 * @param size one of {@link LEAD_OHM_PER_KM}
 * @throws RangeError for another size
 */
export function voltDrop(size: string, lengthM: number, currentA: number, supplyV: number): VoltDrop {
  const ohmPerKm = LEAD_OHM_PER_KM[size]
  if (ohmPerKm === undefined) throw new RangeError(`no resistance is known for ${size}`)
  const perMetreV = (2 * currentA * ohmPerKm) / 1000
  const dropV = perMetreV * lengthM
  return { dropV, share: dropV / supplyV, longestM: (LARGEST_DROP * supplyV) / perMetreV }
}
