import { GAS_CONSTANT } from '#core/refrigerants'
import type { Fluid } from '../fluid'

/** Restrictions in a row, as one: 1/K2 adds. */
export function inSeries(...coefficients: number[]): number {
  let resistance = 0
  for (const k of coefficients) resistance += 1 / (k * k)
  return 1 / Math.sqrt(resistance)
}

/** Vapour from p1 to p2, kg/s; nothing against the pressure. */
export function vapourFlow(fluid: Fluid, k: number, fromPa: number, toPa: number, tempK: number): number {
  if (toPa >= fromPa) return 0
  return k * Math.sqrt(((fromPa * fromPa - toPa * toPa) * fluid.molarKg) / (GAS_CONSTANT * tempK))
}

/** Liquid begins to boil where it has lost this share of its pressure: more drop moves no more. */
export const FLASHING = 0.06

/** Liquid from p1 to p2, kg/s, up to the flashing limit. */
export function liquidFlow(k: number, density: number, fromPa: number, toPa: number): number {
  if (toPa >= fromPa) return 0
  return k * Math.sqrt(2 * density * Math.min(fromPa - toPa, FLASHING * fromPa))
}

const AIR_KG_MOL = 0.02896
const AIR_EXPONENT = 1.4
const DISCHARGE = 0.6

/** Through a hole into a lower pressure, kg/s: compressible, choked where it must be. */
export function holeFlow(
  { diameterM, molarKg, exponent }: { diameterM: number; molarKg: number; exponent: number },
  fromPa: number,
  toPa: number,
  tempK: number,
): number {
  if (toPa >= fromPa || diameterM <= 0) return 0
  const critical = (2 / (exponent + 1)) ** (exponent / (exponent - 1))
  const r = Math.max(toPa / fromPa, critical)
  const area = (Math.PI / 4) * diameterM * diameterM
  const gas = GAS_CONSTANT * tempK
  return (
    DISCHARGE *
    area *
    fromPa *
    Math.sqrt(
      ((2 * exponent * molarKg) / ((exponent - 1) * gas)) *
        (r ** (2 / exponent) - r ** ((exponent + 1) / exponent)),
    )
  )
}

/** Air through a hole, mol/s. */
export function airInMolS(diameterM: number, atmospherePa: number, insidePa: number, tempK: number): number {
  return (
    holeFlow({ diameterM, molarKg: AIR_KG_MOL, exponent: AIR_EXPONENT }, atmospherePa, insidePa, tempK) /
    AIR_KG_MOL
  )
}
