// A shop's small world, in which every gram is known: one machine, two cylinders, one scale, a clock.
import { GAS_CONSTANT } from '#core/refrigerants'
import { type Dice } from '../../sim/dice'
import { inside, newPlant, type PlantParameters, type PlantState, step, TYPICAL } from '../../sim/plant'
import { fluidOf } from '../../sim/fluid'

export type VesselId = 'A' | 'B'

export interface Vessel {
  cylinderId: VesselId
  tareKg: number
  cylinder: PlantState['cylinder']
}

export interface World {
  /** ms since 1970. */
  now: number
  parameters: PlantParameters
  plant: PlantState
  vessels: Record<VesselId, Vessel>
  /** Which one hangs on the hoses. */
  aboard: VesselId
  /** What the scale reads off, kg: one offset for the whole course, and what it counts in. */
  scale: { offsetKg: number; divisionKg: number; accuracyKg: number }
  /** Shares that the gauges read off. */
  gaugeOffPa: number
  vacuumFactor: number
  /** Gone by the hole or by an opening, kg, since gas went in last. */
  leakedKg: number
}

/** Seconds a step; what it is does not matter to where the gas is. */
const STEP_S = 0.5
const GASES = ['R-410A', 'R-134a', 'R-404A', 'R-32', 'R-407C'] as const

export function newWorld(dice: Dice): World {
  const between = (least: number, most: number) => least + (most - least) * dice.even()
  const refrigerant = GASES[Math.floor(dice.even() * GASES.length)]!
  const chargeKg = between(0.8, 4)
  const divisionKg = [0.002, 0.005, 0.01][Math.floor(dice.even() * 3)]!
  const accuracyKg = between(1, 4) * divisionKg
  const parameters: PlantParameters = {
    ...structuredClone(TYPICAL),
    refrigerant,
    ambientK: between(283, 305),
    port: { coreInK: 8e-6, coreOutK: 20e-6 },
    hose: { ...TYPICAL.hose, suctionK: 9e-6, dischargeK: 9e-6 },
  }
  parameters.system = {
    ...parameters.system,
    volumeM3: (chargeKg / 3) * 12e-3,
    chargeKg,
    oilKg: 0.3 * chargeKg,
    oilS: 300,
    pocketKg: 0.05 * chargeKg,
  }
  // A machine for larger work: what it takes long over is no part of what is asked here.
  parameters.machine = { ...parameters.machine, displacementM3S: 2e-3, liquidCapKgS: 0.1, autoStopPa: 60_000 }
  parameters.vacuum = { ...parameters.vacuum, coreBoreM: 6e-3, hoseBoreM: 8e-3 }
  const vessel = (cylinderId: VesselId, contentsKg: number): Vessel => ({
    cylinderId,
    tareKg: between(6, 9),
    cylinder: newPlant({ ...parameters, cylinder: { ...parameters.cylinder, contentsKg } }).cylinder,
  })
  const vessels = { A: vessel('A', 0), B: vessel('B', between(6, 9)) }
  const plant = newPlant(parameters)
  plant.cylinder = vessels.A.cylinder
  return {
    now: 1_780_000_000_000,
    parameters,
    plant,
    vessels,
    aboard: 'A',
    scale: { offsetKg: (between(-1, 1) * accuracyKg) / 2, divisionKg, accuracyKg },
    gaugeOffPa: between(-1, 1) * 15_000,
    vacuumFactor: 1 + between(-1, 1) * 0.15,
    leakedKg: 0,
  }
}

/** What is truly in the system, kg. */
export function inSystemKg({ plant: { system, cycle } }: World): number {
  const moving = cycle ? cycle.evaporatorKg + cycle.condenserKg : 0
  return system.vapourKg + system.liquidKg + system.pocketKg + system.dissolvedKg + moving
}

/** Pressure in the system, absolute Pa, and how much of it is air or nitrogen. */
export const pressures = ({ parameters, plant }: World) =>
  inside(fluidOf(parameters.refrigerant), parameters, plant.system)

/** Time goes by, with the hands as they are. @param until stops it sooner */
export function pass(world: World, seconds: number, until?: () => boolean): void {
  const { parameters, plant } = world
  const before = plant.lostKg
  let passedS = 0
  while (passedS < seconds && !until?.()) {
    step(parameters, plant, STEP_S)
    passedS += STEP_S
  }
  world.leakedKg += plant.lostKg - before
  world.now += Math.round(passedS * 1000)
}

/** Time in which nothing moves but the clock. */
export const later = (world: World, minutes: number) => void (world.now += Math.round(minutes * 60_000))

/** The hoses come off one cylinder and go onto another; what was in them is purged away. */
export function hangOn(world: World, cylinderId: VesselId): void {
  letGo(world)
  world.vessels[world.aboard].cylinder = world.plant.cylinder
  world.plant.cylinder = world.vessels[cylinderId].cylinder
  world.aboard = cylinderId
}

/** Hoses off, everything shut. */
export function letGo({ plant }: World): void {
  Object.assign(plant.controls, { line: 'none', valve: 'closed', machine: 'off', pump: false, fan: false })
  plant.lostKg += plant.hoseKg
  plant.hoseKg = 0
}

/** Gross weight of what hangs on the hoses, as the scale shows it, mg. */
export function weighedMg(world: World): number {
  const { scale, vessels, aboard, plant } = world
  const shown = vessels[aboard].tareKg + plant.cylinder.kg + scale.offsetKg
  return Math.round(Math.round(shown / scale.divisionKg) * scale.divisionKg * 1e6)
}

/** Opened to the air: what is in it goes, but for what the oil holds a while. */
export function open(world: World): void {
  const { plant, parameters } = world
  const { system } = plant
  const goneKg = system.vapourKg + system.liquidKg + system.pocketKg
  Object.assign(system, { vapourKg: 0, liquidKg: 0, pocketKg: 0 })
  plant.lostKg += goneKg
  world.leakedKg += goneKg
  fillTo(world, parameters.atmospherePa)
}

/** Dry nitrogen, or air, up to a pressure; never down. */
export function fillTo(world: World, pressurePa: number): void {
  const { totalPa, gasM3 } = pressures(world)
  const missingPa = Math.max(0, pressurePa - totalPa)
  world.plant.system.airMol += (missingPa * gasM3) / (GAS_CONSTANT * world.plant.system.mainK)
}

/** Nitrogen let down to the air around; a little refrigerant goes with it. */
export function ventNitrogen(world: World): void {
  const { totalPa } = pressures(world)
  const keep = Math.min(1, world.parameters.atmospherePa / Math.max(1, totalPa))
  const { system } = world.plant
  const goneKg = system.vapourKg * (1 - keep)
  system.airMol *= keep
  system.vapourKg -= goneKg
  world.plant.lostKg += goneKg
  world.leakedKg += goneKg
}

/** Weeks go by, in which a share of it leaks away, or all of it. */
export function leakAway(world: World, share: number, days: number): void {
  const { system } = world.plant
  const totalKg = inSystemKg(world)
  let goKg = share >= 1 ? totalKg : totalKg * share
  for (const part of ['liquidKg', 'pocketKg', 'vapourKg', 'dissolvedKg'] as const) {
    const partKg = Math.min(goKg, system[part])
    system[part] -= partKg
    goKg -= partKg
    world.plant.lostKg += partKg
    world.leakedKg += partKg
  }
  if (share >= 1) fillTo(world, world.parameters.atmospherePa)
  world.now += days * 86_400_000
}

/** All refrigerant there is, kg: no act may change it. */
export function allKg(world: World): number {
  const { plant, vessels, aboard } = world
  const standing = Object.values(vessels).reduce(
    (sum, each) => sum + (each.cylinderId === aboard ? plant.cylinder.kg : each.cylinder.kg),
    0,
  )
  return inSystemKg(world) + plant.machine.holdupKg + plant.hoseKg + plant.lostKg + standing
}
