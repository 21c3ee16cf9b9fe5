import { OutOfRangeError, type SaturationTable, vapourDensityAt } from '../../refrigerants'

/** From the least to the most that it may be. */
export interface Range {
  least: number
  most: number
}

/**
 * Inner volume of a system for a kilogram of its charge, m3: a full one is liquid to a third at the most, and to a
 * seventh at the least. Where nobody knows the volume it is taken from the charge, as this range. Assumed from plants
 * of the trade, not measured.
 */
export const M3_PER_KG: Range = { least: 3e-3, most: 7e-3 }
/** What returned comes in the next pull at the least; often twice, since liquid and oil go on giving. */
const OFTEN = 2

export interface Returned {
  /** What turned to vapour since the stop, kg. */
  returnedKg: Range
  /** What the next pull would bring, kg. */
  nextKg: Range
}

/**
 * What a rise after the stop means in mass: V (rho(p2, T) - rho(p1, T)).
 * @param chargeKg what the system holds when it is full
 * @returns undefined for a temperature outside the table of the refrigerant
 */
export function returnedSince(
  {
    stoppedPa,
    nowPa,
    tempK,
    chargeKg,
  }: { stoppedPa: number; nowPa: number; tempK: number; chargeKg: number },
  table: SaturationTable,
  molarMassG: number,
): Returned | undefined {
  try {
    const denser =
      vapourDensityAt(table, molarMassG, nowPa, tempK) - vapourDensityAt(table, molarMassG, stoppedPa, tempK)
    const of = (m3PerKg: number) => Math.max(0, m3PerKg * chargeKg * denser)
    const returnedKg = { least: of(M3_PER_KG.least), most: of(M3_PER_KG.most) }
    return { returnedKg, nextKg: { least: returnedKg.least, most: OFTEN * returnedKg.most } }
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
