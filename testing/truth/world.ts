// A shop's small world, in which every gram is known: one machine, two cylinders, two scales, a clock.
import { GAS_CONSTANT } from '#core/refrigerants'
import type { Trade } from '#core/systems'
import { type Dice } from '../../sim/dice'
import { inside, newPlant, type PlantParameters, type PlantState, step, TYPICAL } from '../../sim/plant'
import { fluidOf } from '../../sim/fluid'

export type VesselId = 'A' | 'B'

export interface Vessel {
  cylinderId: string
  tareKg: number
  cylinder: PlantState['cylinder']
}

export interface Scale {
  name: string
  /** What it reads off, kg: one offset for the whole course. */
  offsetKg: number
  divisionKg: number
  accuracyKg: number
}

/** Parts of what is in a system, kg. */
type Charge = Record<(typeof CHARGE_PARTS)[number], number>
const CHARGE_PARTS = ['liquidKg', 'pocketKg', 'vapourKg', 'dissolvedKg'] as const

export interface World {
  /** ms since 1970. */
  now: number
  parameters: PlantParameters
  plant: PlantState
  trade: Trade
  vessels: Record<VesselId, Vessel>
  /** Of another gas: it is not touched any more. */
  setAside: Vessel[]
  /** What came with another gas, kg. */
  broughtKg: number
  /** Which one hangs on the hoses. */
  aboard: VesselId
  scales: [Scale, Scale]
  /** Behind the valves of its outdoor unit; null: they are open. */
  shutIn: Charge | null
  /** Shares that the gauges read off. */
  gaugeOffPa: number
  vacuumFactor: number
  /** Gone by the hole or by an opening, kg, since gas went in last. */
  leakedKg: number
}

/** Seconds a step; what it is does not matter to where the gas is. */
const STEP_S = 0.5
/** What a shop has of virgin gas, kg. */
const VIRGIN_KG = { least: 6, most: 9 }
export const GASES = ['R-410A', 'R-134a', 'R-404A', 'R-32', 'R-407C'] as const

export function newWorld(dice: Dice): World {
  const between = (least: number, most: number) => least + (most - least) * dice.even()
  const trade: Trade = dice.even() < 0.15 ? 'vehicle' : 'stationary'
  const refrigerant = trade === 'vehicle' ? 'R-134a' : GASES[Math.floor(dice.even() * GASES.length)]!
  const chargeKg = trade === 'vehicle' ? between(0.5, 1.2) : between(0.8, 4)
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
  const vessels = rackFor(parameters, dice, '')
  const plant = newPlant(parameters)
  plant.cylinder = vessels.A.cylinder
  return {
    now: 1_780_000_000_000,
    parameters,
    trade,
    plant,
    vessels,
    setAside: [],
    broughtKg: 0,
    aboard: 'A',
    scales: [scaleBy(dice, 'floor scale'), scaleBy(dice, 'bench scale')],
    shutIn: null,
    gaugeOffPa: between(-1, 1) * 15_000,
    vacuumFactor: 1 + between(-1, 1) * 0.15,
    leakedKg: 0,
  }
}

function scaleBy(dice: Dice, name: string): Scale {
  const divisionKg = [0.002, 0.005, 0.01][Math.floor(dice.even() * 3)]!
  const accuracyKg = (1 + 3 * dice.even()) * divisionKg
  return { name, divisionKg, accuracyKg, offsetKg: ((2 * dice.even() - 1) * accuracyKg) / 2 }
}

/** An empty cylinder to recover into, and a full one to charge from. @param mark what tells their ids from those of another gas */
function rackFor(parameters: PlantParameters, dice: Dice, mark: string): World['vessels'] {
  const between = (least: number, most: number) => least + (most - least) * dice.even()
  const vessel = (cylinderId: string, contentsKg: number): Vessel => ({
    cylinderId,
    tareKg: between(6, 9),
    cylinder: newPlant({ ...parameters, cylinder: { ...parameters.cylinder, contentsKg } }).cylinder,
  })
  return { A: vessel(`A${mark}`, 0), B: vessel(`B${mark}`, between(VIRGIN_KG.least, VIRGIN_KG.most)) }
}

/** Another gas from here on, with cylinders of its own. */
export function changeGas(world: World, refrigerant: string, dice: Dice): void {
  letGo(world)
  world.vessels[world.aboard].cylinder = world.plant.cylinder
  world.setAside.push(...Object.values(world.vessels))
  world.parameters.refrigerant = refrigerant
  world.vessels = rackFor(world.parameters, dice, `-${refrigerant}`)
  world.aboard = 'A'
  world.plant.cylinder = world.vessels.A.cylinder
  world.broughtKg += world.vessels.B.cylinder.kg
}

/** What is truly in the system, kg. */
export const inSystemKg = (world: World): number =>
  reachableKg(world) + CHARGE_PARTS.reduce((sum, part) => sum + (world.shutIn?.[part] ?? 0), 0)

/** What of it stands in the circuit that somebody would open, kg. */
export function reachableKg({ plant: { system, cycle } }: World): number {
  const moving = cycle ? cycle.evaporatorKg + cycle.condenserKg : 0
  return CHARGE_PARTS.reduce((sum, part) => sum + system[part], moving)
}

/** Pumped down into the outdoor unit: all but a little vapour. */
export function shutValves(world: World): void {
  const { system } = world.plant
  const shut = { liquidKg: 0, pocketKg: 0, vapourKg: 0, dissolvedKg: 0 }
  for (const part of CHARGE_PARTS) {
    shut[part] = system[part]
    system[part] = 0
  }
  const staysKg = Math.min(shut.vapourKg, 0.01 * world.parameters.system.chargeKg)
  shut.vapourKg -= staysKg
  system.vapourKg = staysKg
  world.shutIn = shut
}

export function openValves(world: World): void {
  const { system } = world.plant
  for (const part of CHARGE_PARTS) system[part] += world.shutIn?.[part] ?? 0
  world.shutIn = null
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

/** Gross weight of what hangs on the hoses, as a scale shows it, mg. */
export function weighedMg({ vessels, aboard, plant }: World, scale: Scale): number {
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
  const totalKg = reachableKg(world)
  let goKg = share >= 1 ? totalKg : totalKg * share
  for (const part of CHARGE_PARTS) {
    const partKg = Math.min(goKg, system[part])
    system[part] -= partKg
    goKg -= partKg
    world.plant.lostKg += partKg
    world.leakedKg += partKg
  }
  if (share >= 1) fillTo(world, world.parameters.atmospherePa)
  world.now += days * 86_400_000
}

/** All refrigerant that there was at first, kg: no act may change it. */
export function allKg(world: World): number {
  const { plant, vessels, aboard, setAside, broughtKg } = world
  const standing = [vessels.A, vessels.B, ...setAside].reduce(
    (sum, each) => sum + (each === vessels[aboard] ? plant.cylinder.kg : each.cylinder.kg),
    0,
  )
  return inSystemKg(world) + plant.machine.holdupKg + plant.hoseKg + plant.lostKg + standing - broughtKg
}
