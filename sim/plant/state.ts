import { type Fluid, fluidOf, vapourDensityOf } from '../fluid'
import { type CylinderState, newCylinder } from './cylinder'
import type { CycleReadings, CycleState } from './cycle'
import type { PlantParameters } from './parameters'

/** What stands at the end of the hoses. */
export type Line = 'none' | 'machine' | 'pump' | 'cylinder'
/** Which port is open: at the system while recovering, at the cylinder while charging. */
export type Valve = 'closed' | 'vapour' | 'liquid'
export type MachineMode = 'off' | 'run' | 'purge'

/** What a hand can do. */
export interface Controls {
  line: Line
  valve: Valve
  cylinderOpen: boolean
  machine: MachineMode
  pump: boolean
  /** Fans of the coils. */
  fan: boolean
  coreIn: boolean
  /** The system's own compressor. */
  compressor: boolean
  /** A water bath around the cylinder, K; undefined: none. */
  bathK: number | undefined
  /** Ice on the cylinder. */
  ice: boolean
  sun: boolean
}

export interface SystemState {
  vapourKg: number
  liquidKg: number
  pocketKg: number
  /** Refrigerant in the oil. */
  dissolvedKg: number
  mainK: number
  pocketK: number
  airMol: number
  /** The most liquid that was there: the port reaches all but a share of it. */
  liquidMostKg: number
  /** Water in the circuit: liquid and ice together, of which ice; their temperature; vapour. */
  waterKg: number
  waterIceKg: number
  waterK: number
  waterMol: number
  /** What the walls and the oil still give off, Pa m3 of water vapour. */
  wallsPaM3: number
  /** The still water around a coil: temperature and ice on it. */
  bathK: number
  bathIceKg: number
}

/** What the last step found, for the instruments. Pa absolute, kg/s, K. */
export interface Seen {
  systemPa: number
  /** On the high side; the same as `systemPa` while nothing runs. */
  highPa: number
  suctionPa: number
  dischargePa: number
  portKgS: number
  pumpPa: number
  /** Of a running system. */
  running: CycleReadings | undefined
}

/** Everything that changes. The instruments read `seen`: what the last step found. */
export interface PlantState {
  seconds: number
  system: SystemState
  machine: { holdupKg: number; cutOut: boolean; stoppedItself: boolean }
  cylinder: CylinderState
  /** While its own compressor runs the refrigerant is in here. */
  cycle: CycleState | undefined
  hoseKg: number
  /** Gone into the air, through a hole or the pump's exhaust. */
  lostKg: number
  controls: Controls
  seen: Seen
}

export function newPlant(parameters: PlantParameters, controls: Partial<Controls> = {}): PlantState {
  const fluid = fluidOf(parameters.refrigerant)
  const system = newSystem(fluid, parameters)
  return {
    seconds: 0,
    system,
    machine: { holdupKg: parameters.machine.holdupKg, cutOut: false, stoppedItself: false },
    cylinder: newCylinder(fluid, parameters.cylinder, parameters.ambientK),
    cycle: undefined,
    hoseKg: 0,
    lostKg: 0,
    controls: {
      line: 'none',
      valve: 'closed',
      cylinderOpen: true,
      machine: 'off',
      pump: false,
      fan: false,
      coreIn: true,
      compressor: false,
      bathK: undefined,
      ice: false,
      sun: parameters.cylinder.sunW > 0,
      ...controls,
    },
    seen: { systemPa: 0, highPa: 0, suctionPa: 0, dischargePa: 0, portKgS: 0, pumpPa: 0, running: undefined },
  }
}

/** All refrigerant there is, kg: what no step may change. */
export function totalKg(state: PlantState): number {
  return systemKg(state) + state.machine.holdupKg + state.cylinder.kg + state.hoseKg + state.lostKg
}

/** What the system holds, kg, wherever in it. */
export function systemKg({ system, cycle }: PlantState): number {
  const moving = cycle ? cycle.evaporatorKg + cycle.condenserKg : 0
  return system.vapourKg + system.liquidKg + system.pocketKg + system.dissolvedKg + moving
}

/** Room for gas and liquid beside the oil, m3. */
export const openVolume = ({ system }: PlantParameters) => system.volumeM3 - system.oilKg / system.oilDensity

function newSystem(fluid: Fluid, parameters: PlantParameters): SystemState {
  const { ambientK, system, vacuum } = parameters
  const volumeM3 = openVolume(parameters)
  const charged = system.chargeKg > 0
  // A small charge cannot fill oil and pocket as a large one does.
  const dissolvedKg = charged
    ? Math.min(system.oilKg * system.solubility * system.oilSaturation, system.chargeKg / 10)
    : 0
  const pocketKg = charged ? Math.min(system.pocketKg, system.chargeKg / 4) : 0
  const restKg = system.chargeKg - dissolvedKg - pocketKg
  const liquid = fluid.liquid(ambientK)
  const vapour = fluid.vapour(ambientK)
  const gasM3 = volumeM3 - pocketKg / liquid
  const liquidKg = Math.min(restKg, Math.max(0, (restKg - gasM3 * vapour) / (1 - vapour / liquid)))
  return {
    vapourKg: restKg - liquidKg,
    liquidKg,
    pocketKg,
    dissolvedKg,
    mainK: ambientK,
    pocketK: ambientK,
    airMol: system.airMol,
    liquidMostKg: liquidKg,
    waterKg: vacuum.waterKg,
    waterIceKg: 0,
    waterK: ambientK,
    waterMol: 0,
    wallsPaM3: vacuum.outgassingH * volumeM3 * vacuum.outgassingPa,
    bathK: ambientK,
    bathIceKg: 0,
  }
}

/** Vapour in the hose at this pressure, kg. */
export const hoseVapourKg = (fluid: Fluid, volumeM3: number, pressurePa: number, tempK: number) =>
  volumeM3 * vapourDensityOf(fluid, pressurePa, tempK)
