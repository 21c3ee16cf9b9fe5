import { fluidOf } from '../fluid'
import { type CycleParameters, newCycle, runCycle } from './cycle'
import { cylinderPa } from './cylinder'
import { inSeries, liquidFlow, vapourFlow } from './flow'
import type { PlantParameters } from './parameters'
import { portK } from './recovery'
import { openVolume, type PlantState } from './state'

/** Moves a system that runs; a cylinder at its liquid line takes or gives, one at its suction side gives. */
export function runSystem(parameters: PlantParameters, state: PlantState, dt: number): void {
  const of = cycleOf(parameters, state)
  const cycle = (state.cycle ??= start(of, state))
  const { portKgS, feedJKg } = exchange(parameters, state, dt)
  const before = cycle.evaporatorKg + cycle.condenserKg
  const readings = runCycle(of, cycle, dt, portKgS > 0 ? { pushKgS: portKgS } : { feedKgS: -portKgS })
  const gained = cycle.evaporatorKg + cycle.condenserKg - before
  // What the system lost or gained is what the cylinder gained or lost: nothing is clipped in between.
  state.cylinder.kg -= gained
  state.cylinder.energyJ -=
    gained * (gained < 0 ? fluidOf(of.refrigerant).liquidJ(readings.liquidK) : feedJKg)
  state.seen.systemPa = readings.lowPa
  state.seen.suctionPa = readings.lowPa
  state.seen.highPa = readings.headPa
  state.seen.portKgS = -gained / dt
  state.seen.running = readings
}

/** It stands again: what was moving lies in the system, at one temperature. */
export function stopSystem(parameters: PlantParameters, state: PlantState): void {
  const { cycle, system } = state
  if (!cycle) return
  const fluid = fluidOf(parameters.refrigerant)
  const kg = cycle.evaporatorKg + cycle.condenserKg
  const tempK = system.mainK
  const liquid = fluid.liquid(tempK)
  system.pocketKg = Math.min(parameters.system.pocketKg, kg / 4)
  const restKg = kg - system.pocketKg
  const gasM3 = openVolume(parameters) - system.pocketKg / liquid
  const vapour = fluid.vapour(tempK)
  const liquidKg = Math.min(restKg, Math.max(0, (restKg - gasM3 * vapour) / (1 - vapour / liquid)))
  system.liquidKg += liquidKg
  system.vapourKg += restKg - liquidKg
  system.liquidMostKg = Math.max(system.liquidMostKg, system.liquidKg)
  state.cycle = undefined
  state.seen.running = undefined
}

function cycleOf(parameters: PlantParameters, { system }: PlantState): CycleParameters {
  const { refrigerant, ambientK, cycle } = parameters
  return {
    ...cycle,
    refrigerant,
    ambientK,
    chargeKg: system.vapourKg + system.liquidKg + system.pocketKg,
    airMol: system.airMol,
  }
}

function start(of: CycleParameters, { system }: PlantState) {
  const cycle = newCycle(of)
  system.vapourKg = 0
  system.liquidKg = 0
  system.pocketKg = 0
  return cycle
}

/** kg/s out of the system (negative: into it), by the pressures of a moment ago. */
function exchange(parameters: PlantParameters, state: PlantState, dt: number) {
  const { controls, cylinder, seen } = state
  if (controls.line !== 'cylinder' || controls.valve === 'closed' || !controls.cylinderOpen || !seen.running)
    return { portKgS: 0, feedJKg: 0 }
  const fluid = fluidOf(parameters.refrigerant)
  const { refrigerantPa, airPa } = cylinderPa(fluid, parameters.cylinder, cylinder)
  const cylinderTotalPa = refrigerantPa + airPa
  const k = inSeries(portK(parameters, state), parameters.hose.suctionK)
  if (controls.valve === 'liquid')
    return {
      portKgS: liquidFlow(k, fluid.liquid(seen.running.liquidK), seen.highPa, cylinderTotalPa),
      feedJKg: 0,
    }
  const flow = vapourFlow(fluid, k, cylinderTotalPa, seen.systemPa, cylinder.tempK)
  return { portKgS: -Math.min(flow, (0.2 * cylinder.kg) / dt), feedJKg: fluid.vapourJ(cylinder.tempK) }
}
