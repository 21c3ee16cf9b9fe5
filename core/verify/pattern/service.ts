import { ORIFICE_EITHER_WAY_K } from '../orifice-target'
import type { Metering } from '../superheat'
import type { MachineState } from './causes'

/** What a system is for: it decides what is healthy. */
export const SERVICES = ['comfort', 'cold-store', 'freezer', 'vehicle'] as const
export type Service = (typeof SERVICES)[number]

/** Figures that are held against a healthy range. Kelvin, but for the low side of a vehicle: Pa above the air around. */
export type RangedFigure =
  'td' | 'over-ambient' | 'superheat' | 'subcooling' | 'air-drop' | 'low-gauge' | 'vent-drop'

export interface Healthy {
  least: number
  most: number
}

/** Superheat where the weather's own figure is not known, K: what orifices show over the usual weathers. */
const ORIFICE: Healthy = { least: 3, most: 14 }
/** Of any device: nobody has said which. */
const ANY_DEVICE: Healthy = { least: 3, most: 12 }

/** Typical healthy ranges of settled systems (practice of the trade; the maker's figures win). */
const HEALTHY: Record<Service, Partial<Record<RangedFigure, Healthy>>> = {
  comfort: {
    td: { least: 15, most: 22 },
    'over-ambient': { least: 8, most: 17 },
    superheat: { least: 4, most: 8 },
    subcooling: { least: 4, most: 8 },
    'air-drop': { least: 8, most: 12 },
  },
  'cold-store': {
    td: { least: 5, most: 9 },
    'over-ambient': { least: 8, most: 15 },
    superheat: { least: 4, most: 7 },
    subcooling: { least: 3, most: 7 },
    'air-drop': { least: 3, most: 6 },
  },
  freezer: {
    td: { least: 5, most: 8 },
    'over-ambient': { least: 8, most: 14 },
    superheat: { least: 3, most: 6 },
    subcooling: { least: 3, most: 7 },
    'air-drop': { least: 3, most: 5 },
  },
  vehicle: {
    'low-gauge': { least: 1.2e5, most: 3e5 },
    'over-ambient': { least: 15, most: 28 },
    subcooling: { least: 3, most: 10 },
    'vent-drop': { least: 15, most: 30 },
  },
}

export interface ServiceFacts {
  service: Service
  metering: Metering
  /** What somebody has said that it is at, or is not; left out: nobody knows. */
  states?: Partial<Record<MachineState, boolean>>
  /** Printed on the plate, K; null: not printed. */
  plateSubcoolingK: number | null
  /** Subcooling is read behind a receiver: 1 to 4 K there. */
  receiver?: boolean
  /** The vehicle's low side has a usual pressure: with these gases, in this weather (see {@link lowGaugeIsUsual}). */
  lowGauge?: boolean
  /** What a fixed orifice should show in this weather, K, where a wet bulb was read. */
  targetSuperheatK?: number | undefined
}

/** Either way of what is printed for subcooling, K. */
const PLATE_EITHER_WAY_K = 1.5

/** Gases and weather, K, that the usual low side of vehicles is known for. */
const LOW_GAUGE = { gases: ['R-134a', 'R-1234yf'], leastK: 293.15, mostK: 308.15 }

/** Whether a vehicle's low side may be held against what is usual: other gases run at other pressures. */
export function lowGaugeIsUsual(gas: string, ambientK: number | undefined): boolean {
  return (
    LOW_GAUGE.gases.includes(gas) &&
    ambientK !== undefined &&
    ambientK >= LOW_GAUGE.leastK &&
    ambientK <= LOW_GAUGE.mostK
  )
}

/** The healthy range of a figure; undefined: there is none for this service. */
export function healthyRange(figure: RangedFigure, facts: ServiceFacts): Healthy | undefined {
  const { service, metering, plateSubcoolingK, receiver, targetSuperheatK } = facts
  if (figure === 'low-gauge' && !facts.lowGauge) return undefined
  const usual = HEALTHY[service][figure]
  if (figure === 'subcooling' && usual) {
    if (plateSubcoolingK !== null)
      return { least: plateSubcoolingK - PLATE_EITHER_WAY_K, most: plateSubcoolingK + PLATE_EITHER_WAY_K }
    return receiver ? { least: 1, most: 4 } : usual
  }
  if (figure !== 'superheat' || !usual || metering === 'valve') return usual
  if (metering === 'unknown') return ANY_DEVICE
  if (targetSuperheatK === undefined) return ORIFICE
  return {
    least: targetSuperheatK - ORIFICE_EITHER_WAY_K,
    most: targetSuperheatK + ORIFICE_EITHER_WAY_K,
  }
}

/** How long a system runs before its readings say anything, s: least and most. */
const SETTLES_S: Record<Service, { least: number; most: number }> = {
  comfort: { least: 600, most: 900 },
  'cold-store': { least: 900, most: 1_800 },
  freezer: { least: 900, most: 1_800 },
  vehicle: { least: 300, most: 600 },
}

/**
 * How long until the readings count, s: 0 when it has settled. Comfort cooling 10 to 15 min of steady running; stores at
 * box temperature; vehicles at 1500 to 2000 rpm, recirculated air, lowest fan that keeps cold.
 */
export function settlesInS(service: Service, runningS: number): number {
  return Math.max(0, SETTLES_S[service].least - runningS)
}

export const settleTimeS = (service: Service) => SETTLES_S[service]

/** Air onto the evaporator at which a store's readings begin to count, K: its ranges are those of +2 C and -20 C. */
const BOX_K: Partial<Record<Service, number>> = { 'cold-store': 283.15, freezer: 263.15 }

/** How much warmer a store still is than where its readings count, K; 0: it is there, or it is no store. */
export function boxAboveK(service: Service, airOnK: number): number {
  const boxK = BOX_K[service]
  return boxK === undefined ? 0 : Math.max(0, airOnK - boxK)
}
