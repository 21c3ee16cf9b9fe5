import { seriesConductance, type Tube } from '#core/hoses'
import { GAS_CONSTANT } from '#core/refrigerants'
import { waterPa } from '#core/refrigerants'
import type { Inside } from './circuit'
import type { PlantParameters } from './parameters'
import type { PlantState, SystemState } from './state'

const TRIPLE_K = 273.15
const VAPORISATION_J_KG = 2_500_000
const FUSION_J_KG = 334_000
const WATER_J_KG_K = 4_186
/** Water lies on metal, which lends it heat: J/K, and W/K from there. */
const LENT_JK = 60
const LENT_WK = 0.4
/** How fast a wet spot evaporates, m3/s, and the mass below which it shrinks, kg. */
const EVAPORATION_M3S = 2e-3
const SPOT_KG = 0.3e-3
const WATER_KG_MOL = 0.018015

/** Water and what the walls hold give vapour to the circuit; in the vacuum they decide how long it takes. */
export function dry(parameters: PlantParameters, state: PlantState, now: Inside, dt: number): void {
  const { system } = state
  const tempK = system.mainK
  if (system.waterKg > 0) evaporate(parameters, system, now, dt)
  const { outgassingH, outgassingS } = parameters.vacuum
  const given = ((system.wallsPaM3 - outgassingH * now.gasM3 * now.waterPa) / outgassingS) * dt
  const taken = Math.max(given, -system.waterMol * GAS_CONSTANT * tempK)
  system.wallsPaM3 -= taken
  system.waterMol += taken / (GAS_CONSTANT * tempK)
}

/** The pump draws each gas by its share; the pump's own pressure is found where hose and pump agree. Returns that, Pa. */
export function pumpDown(parameters: PlantParameters, state: PlantState, now: Inside, dt: number): number {
  const { vacuum } = parameters
  const { system, controls } = state
  const tubes: Tube[] = [{ boreM: vacuum.hoseBoreM, lengthM: vacuum.hoseM }]
  if (controls.coreIn) tubes.push({ boreM: vacuum.coreBoreM, lengthM: vacuum.coreM })
  const { pumpPa, speedM3S } = atPump(tubes, vacuum.hoses, vacuum.pumpM3S, vacuum.ultimatePa, now.totalPa)
  const keep = 1 / (1 + (speedM3S * dt) / now.gasM3)
  system.airMol *= keep
  system.waterMol *= keep
  state.lostKg += system.vapourKg * (1 - keep)
  system.vapourKg *= keep
  return pumpPa
}

/** Halving: a fixed-point iteration sticks at nothing. */
export function atPump(
  tubes: readonly Tube[],
  hoses: number,
  pumpM3S: number,
  ultimatePa: number,
  fromPa: number,
): { pumpPa: number; speedM3S: number } {
  if (fromPa <= ultimatePa) return { pumpPa: fromPa, speedM3S: 0 }
  let low = ultimatePa
  let high = fromPa
  for (let pass = 0; pass < 44; pass++) {
    const middle = (low + high) / 2
    const through = hoses * seriesConductance(tubes, (fromPa + middle) / 2) * (fromPa - middle)
    if (through > pumpM3S * (middle - ultimatePa)) low = middle
    else high = middle
  }
  const pumpPa = (low + high) / 2
  return { pumpPa, speedM3S: (pumpM3S * (pumpPa - ultimatePa)) / fromPa }
}

function evaporate({ ambientK }: PlantParameters, system: SystemState, now: Inside, dt: number): void {
  const rate = EVAPORATION_M3S * Math.min(1, system.waterKg / SPOT_KG)
  const wantedMol = ((rate * (waterPa(system.waterK) - now.waterPa)) / (GAS_CONSTANT * system.waterK)) * dt
  const mol = Math.max(Math.min(wantedMol, system.waterKg / WATER_KG_MOL), -system.waterMol)
  const kg = mol * WATER_KG_MOL
  let heatJ = LENT_WK * (ambientK - system.waterK) * dt - kg * VAPORISATION_J_KG
  system.waterMol += mol
  system.waterKg = Math.max(0, system.waterKg - kg)
  system.waterIceKg = Math.min(system.waterIceKg, system.waterKg)
  const liquidKg = system.waterKg - system.waterIceKg
  if (heatJ < 0 && system.waterK <= TRIPLE_K) {
    const frozen = Math.min(liquidKg, -heatJ / FUSION_J_KG)
    system.waterIceKg += frozen
    heatJ += frozen * FUSION_J_KG
  } else if (heatJ > 0 && system.waterIceKg > 0 && system.waterK >= TRIPLE_K) {
    const melted = Math.min(system.waterIceKg, heatJ / FUSION_J_KG)
    system.waterIceKg -= melted
    heatJ -= melted * FUSION_J_KG
  }
  const before = system.waterK
  system.waterK += heatJ / (LENT_JK + system.waterKg * WATER_J_KG_K)
  // It stops at the freezing point on its way down, and while ice is left on its way up.
  if (before > TRIPLE_K && system.waterK < TRIPLE_K) system.waterK = TRIPLE_K
  if (before < TRIPLE_K && system.waterK > TRIPLE_K && system.waterIceKg > 0) system.waterK = TRIPLE_K
}
