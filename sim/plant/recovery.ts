import { type Fluid, vapourDensityOf } from '../fluid'
import type { Inside } from './circuit'
import { cylinderPa } from './cylinder'
import { inSeries, liquidFlow, vapourFlow } from './flow'
import { holdupTargetKg, leavingJKg, machineFlow, workJKg } from './machine'
import type { PlantParameters } from './parameters'
import type { PlantState } from './state'

/** What goes through the port (negative: into the system) and into the cylinder in this step. */
export interface Passage {
  portKgS: number
  liquidKgS: number
  cylinderKgS: number
  /** Enthalpy of what enters or leaves the cylinder, J/kg. */
  cylinderJKg: number
  /** Machine's inlet, what its low gauge shows, and its outlet, Pa. */
  suctionPa: number
  dischargePa: number
}

/** Below this much liquid over what the port cannot reach, vapour comes with it, kg. */
const MIXED_KG = 0.1

/** Recovery: through the running machine, through it while it stands, or its self-purge. */
export function recover(
  fluid: Fluid,
  parameters: PlantParameters,
  state: PlantState,
  now: Inside,
  dt: number,
): Passage {
  const { machine, controls } = state
  const held = cylinderPa(fluid, parameters.cylinder, state.cylinder)
  const cylinderTotalPa = held.refrigerantPa + held.airPa
  const dischargePa = cylinderTotalPa + parameters.machine.dischargeLossPa
  watchMachine(parameters, state, now, dischargePa)
  const still = {
    portKgS: 0,
    liquidKgS: 0,
    cylinderKgS: 0,
    cylinderJKg: 0,
    suctionPa: now.totalPa,
    dischargePa,
  }
  if (!controls.cylinderOpen) return still
  if (controls.machine === 'purge') {
    const restKg =
      parameters.machine.volumeM3 * vapourDensityOf(fluid, parameters.atmospherePa, parameters.ambientK)
    const cylinderKgS = Math.max(0, machine.holdupKg - restKg) / parameters.machine.purgeS
    return { ...still, cylinderKgS, cylinderJKg: fluid.liquidJ(parameters.ambientK + 2) }
  }
  if (controls.machine === 'run' && !machine.cutOut && !machine.stoppedItself)
    return run(fluid, parameters, state, now, dischargePa, dt)
  if (controls.valve === 'closed') return still
  return runOver(fluid, parameters, state, now, cylinderTotalPa, dt)
}

function run(
  fluid: Fluid,
  parameters: PlantParameters,
  state: PlantState,
  now: Inside,
  dischargePa: number,
  dt: number,
): Passage {
  const { system, machine, controls } = state
  const of = parameters.machine
  const k = inSeries(portK(parameters, state), parameters.hose.suctionK)
  const tempK = system.mainK
  let suctionPa = now.totalPa
  let liquidKgS = 0
  let vapourKgS = 0
  const reach = reachable(parameters, state)
  if (controls.valve !== 'closed' && reach > 0) {
    const density = fluid.liquid(tempK)
    const most = Math.min(liquidFlow(k, density, now.totalPa, 0), of.liquidCapKgS)
    suctionPa = now.totalPa - (most / k) ** 2 / (2 * density)
    liquidKgS = Math.min(reach * most, system.liquidKg / dt)
  }
  if (controls.valve !== 'closed' && reach < 1) {
    suctionPa = balance(fluid, parameters, k, now.totalPa, dischargePa, tempK)
    vapourKgS = Math.min(
      (1 - reach) * vapourFlow(fluid, k, now.totalPa, suctionPa, tempK),
      (0.5 * system.vapourKg) / dt,
    )
  } else if (controls.valve === 'closed') suctionPa = 1
  const portKgS = liquidKgS + vapourKgS
  const work =
    workJKg(fluid, of.polytropic, dischargePa / Math.max(1, suctionPa), tempK) / COMPRESSION_EFFICIENCY
  const enteringJKg =
    portKgS > 0
      ? (liquidKgS * fluid.liquidJ(tempK) + vapourKgS * (fluid.vapourJ(tempK) + work)) / portKgS
      : fluid.liquidJ(parameters.ambientK + 2)
  const target = holdupTargetKg(fluid, of, dischargePa, state.cylinder.tempK)
  const wanted = Math.max(0, portKgS + (machine.holdupKg - target) / of.holdupS)
  // Never more than is there: what is held goes on to the cylinder, nothing is clipped.
  const cylinderKgS = Math.min(wanted, portKgS + machine.holdupKg / dt)
  const cylinderJKg = leavingJKg(fluid, of, {
    enteringJKg,
    flowKgS: portKgS,
    dischargePa,
    ambientK: parameters.ambientK,
  })
  return { portKgS, liquidKgS, cylinderKgS, cylinderJKg, suctionPa, dischargePa }
}

/** Of the work that an ideal piston needs. */
const COMPRESSION_EFFICIENCY = 0.7

/** By itself through the machine that stands still; its valves let nothing come back. */
function runOver(
  fluid: Fluid,
  parameters: PlantParameters,
  state: PlantState,
  now: Inside,
  cylinderTotalPa: number,
  dt: number,
): Passage {
  const { system } = state
  const k = inSeries(
    portK(parameters, state),
    parameters.hose.suctionK,
    parameters.machine.throughK,
    parameters.hose.dischargeK,
  )
  const dischargePa = cylinderTotalPa
  const reach = reachable(parameters, state)
  const density = fluid.liquid(system.mainK)
  const liquidKgS = Math.min(
    reach * liquidFlow(k, density, now.totalPa, cylinderTotalPa),
    system.liquidKg / dt,
  )
  const vapourKgS = Math.min(
    (1 - reach) * vapourFlow(fluid, k, now.totalPa, cylinderTotalPa, system.mainK),
    (0.5 * system.vapourKg) / dt,
  )
  const portKgS = liquidKgS + vapourKgS
  const cylinderJKg =
    portKgS > 0
      ? (liquidKgS * fluid.liquidJ(system.mainK) + vapourKgS * fluid.vapourJ(system.mainK)) / portKgS
      : 0
  // Nothing comes back through a stopped machine: against a higher cylinder the gauge at its inlet shows the system.
  const suctionPa = Math.min(cylinderTotalPa, now.totalPa)
  return { portKgS, liquidKgS, cylinderKgS: portKgS, cylinderJKg, suctionPa, dischargePa }
}

/** Stops by itself when empty, cuts out when the cylinder pushes back, and comes back when it has cooled. */
function watchMachine(
  { machine: of, atmospherePa }: PlantParameters,
  state: PlantState,
  now: Inside,
  dischargePa: number,
) {
  const { machine, controls } = state
  if (controls.machine !== 'run') {
    machine.stoppedItself = false
    return
  }
  if (dischargePa > atmospherePa + of.cutOutPa) machine.cutOut = true
  else if (dischargePa < atmospherePa + of.cutOutResetPa) machine.cutOut = false
  const suctionPa = state.seen.suctionPa || now.totalPa
  if (of.autoStopPa > 0 && suctionPa <= atmospherePa - of.autoStopPa) machine.stoppedItself = true
}

/** The suction pressure at which hose and machine agree, by false position. */
function balance(
  fluid: Fluid,
  { machine }: PlantParameters,
  k: number,
  fromPa: number,
  dischargePa: number,
  tempK: number,
): number {
  const over = (suctionPa: number) =>
    vapourFlow(fluid, k, fromPa, suctionPa, tempK) -
    machineFlow(fluid, machine, { suctionPa, dischargePa, tempK })
  let low = 1
  let high = fromPa
  let atLow = over(low)
  let atHigh = over(high)
  if (atLow <= 0) return low
  if (atHigh >= 0) return high
  for (let pass = 0; pass < 60 && high - low > 0.5; pass++) {
    // Illinois: an end that stays counts half.
    const middle = pass % 3 === 2 ? (low + high) / 2 : (low * atHigh - high * atLow) / (atHigh - atLow)
    const at = over(middle)
    if (at > 0) {
      low = middle
      atLow = at
      atHigh /= 2
    } else {
      high = middle
      atHigh = at
      atLow /= 2
    }
  }
  return (low + high) / 2
}

/** How much of what comes is liquid, 0 to 1. */
function reachable({ system: of }: PlantParameters, { system, controls }: PlantState): number {
  if (controls.valve !== 'liquid') return 0
  return Math.max(0, Math.min(1, (system.liquidKg - of.unreachable * system.liquidMostKg) / MIXED_KG))
}

export const portK = ({ port }: PlantParameters, { controls }: PlantState) =>
  controls.coreIn ? port.coreInK : port.coreOutK
