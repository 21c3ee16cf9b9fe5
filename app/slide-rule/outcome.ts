import type { EvacuationRig } from '#core/vacuum'
import type { Verdict } from '#core/verdict'
import type { KindName } from './kinds'

/** A number that a tool gives, SI. */
export interface Figure {
  /** Its key in JSON. */
  name: string
  label: string
  kind: KindName
  value: number
  /** Where it is an estimate. */
  range?: { least: number; most: number }
}

/** One line of the working. */
export interface Step {
  what: string
  /** The formula with the numbers put in. */
  put: string
  gives: string
}

export interface Judgement {
  outcome: Verdict['outcome']
  words: string
  reasons: string[]
}

export interface Table {
  title: string
  head: string[]
  /** Cells; figures are written in the reader's units already. */
  rows: string[][]
}

/** Lines over an axis, in the reader's units. */
export interface Chart {
  title: string
  x: { name: string; unit: string }
  y: { name: string; unit: string; log?: boolean }
  lines: { name: string; points: [x: number, y: number][] }[]
  marks: { name: string; x: number; y: number }[]
}

/** What is asked of the worker: the same volume with several hose sets, SI. */
export interface EvacuationComparison {
  volumeM3: number
  fromPa: number
  toPa: number
  leakPaM3s: number
  sets: { name: string; rig: EvacuationRig }[]
}

/** The cylinder as it stands after the sum: for its picture. */
export interface CylinderSketch {
  waterCapacityMg: number
  refrigerant: string
  levelNow?: number
  level55?: number
  limitLevel: number
}

/** What comes out, without what is said beside it. */
export interface Answer {
  /** The number or sentence that was asked for. */
  hero: { label: string; text: string; beside?: string }
  figures: Figure[]
  judgement?: Judgement
  working: Step[]
  /** Lists for JSON, SI. */
  data?: Record<string, unknown>
  tables?: Table[]
  chart?: Chart
  comparison?: EvacuationComparison
  sketch?: CylinderSketch
  /** Lines of quick entry for a job. */
  carry?: { line: string; words: string }[]
  /** Where the next step is. */
  onward?: { to: string; words: string }[]
}

export interface Outcome extends Answer {
  /** How sure the numbers are. */
  uncertainty: string[]
  source: string[]
  caution: string[]
  /** What the tool does not know. */
  unknown: string[]
}
