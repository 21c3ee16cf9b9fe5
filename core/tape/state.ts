import type { Condition } from '../cylinders'
import type { TargetBasis } from '../charging'
import type { Verdict } from '../verdict'
import type {
  Entry,
  LeakMethod,
  PressurePoint,
  Stage,
  TemperaturePoint,
  Use,
  VerdictAbout,
  WeighMode,
} from './entry'

export type JobStatus = 'open' | 'waiting' | 'closed' | 'cancelled'

export interface Weighing {
  entryId: string
  at: number
  /** As the scale read it. */
  weightMg: number
  /** Counts up with each change of scale. */
  segment: number
}

/** One transfer between the system and a cylinder on a scale. */
export interface Run {
  runId: string
  use: Use
  cylinderId: string
  scale: string
  mode: WeighMode
  /** The mode of each segment. */
  modes: WeighMode[]
  weighings: Weighing[]
  startedAt: number
  endedAt?: number
  /** Left in the liquid hose, not in the system. */
  hoseMg: number
  /** Net moved in the sense of `use`; negative: it went the other way. */
  amountMg: number
}

export interface Hold {
  holdId: string
  startedAt: number
  endedAt?: number
  readings: { at: number; pressurePa: number }[]
}

export interface Reading {
  at: number
  value: number
}

export interface GivenVerdict {
  entryId: string
  about: VerdictAbout
  verdict: Verdict
  overruled?: string
}

/** An entry as the tape shows it. */
export interface TapeLine {
  entry: Entry
  /** What counts: the entry's own body, or that of its last correction. */
  body: Entry['body']
  struck: boolean
  correctedBy?: Entry
}

export interface JobState {
  status: JobStatus
  stage: Stage
  title: string
  systemId: string | null
  refrigerant: string | null
  openedAt: number
  lastAt: number
  closedAt?: number
  chosen: { cylinderId: string; use: Use; massMg: number | null }[]
  runs: Run[]
  recoveredMg: number
  chargedMg: number
  /** The last end of a recovery; undefined while none has ended since the last recovery run. */
  recoveryEnded?: { at: number; emptied: boolean }
  recoveryEnds: { at: number; emptied: boolean }[]
  gas: Record<string, Condition>
  pressures: Partial<Record<PressurePoint, Reading>>
  temperatures: Partial<Record<TemperaturePoint, Reading>>
  vacuum: Reading[]
  holds: Hold[]
  leakChecks: { at: number; method: LeakMethod; found: boolean; text: string }[]
  oil: { outMl: number; partsMl: number; inMl: number; noted: boolean }
  target?: { massMg: number; toleranceMg: number; basis: TargetBasis }
  steps: string[]
  verdicts: GivenVerdict[]
  waitingFor: string
  flags: string[]
  lines: TapeLine[]
}
