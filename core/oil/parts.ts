/** Parts that take oil with them when they are replaced. */
export type OilPart = 'condenser' | 'evaporator' | 'drier' | 'hose' | 'compressor'

/**
 * Millilitres when nothing better is known, with the range that makers give for vehicle parts: the maker's data win.
 * A compressor: what the old one held.
 */
export const PART_OIL_ML: Record<OilPart, { ml: number; least: number; most: number } | undefined> = {
  condenser: { ml: 30, least: 20, most: 40 },
  evaporator: { ml: 50, least: 35, most: 65 },
  drier: { ml: 45, least: 30, most: 60 },
  hose: { ml: 10, least: 5, most: 15 },
  compressor: undefined,
}
