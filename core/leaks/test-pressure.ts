/** Where no plate says otherwise nobody goes higher than this, Pa above the air: low for any circuit of the trade. */
const WITHOUT_PLATE_PA = 10e5

export interface TestPressure {
  /** Absolute Pa. */
  pressurePa: number
  /** What caps it. */
  by: 'plate' | 'weakest' | 'no-plate'
}

/**
 * Nitrogen at most: the plate's test pressure, less where something weaker is in the circuit. All absolute Pa.
 * @param plateMaxPa highest test pressure on the plate; null: not known
 * @param weakestPa the weakest part that is in there, a switch or a hose
 */
export function testPressure(
  plateMaxPa: number | null,
  weakestPa: number | undefined,
  atmospherePa: number,
): TestPressure {
  const byPlate: TestPressure =
    plateMaxPa === null
      ? { pressurePa: atmospherePa + WITHOUT_PLATE_PA, by: 'no-plate' }
      : { pressurePa: plateMaxPa, by: 'plate' }
  return weakestPa !== undefined && weakestPa < byPlate.pressurePa
    ? { pressurePa: weakestPa, by: 'weakest' }
    : byPlate
}

/** How long a nitrogen hold must last to see a leak, s: beyond two standard deviations of the whole change. */
export function lengthToSeeS(leakPaM3S: number, volumeM3: number, sigmaPa: number): number {
  return (2 * sigmaPa * volumeM3) / leakPaM3S
}

/** Nitrogen that leaks as much as so many kg of a gas do in a year, Pa m3/s at 20 C: by molar mass, an order of magnitude. */
export function leakFlowOf(kgPerYear: number, molarMassG: number): number {
  return ((kgPerYear / (365 * 86_400)) * 8.314 * 293.15) / (molarMassG / 1000)
}
