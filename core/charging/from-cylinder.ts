import { saturationPressurePa, type SaturationTable, vapourDensity, vapourDensityAt } from '../refrigerants'

/**
 * What stays in a cylinder when no more liquid comes: its volume full of saturated vapour, kg. Liquid below the end of
 * the tube comes on top.
 * @throws OutOfRangeError
 */
export function cylinderHeelKg(table: SaturationTable, volumeM3: number, tempK: number): number {
  return volumeM3 * vapourDensity(table, tempK)
}

/**
 * What stays in a cylinder that a running system has drawn down to its suction pressure, kg: its volume full of vapour of
 * that pressure. In cold weather it takes warm water to get there, and the warmer the less stays.
 * @param suctionPa absolute
 * @throws OutOfRangeError for a temperature outside the table
 */
export const drawnDownKg = (
  table: SaturationTable,
  molarMassG: number,
  volumeM3: number,
  suctionPa: number,
  tempK: number,
): number => volumeM3 * vapourDensityAt(table, molarMassG, suctionPa, tempK)

export interface ByVacuum {
  systemM3: number
  /** Of the system and its surroundings. */
  systemK: number
  cylinderK: number
  /** What the cylinder can give at most, kg. */
  availableKg: number
}

/** Of the vapour that fills the system at the cylinder's pressure: some liquid chills the cylinder as it leaves. */
const LEAST = 0.75
/** The most, in the same measure, by how much warmer the cylinder is than the system, kelvin. */
const MOST: [differenceK: number, times: number][] = [
  [-10, 1.5],
  [-5, 2.5],
  [0, 6],
  [3, 30],
]

/**
 * How much goes into an evacuated system by pressure alone, liquid side, until system and cylinder meet: a range, never
 * one number. From runs of a plausible, unvalidated plant model: at equal temperatures between half of a usual charge
 * and far too much, with a colder cylinder a quarter, with a warmer one everything.
 * @throws OutOfRangeError
 */
export function chargeByVacuumKg(
  asked: ByVacuum,
  table: SaturationTable,
  molarMassG: number,
): { leastKg: number; mostKg: number } {
  const { systemM3, systemK, cylinderK, availableKg } = asked
  const pressurePa = saturationPressurePa(table, cylinderK, 'bubble')
  const vapourKg = systemM3 * vapourDensityAt(table, molarMassG, pressurePa, systemK)
  return {
    leastKg: Math.min(availableKg, LEAST * vapourKg),
    mostKg: Math.min(availableKg, timesAt(cylinderK - systemK) * vapourKg),
  }
}

function timesAt(differenceK: number): number {
  if (differenceK <= MOST[0]![0]) return MOST[0]![1]
  const next = MOST.findIndex(([at]) => differenceK <= at)
  if (next < 0) return Infinity
  const [[x0, y0], [x1, y1]] = [MOST[next - 1]!, MOST[next]!]
  return y0 + ((differenceK - x0) / (x1 - x0)) * (y1 - y0)
}
