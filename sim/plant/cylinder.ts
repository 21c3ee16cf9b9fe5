import { GAS_CONSTANT } from '#core/refrigerants'
import { type Fluid, vapourPa } from '../fluid'
import type { PlantParameters } from './parameters'

const STEEL_J_KG_K = 470
/** Newton's steps on the temperature are kept this small, K. */
const STEP_K = 3
/** How stiff a cylinder full of liquid is, Pa for each share of overfill; beyond this much its relief valve would blow. */
const STIFFNESS_PA = 1e9
const RELIEF_PA = 5e6

/** What a cylinder holds: mass and inner energy; the temperature follows. */
export interface CylinderState {
  kg: number
  /** Inner energy of contents and steel, J. */
  energyJ: number
  tempK: number
  airMol: number
  /** Of a water bath around it; undefined: it stands in air. */
  bathK: number | undefined
}

type Shell = PlantParameters['cylinder']

export function newCylinder(fluid: Fluid, shell: Shell, ambientK: number): CylinderState {
  const tempK = shell.tempK ?? ambientK
  const kg = shell.contentsKg
  return {
    kg,
    energyJ: energyAt(fluid, shell, kg, tempK),
    tempK,
    airMol: (shell.airPa * gasVolume(fluid, shell.volumeM3, kg, tempK)) / (GAS_CONSTANT * tempK),
    bathK: undefined,
  }
}

/** Finds the temperature that belongs to mass and energy. */
export function settle(fluid: Fluid, shell: Shell, cylinder: CylinderState): void {
  let tempK = cylinder.tempK
  for (let pass = 0; pass < 30; pass++) {
    const off = cylinder.energyJ - energyAt(fluid, shell, cylinder.kg, tempK)
    const slope =
      (energyAt(fluid, shell, cylinder.kg, tempK + 0.05) -
        energyAt(fluid, shell, cylinder.kg, tempK - 0.05)) /
      0.1
    const step = off / slope
    tempK += Math.max(-STEP_K, Math.min(STEP_K, step))
    if (Math.abs(step) < 1e-6) break
  }
  cylinder.tempK = tempK
}

/** Pressure of the refrigerant and of the air in it, Pa absolute. */
export function cylinderPa(
  fluid: Fluid,
  { volumeM3 }: Shell,
  { kg, tempK, airMol }: CylinderState,
): { refrigerantPa: number; airPa: number } {
  const liquidKg = liquidIn(fluid, volumeM3, kg, tempK)
  const gasM3 = gasVolume(fluid, volumeM3, kg, tempK)
  const airPa = (airMol * GAS_CONSTANT * tempK) / gasM3
  if (liquidKg <= 0) return { refrigerantPa: vapourPa(fluid, kg / volumeM3, tempK), airPa }
  const over = Math.max(0, kg / (volumeM3 * fluid.liquid(tempK)) - 1)
  return { refrigerantPa: fluid.bubblePa(tempK) + Math.min(RELIEF_PA, over * STIFFNESS_PA), airPa }
}

/** Liquid in a vessel, kg: 0 when all of it is vapour. */
export function liquidIn(fluid: Fluid, volumeM3: number, kg: number, tempK: number): number {
  const vapour = fluid.vapour(tempK)
  if (kg <= volumeM3 * vapour) return 0
  const liquid = fluid.liquid(tempK)
  return Math.min(kg, (kg - volumeM3 * vapour) / (1 - vapour / liquid))
}

/** Never quite nothing, so that the air in a full vessel has a pressure. */
function gasVolume(fluid: Fluid, volumeM3: number, kg: number, tempK: number): number {
  return Math.max(volumeM3 * 1e-3, volumeM3 - liquidIn(fluid, volumeM3, kg, tempK) / fluid.liquid(tempK))
}

function energyAt(fluid: Fluid, shell: Shell, kg: number, tempK: number): number {
  const saturationPa = fluid.bubblePa(tempK)
  const vapourU = fluid.vapourJ(tempK) - saturationPa / fluid.vapour(tempK)
  const liquidKg = liquidIn(fluid, shell.volumeM3, kg, tempK)
  const liquidU = fluid.liquidJ(tempK) - saturationPa / fluid.liquid(tempK)
  return (kg - liquidKg) * vapourU + liquidKg * liquidU + STEEL_J_KG_K * shell.steelKg * tempK
}
