import { GAS_CONSTANT } from '#core/refrigerants'
import { fluidOf } from '../fluid'
import { charge } from './charging'
import { boil, type Inside, inside } from './circuit'
import { cylinderPa, settle } from './cylinder'
import { dry, pumpDown } from './evacuation'
import { airInMolS, holeFlow } from './flow'
import type { PlantParameters } from './parameters'
import { type Passage, recover } from './recovery'
import { runSystem, stopSystem } from './running'
import type { PlantState } from './state'

/** Seconds. The result hardly changes from 0.02 to 0.5. */
export const STEP_S = 0.25

const ICE_K = 273.15
const VAPOUR_EXPONENT = 1.15

/** Moves the plant on by one step, in place. Refrigerant only changes its place: `totalKg` stays. */
export function step(parameters: PlantParameters, state: PlantState, dt = STEP_S): void {
  const fluid = fluidOf(parameters.refrigerant)
  const { system, controls, machine, seen } = state
  state.seconds = Math.round((state.seconds + dt) * 1e6) / 1e6
  if (controls.compressor) {
    runSystem(parameters, state, dt)
    heatCylinder(parameters, state, undefined, dt)
    settle(fluid, parameters.cylinder, state.cylinder)
    return
  }
  stopSystem(parameters, state)
  const now = inside(fluid, parameters, system)
  const passage = through(parameters, state, now, dt)

  boil(fluid, parameters, state, now, dt)
  dry(parameters, state, now, dt)
  if (passage) pass(parameters, state, passage, dt)
  heatCylinder(parameters, state, passage, dt)
  settle(fluid, parameters.cylinder, state.cylinder)
  leak(parameters, state, now, dt)
  seen.pumpPa = controls.line === 'pump' ? evacuate(parameters, state, now, dt) : 0

  seen.systemPa = inside(fluid, parameters, system).totalPa
  seen.highPa = seen.systemPa
  seen.portKgS = passage?.portKgS ?? 0
  seen.suctionPa = controls.line === 'pump' ? seen.pumpPa : (passage?.suctionPa ?? seen.systemPa)
  const held = cylinderPa(fluid, parameters.cylinder, state.cylinder)
  seen.dischargePa =
    held.refrigerantPa +
    held.airPa +
    (controls.line === 'machine' && controls.machine === 'run' && !machine.cutOut
      ? parameters.machine.dischargeLossPa
      : 0)
}

function through(
  parameters: PlantParameters,
  state: PlantState,
  now: Inside,
  dt: number,
): Passage | undefined {
  const fluid = fluidOf(parameters.refrigerant)
  if (state.controls.line === 'machine') return recover(fluid, parameters, state, now, dt)
  if (state.controls.line === 'cylinder') return charge(fluid, parameters, state, now, dt)
  return undefined
}

/** Takes what has passed from one side and gives it to the other. */
function pass(parameters: PlantParameters, state: PlantState, passage: Passage, dt: number): void {
  const { system, machine, cylinder, controls } = state
  const { portKgS, liquidKgS, cylinderKgS } = passage
  const vapourKg = (portKgS - liquidKgS) * dt
  // Air goes with the vapour, by the mole.
  if (vapourKg > 0 && system.vapourKg > 0) {
    const air = (system.airMol * vapourKg) / system.vapourKg
    system.airMol -= air
    cylinder.airMol += air
  }
  // Liquid that comes in brings its own warmth.
  if (liquidKgS < 0) {
    const fluid = fluidOf(parameters.refrigerant)
    const warmer = fluid.liquidJ(cylinder.tempK) - fluid.liquidJ(system.mainK)
    const capacity = parameters.system.metalJK + system.liquidKg * fluid.liquidCp(system.mainK)
    system.mainK += (-liquidKgS * dt * warmer) / capacity
  }
  system.liquidKg -= liquidKgS * dt
  system.vapourKg -= vapourKg
  cylinder.kg += cylinderKgS * dt
  const kept = (portKgS - cylinderKgS) * dt
  if (controls.line === 'machine') machine.holdupKg += kept
  else state.hoseKg += kept
}

function heatCylinder(
  parameters: PlantParameters,
  state: PlantState,
  passage: Passage | undefined,
  dt: number,
) {
  const { cylinder, controls } = state
  const shell = parameters.cylinder
  const bathK = controls.ice ? ICE_K : controls.bathK
  const exchange =
    bathK === undefined
      ? shell.airWK * (parameters.ambientK - cylinder.tempK)
      : shell.bathWK * (bathK - cylinder.tempK)
  const sun = controls.sun ? shell.sunW : 0
  const carried = passage ? passage.cylinderKgS * passage.cylinderJKg : 0
  cylinder.energyJ += dt * (carried + exchange + sun)
}

/** A hole lets refrigerant out above the air around, and air in below it. */
function leak(parameters: PlantParameters, state: PlantState, now: Inside, dt: number): void {
  const { atmospherePa, ambientK, system: of, vacuum, refrigerant } = parameters
  const { system } = state
  if (of.holeM > 0) {
    const { molarKg } = fluidOf(refrigerant)
    const out = holeFlow(
      { diameterM: of.holeM, molarKg, exponent: VAPOUR_EXPONENT },
      now.totalPa,
      atmospherePa,
      ambientK,
    )
    const lost = Math.min((out * dt * now.refrigerantPa) / Math.max(1, now.totalPa), system.vapourKg)
    if (lost > 0) system.airMol -= (system.airMol * lost) / system.vapourKg
    system.vapourKg -= lost
    state.lostKg += lost
    system.airMol += airInMolS(of.holeM, atmospherePa, now.totalPa, ambientK) * dt
  }
  if (vacuum.leakPaS > 0 && now.totalPa < atmospherePa)
    system.airMol += (vacuum.leakPaS * now.gasM3 * dt) / (GAS_CONSTANT * system.mainK)
}

/** The pump, or air that finds its way back through it when it stands open and still. */
function evacuate(parameters: PlantParameters, state: PlantState, now: Inside, dt: number): number {
  const { controls } = state
  if (controls.valve === 'closed')
    return controls.pump ? parameters.vacuum.ultimatePa : parameters.atmospherePa
  if (controls.pump) return pumpDown(parameters, state, now, dt)
  return now.totalPa
}
