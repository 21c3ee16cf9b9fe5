import type { PlannedStep, ProgrammeStep } from './steps'

/** Where a station needs a hand, and waits until somebody has said so. */
export const ASKS = [
  'hoses-on',
  'engine-on',
  'engine-off',
  'look-at-hold',
  'sniff-vents',
  'high-side-off',
  'hoses-off',
] as const
export type Ask = (typeof ASKS)[number]
/** done: so it is, go on. no: it is not, or something was found; the programme stops. */
export type HandAnswer = 'done' | 'no'

/** Why a station stopped by itself, or was stopped. */
export const STOPS = [
  'by-hand',
  'power-lost',
  'not-the-gas',
  'tank-full',
  'tank-empty',
  'pressure-lost',
  'does-not-empty',
  'scale-touched',
  'answered-no',
  'oil-bottle-empty',
  'does-not-know',
] as const
export type Stop = (typeof STOPS)[number]

/** What a station reads where a step begins or ends. SI; gauges above the air around; volumes mL. */
export interface StationReadings {
  weightKg?: number
  lowPa?: number
  highPa?: number
  vacuumPa?: number
  ambientK?: number
  ventK?: number
  /** What the identifier names, and its share, percent. */
  gas?: string
  purityPct?: number
  /** In the drain bottle, and out of the others. */
  drainMl?: number
  oilMl?: number
  dyeMl?: number
  /** How long it has run. */
  ranS?: number
  /** A hold: seconds since the pump was valved off, absolute Pa. */
  curve?: [atS: number, pressurePa: number][]
}

/** One thing that happened at a station, in its own count. */
export interface StationReport {
  nr: number
  /** By its clock, ms since 1970. */
  at: number
  kind: 'began' | 'done' | 'asks' | 'ended'
  step?: ProgrammeStep
  ask?: Ask
  how?: 'finished' | 'stopped'
  why?: Stop
  readings?: StationReadings
}

/** What a station is told to do. */
export interface ProgrammeOrder {
  programmeId: string
  /** What is on its hoses: the same in another programme on the same vehicle. */
  vehicle: string
  /** What its plate says, kg. */
  plateKg: number
  refrigerant: string
  steps: PlannedStep[]
  /** Its tank, kg on its scale: below and above these it stops by itself. */
  leastKg: number
  mostKg: number
}
