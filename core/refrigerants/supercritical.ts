const GAS_CONSTANT = 8.314462618

/** Critical temperature K, pressure Pa, acentric factor, molar mass g/mol of gases that are worked with above their critical point. */
const CRITICAL: Record<string, { tempK: number; pressurePa: number; acentric: number; molarMassG: number }> =
  {
    'R-744': { tempK: 304.13, pressurePa: 7.3773e6, acentric: 0.2239, molarMassG: 44.01 },
  }

/** How far the equation may be off in dense gas, as a share. */
export const DENSE_GAS_DOUBT = 0.15

/**
 * What a gas above its critical point stands at, absolute Pa: there it has no saturation, and the pressure follows from
 * how much is in the volume. Equation of Peng and Robinson (1976); held against reference data of R-744 at 40 C it is
 * within {@link DENSE_GAS_DOUBT} from 100 to 700 kg/m3.
 * @returns undefined below the critical point, or for a gas that nobody works with above it
 */
export function denseGasPa(code: string, densityKgM3: number, tempK: number): number | undefined {
  const of = CRITICAL[code]
  if (!of || tempK <= of.tempK || !(densityKgM3 > 0)) return undefined
  const a = (0.45724 * (GAS_CONSTANT * of.tempK) ** 2) / of.pressurePa
  const b = (0.0778 * GAS_CONSTANT * of.tempK) / of.pressurePa
  const kappa = 0.37464 + 1.54226 * of.acentric - 0.26992 * of.acentric ** 2
  const alpha = (1 + kappa * (1 - Math.sqrt(tempK / of.tempK))) ** 2
  const molarM3 = of.molarMassG / 1000 / densityKgM3
  if (molarM3 <= b) return undefined
  return (GAS_CONSTANT * tempK) / (molarM3 - b) - (a * alpha) / (molarM3 ** 2 + 2 * b * molarM3 - b ** 2)
}
