import type { Ask, ProgrammeOrder } from '#core/programme'
import { fluidOf } from '../fluid'
import { newPlant, type PlantParameters, type PlantState, step, STEP_S } from '../plant'
import { type TankSetup, USUAL_VEHICLE, vehiclePlant, type VehicleSetup } from './vehicle'

/** Where a step stands: its phase, since when, what it noted, what a hand answered. */
export interface Doing {
  phase: string
  sinceS: number
  notes: Record<string, number>
  curve: [number, number][]
  answered?: Ask
}

export interface StationSetup {
  tank: TankSetup & { tareKg: number; divisionKg: number; refrigerant: string }
  ambientK: number
  /** What the next vehicles are like, one after the other; after the last it begins anew. */
  vehicles: Partial<VehicleSetup>[]
  /** In its bottles, mL. */
  oilMl: number
  dyeMl: number
}

/** Everything that changes at a station; kept on disk as it is. */
export interface StationState {
  plant: PlantState
  parameters: PlantParameters
  /** Whose plant that is, as the order named it; and which of the setup's vehicles. */
  vehicleOf: string | null
  vehicle: VehicleSetup
  arrived: number
  order: ProgrammeOrder | null
  /** Which step; its own notes; since when, s of the plant's time. */
  at: number
  doing: Doing
  ask: Ask | null
  oilMl: number
  dyeMl: number
  /** Out of the vehicle that is on the hoses, mL. */
  drainedMl: number
  /** What the scale stood at when nothing flowed, kg. */
  stoodKg: number | null
  nr: number
}

/** A step at its beginning. */
export const begun = (sinceS: number): Doing => ({ phase: 'begin', sinceS, notes: {}, curve: [] })

/** Everything off and shut. */
export function rest({ controls }: PlantState): void {
  Object.assign(controls, {
    line: 'none',
    valve: 'closed',
    machine: 'off',
    pump: false,
    fan: false,
    compressor: false,
    bathK: undefined,
  })
}

/** Nothing on its hoses yet. */
export function fresh(setup: StationSetup): StationState {
  const vehicle = { ...USUAL_VEHICLE, chargeShare: 0 }
  const parameters = vehiclePlant(setup.tank.refrigerant, 0.5, vehicle, setup.tank, setup.ambientK)
  return {
    plant: newPlant(parameters),
    parameters,
    vehicleOf: null,
    vehicle,
    arrived: 0,
    order: null,
    at: 0,
    doing: begun(0),
    ask: null,
    oilMl: setup.oilMl,
    dyeMl: setup.dyeMl,
    drainedMl: 0,
    stoodKg: null,
    nr: 0,
  }
}

/** Another vehicle on the hoses; the tank stays as it is. */
export function arrive(setup: StationSetup, state: StationState, order: ProgrammeOrder): void {
  const vehicle = { ...USUAL_VEHICLE, ...setup.vehicles[state.arrived % Math.max(1, setup.vehicles.length)] }
  const parameters = vehiclePlant(setup.tank.refrigerant, order.plateKg, vehicle, setup.tank, setup.ambientK)
  const { cylinder, machine, seconds } = state.plant
  const plant = { ...newPlant(parameters), cylinder, machine, seconds }
  // Its instruments have seen it before the first word.
  step(parameters, plant, STEP_S)
  Object.assign(state, {
    plant,
    parameters,
    vehicle,
    vehicleOf: order.vehicle,
    arrived: state.arrived + 1,
    drainedMl: 0,
  })
}

/** What the hoses hold goes into the tank. */
export function clearHoses({ plant, parameters }: StationState): void {
  const fluid = fluidOf(parameters.refrigerant)
  plant.cylinder.kg += plant.hoseKg
  plant.cylinder.energyJ += plant.hoseKg * fluid.liquidJ(plant.cylinder.tempK)
  plant.hoseKg = 0
}

/** The running engine draws the low hose empty. */
export function drawHoses({ plant }: StationState): void {
  if (!plant.cycle) return
  plant.cycle.evaporatorKg += plant.hoseKg
  plant.hoseKg = 0
}
