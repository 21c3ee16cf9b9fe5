import { GAS_CONSTANT } from '#core/refrigerants'
import { type Fluid, vapourPa } from '../fluid'
import type { PlantParameters } from './parameters'
import { openVolume, type PlantState, type SystemState } from './state'

const WATER_J_KG_K = 4_186
const FUSION_J_KG = 334_000
/** Still water around a coil gives its heat to it, W/K; to the air, much less. */
const COIL_TO_WATER_WK = 250
const WATER_TO_AIR_WK = 5

/** Pressures inside the circuit, Pa absolute. */
export interface Inside {
  gasM3: number
  refrigerantPa: number
  airPa: number
  waterPa: number
  totalPa: number
}

export function inside(fluid: Fluid, parameters: PlantParameters, system: SystemState): Inside {
  const liquid = fluid.liquid(system.mainK)
  const room = openVolume(parameters)
  // A circuit full of liquid keeps a last bubble, so that its pressure stays finite.
  const gasM3 = Math.max(room * 0.01, room - (system.liquidKg + system.pocketKg) / liquid)
  const refrigerantPa = vapourPa(fluid, system.vapourKg / gasM3, system.mainK)
  const molPa = (GAS_CONSTANT * system.mainK) / gasM3
  const airPa = system.airMol * molPa
  const waterPa = system.waterMol * molPa
  return { gasM3, refrigerantPa, airPa, waterPa, totalPa: refrigerantPa + airPa + waterPa }
}

/** Boiling and condensing of main liquid, pocket and what the oil holds, and the heat that goes with it. */
export function boil(
  fluid: Fluid,
  parameters: PlantParameters,
  state: PlantState,
  now: Inside,
  dt: number,
): void {
  const { system } = state
  const of = parameters.system
  const { ambientK } = parameters
  const { fan } = state.controls
  const main = boilOff(fluid, now, system.mainK, system.liquidKg, of.evaporationS, of.evaporationRefKg, dt)
  // What flows into a cold circuit lies in layers: it condenses slowly.
  const condensing = Math.min(0, condensation(fluid, now, system.mainK, of.condensationS))
  const mainFlow = main > 0 ? main : Math.max(condensing, -system.vapourKg / dt)
  const pocket = boilOff(fluid, now, system.pocketK, system.pocketKg, of.pocketS, of.pocketRefKg, dt)
  const saturated = of.oilKg * of.solubility * Math.min(1, now.refrigerantPa / fluid.bubblePa(ambientK))
  const fromOil = (system.dissolvedKg - saturated) / of.oilS
  const toVapour = Math.max(mainFlow + pocket + fromOil, -system.vapourKg / dt)
  const scale = mainFlow + pocket + fromOil < 0 ? toVapour / (mainFlow + pocket + fromOil) : 1

  const mainHeatW = heatIntoMain(parameters, state, dt, fan)
  const heatCapacity = of.metalJK + (system.liquidKg + system.pocketKg) * fluid.liquidCp(system.mainK)
  system.mainK += (dt * (mainHeatW - scale * mainFlow * latent(fluid, system.mainK))) / heatCapacity
  const pocketWK = fan ? of.pocketUaOnWK : of.pocketUaOffWK
  system.pocketK +=
    (dt * (pocketWK * (ambientK - system.pocketK) - scale * pocket * latent(fluid, system.pocketK))) /
    (of.pocketMetalJK + system.pocketKg * fluid.liquidCp(system.pocketK))
  system.liquidKg -= dt * scale * mainFlow
  system.pocketKg -= dt * scale * pocket
  system.dissolvedKg -= dt * scale * fromOil
  system.vapourKg += dt * toVapour
  system.liquidMostKg = Math.max(system.liquidMostKg, system.liquidKg)
}

const latent = (fluid: Fluid, tempK: number) => fluid.vapourJ(tempK) - fluid.liquidJ(tempK)

/** kg/s; negative while it condenses onto what is there. Never more than there is. */
function boilOff(
  fluid: Fluid,
  { gasM3, refrigerantPa }: Inside,
  tempK: number,
  kg: number,
  tauS: number,
  refKg: number,
  dt: number,
): number {
  const saturationPa = fluid.bubblePa(tempK)
  const pull = ((gasM3 * fluid.vapour(tempK)) / saturationPa) * (saturationPa - refrigerantPa)
  return Math.min(kg / dt, (pull / tauS) * Math.min(1, kg / refKg))
}

function condensation(fluid: Fluid, { gasM3, refrigerantPa }: Inside, tempK: number, tauS: number): number {
  const saturationPa = fluid.bubblePa(tempK)
  return (((gasM3 * fluid.vapour(tempK)) / saturationPa) * (saturationPa - refrigerantPa)) / tauS
}

/** From the air by the coils, or from still water, which freezes. */
function heatIntoMain(parameters: PlantParameters, state: PlantState, dt: number, fan: boolean): number {
  const { system } = state
  const of = parameters.system
  if (of.stillWaterKg <= 0) return (fan ? of.uaOnWK : of.uaOffWK) * (parameters.ambientK - system.mainK)
  const water = COIL_TO_WATER_WK * (system.bathK - system.mainK)
  const air = WATER_TO_AIR_WK * (parameters.ambientK - system.bathK)
  let heat = dt * (air - water)
  // Below the freezing point ice grows; above it, it melts first.
  if (heat < 0 && system.bathK <= ICE_K) {
    const frozen = Math.min(of.stillWaterKg - system.bathIceKg, -heat / FUSION_J_KG)
    system.bathIceKg += frozen
    heat += frozen * FUSION_J_KG
  } else if (heat > 0 && system.bathIceKg > 0) {
    const melted = Math.min(system.bathIceKg, heat / FUSION_J_KG)
    system.bathIceKg -= melted
    heat -= melted * FUSION_J_KG
  }
  system.bathK += heat / (of.stillWaterKg * WATER_J_KG_K)
  return water
}

const ICE_K = 273.15
