import {
  OutOfRangeError,
  REFRIGERANTS,
  saturationPressurePa,
  type SaturationTable,
  saturationTempK,
  tableOf,
} from '../refrigerants'
import { ZERO_CELSIUS_K } from '../units'

/** A vessel that has been at rest: pressure and temperature with the limits of error of gauge and clamp. */
export interface AtRest {
  /** Absolute. */
  pressurePa: number
  tempK: number
  /** Limit of error of the gauge, plus or minus. */
  gaugePa: number
  /** Limit of error of the clamp, plus or minus. */
  clampK: number
}

export interface Candidate {
  code: string
  /** fits: within two standard deviations; above: more pressure than it can have; below: less. */
  fit: 'fits' | 'above' | 'below'
  /** Bubble pressure at the measured temperature, absolute Pa. */
  saturationPa: number
  /** Standard deviation of measured less bubble pressure, Pa. */
  sigmaPa: number
  /** Measured less bubble pressure, in standard deviations. */
  deviations: number
  /** Saturation temperature at the measured pressure less the measured one, kelvin; undefined beyond the table. */
  differenceK: number | undefined
  /** Share among those that fit, 0 to 1: one of them it is, if liquid is present and no air. */
  likelihood: number
}

/** Candidates lie within so many standard deviations. */
const WITHIN = 2

/**
 * Which refrigerants have this pressure at this temperature, with liquid present and no air. A limit of error a is
 * taken as a rectangular distribution, standard deviation a/sqrt(3) (Guide to the expression of uncertainty in
 * measurement, type B). Bubble pressure, since liquid is present.
 * @returns all whose table covers the temperature, the best fit first
 */
export function identify(at: AtRest, codes: readonly string[] = REFRIGERANTS): Candidate[] {
  const candidates: Candidate[] = []
  let weight = 0
  for (const code of codes) {
    const table = tableOf(code)
    const belowC = at.tempK - ZERO_CELSIUS_K - table.firstC
    // The slope needs half a kelvin either way.
    if (!(belowC >= 0.5 && belowC <= table.rows - 1.5)) continue
    const saturationPa = saturationPressurePa(table, at.tempK, 'bubble')
    const slope =
      saturationPressurePa(table, at.tempK + 0.5, 'bubble') -
      saturationPressurePa(table, at.tempK - 0.5, 'bubble')
    const sigmaPa = Math.hypot(at.gaugePa, slope * at.clampK) / Math.sqrt(3)
    const deviations = (at.pressurePa - saturationPa) / sigmaPa
    const fit = Math.abs(deviations) <= WITHIN ? 'fits' : deviations > 0 ? 'above' : 'below'
    const likelihood = fit === 'fits' ? Math.exp(-0.5 * deviations ** 2) / sigmaPa : 0
    weight += likelihood
    candidates.push({ code, fit, saturationPa, sigmaPa, deviations, differenceK: undefined, likelihood })
  }
  for (const candidate of candidates) {
    if (candidate.fit !== 'fits') continue
    candidate.likelihood /= weight
    candidate.differenceK = differenceK(tableOf(candidate.code), at)
  }
  return candidates.sort(
    (a, b) => b.likelihood - a.likelihood || Math.abs(a.deviations) - Math.abs(b.deviations),
  )
}

function differenceK(table: SaturationTable, { pressurePa, tempK }: AtRest): number | undefined {
  try {
    return saturationTempK(table, pressurePa, 'bubble') - tempK
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
