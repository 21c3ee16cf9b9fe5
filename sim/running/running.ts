import { type Dice, dice, seedFor } from '../dice'
import { type CycleParameters, type CycleReadings, newCycle, runCycle, TYPICAL_CYCLE } from '../plant'

/** What is wrong with a running system, or nothing; and how large each is: small, middling, large, drawn from a range. */
const SIZES = {
  // Shares of the right charge.
  'all-right': [[0.98, 1.02]],
  'charge-low': [
    [0.82, 0.9],
    [0.7, 0.8],
    [0.55, 0.68],
  ],
  'charge-high': [
    [1.1, 1.18],
    [1.2, 1.3],
    [1.32, 1.4],
  ],
  // Moles in the condenser.
  air: [
    [0.25, 0.4],
    [0.5, 0.7],
    [0.8, 1.1],
  ],
  // Shares of the condenser's air.
  condenser: [
    [0.62, 0.7],
    [0.52, 0.6],
    [0.42, 0.5],
  ],
  // Flow coefficient, 1e-6 m2.
  restriction: [
    [0.56, 0.6],
    [0.46, 0.54],
    [0.36, 0.44],
  ],
  // How far the valve is open.
  'valve-starved': [
    [0.24, 0.27],
    [0.19, 0.23],
    [0.14, 0.18],
  ],
  'valve-flooded': [
    [0.5, 0.6],
    [0.65, 0.8],
    [0.85, 1],
  ],
  // Shares of the evaporator's air.
  'evaporator-air': [
    [0.66, 0.72],
    [0.56, 0.64],
    [0.46, 0.54],
  ],
  // Of a compressor as new.
  compressor: [
    [0.7, 0.76],
    [0.6, 0.68],
    [0.5, 0.58],
  ],
} as const satisfies Record<string, (readonly [least: number, most: number])[]>

export type Fault = keyof typeof SIZES
export const FAULTS = Object.keys(SIZES) as Fault[]
export type FaultSize = 0 | 1 | 2
export type Device = 'valve' | 'orifice'

/** A running system that has settled. */
export interface Running {
  of: CycleParameters
  readings: CycleReadings
  /** What the same machine shows in the same weather with nothing wrong. */
  right: CycleReadings
}

/** No orifice is stuck: those faults are a valve's. */
export const mayHave = (device: Device, fault: Fault) => device === 'valve' || !fault.startsWith('valve-')

/** Some machine in some weather with a fault of some size. The same seed makes the same one. */
export function madeRunning(fault: Fault, size: FaultSize, device: Device, seed: number): Running {
  const d = dice(seedFor(seed, `${fault} ${size} ${device}`))
  const right: CycleParameters = {
    ...TYPICAL_CYCLE,
    device,
    ambientK: between(d, 297, 311),
    airOnK: between(d, 294.5, 300.5),
    // No two machines are alike.
    condenserWK: TYPICAL_CYCLE.condenserWK * between(d, 0.94, 1.06),
    evaporatorWK: TYPICAL_CYCLE.evaporatorWK * between(d, 0.94, 1.06),
  }
  const [least, most] = SIZES[fault][Math.min(size, SIZES[fault].length - 1)]!
  const of = withFault(right, fault, between(d, least, most))
  return { of, readings: settled(of), right: settled(right) }
}

const between = (d: Dice, least: number, most: number) => least + (most - least) * d.even()

function withFault(of: CycleParameters, fault: Fault, size: number): CycleParameters {
  switch (fault) {
    case 'all-right':
    case 'charge-low':
    case 'charge-high':
      return { ...of, chargeKg: size * of.chargeKg }
    case 'air':
      return { ...of, airMol: size }
    // Less air over a coil takes its heat transfer down with it, though not quite as much.
    case 'condenser':
      return {
        ...of,
        condenserAirWK: size * of.condenserAirWK,
        condenserWK: size ** AIR_AND_COIL.condenser * of.condenserWK,
      }
    case 'evaporator-air':
      return {
        ...of,
        evaporatorAirWK: size * of.evaporatorAirWK,
        evaporatorWK: size ** AIR_AND_COIL.evaporator * of.evaporatorWK,
      }
    case 'restriction':
      return { ...of, restrictionK: size * 1e-6 }
    case 'valve-starved':
    case 'valve-flooded':
      return { ...of, device: 'stuck', opening: size }
    case 'compressor':
      return { ...of, health: size }
  }
}

/** At half the air 420 of 900 and 416 of 700 W/K are left: the model's two cases. */
const AIR_AND_COIL = {
  condenser: Math.log(900 / 420) / Math.LN2,
  evaporator: Math.log(700 / 416) / Math.LN2,
}

const SETTLES_S = 1_200
const MEAN_S = 200
const DT_S = 0.5

function settled(of: CycleParameters): CycleReadings {
  const state = newCycle(of)
  for (let at = 0; at < SETTLES_S - MEAN_S; at += DT_S) runCycle(of, state, DT_S)
  let sum: CycleReadings | undefined
  for (let at = 0; at < MEAN_S; at += DT_S) {
    const now = runCycle(of, state, DT_S)
    sum = sum ? joined(sum, now, (a, b) => a + b) : now
  }
  return joined(sum!, sum!, (a) => (a * DT_S) / MEAN_S)
}

function joined(a: CycleReadings, b: CycleReadings, by: (a: number, b: number) => number): CycleReadings {
  return Object.fromEntries(
    (Object.keys(a) as (keyof CycleReadings)[]).map((key) => [key, by(a[key], b[key])]),
  ) as unknown as CycleReadings
}
