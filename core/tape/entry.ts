import type { Condition } from '../cylinders'
import type { TargetBasis } from '../charging'
import type { Verdict } from '../verdict'

/** The usual order of a job's stages. Never a forced one: any may be entered at any time, and again. */
export const STAGES = [
  'prepare',
  'recover',
  'repair',
  'leak-test',
  'evacuate',
  'oil',
  'charge',
  'verify',
  'close',
] as const
export type Stage = (typeof STAGES)[number]

/** What a run of weights is for: gas into a cylinder, or out of it. */
export type Use = 'recover' | 'charge'
/** gross: the whole cylinder with its tare known; net: scale zeroed with the cylinder on it. */
export type WeighMode = 'gross' | 'net'
export type PressurePoint = 'low' | 'high' | 'cylinder'
export type TemperaturePoint = 'suction' | 'liquid' | 'ambient' | 'cylinder' | 'vent'
export type LeakMethod = 'nitrogen' | 'detector' | 'bubbles' | 'dye' | 'vacuum'
export type VerdictAbout = 'recovery' | 'hold' | 'charge' | 'readings'

/** What each kind of entry says. Masses in whole mg, pressures absolute Pa, temperatures K, volumes mL. */
export interface EntryBodies {
  'job-described': { title?: string; systemId?: string | null; refrigerant?: string | null }
  'stage-entered': { stage: Stage }
  'cylinder-chosen': { cylinderId: string; use: Use; massMg: number | null }
  'cylinder-released': { cylinderId: string; use: Use }
  'run-started': {
    runId: string
    use: Use
    cylinderId: string
    scale: string
    mode: WeighMode
    weightMg: number
  }
  'weight-noted': { runId: string; weightMg: number }
  'scale-changed': { runId: string; scale: string; mode: WeighMode; weightMg: number }
  'run-ended': { runId: string; weightMg: number; hoseMg: number }
  'recovery-ended': { emptied: boolean }
  'gas-judged': { cylinderId: string; condition: Condition }
  'pressure-noted': { point: PressurePoint; pressurePa: number }
  'temperature-noted': { point: TemperaturePoint; tempK: number }
  'vacuum-noted': { pressurePa: number }
  'hold-started': { holdId: string; pressurePa: number }
  'hold-ended': { holdId: string; pressurePa: number }
  'leak-checked': { method: LeakMethod; found: boolean; text: string }
  'oil-noted': { direction: 'out' | 'parts' | 'in'; volumeMl: number; text: string }
  'target-set': { massMg: number; toleranceMg: number; basis: TargetBasis }
  'step-done': { step: string }
  note: { text: string }
  'verdict-given': { about: VerdictAbout; verdict: Verdict; engine: number; tables: number }
  'verdict-overruled': { entryId: string; reason: string }
  /** `kind` is that of the entry corrected; `body` replaces its body, null strikes it. */
  correction: { entryId: string; kind: EntryKind; body: Record<string, unknown> | null; reason: string }
  'job-waiting': { what: string }
  'job-resumed': Record<string, never>
  'job-closed': Record<string, never>
  'job-cancelled': { reason: string }
  'job-reopened': { reason: string }
}

export type EntryKind = keyof EntryBodies

export interface EntryOf<K extends EntryKind> {
  /** Made where it was written: sending it twice changes nothing. */
  entryId: string
  kind: K
  version: number
  /** When it was so, milliseconds since 1970, by the clock of the device. */
  at: number
  deviceId: string
  deviceSeq: number
  body: EntryBodies[K]
  /** Given by the server under the job's lock; missing while it waits to be sent. */
  seq?: number
  userId?: string
}

export type Entry = { [K in EntryKind]: EntryOf<K> }[EntryKind]

/** The version in which each kind is written today. */
export const ENTRY_VERSION = 1

/** The tape holds an entry from a newer Keg. */
export class NewerEntryError extends Error {
  override name = 'NewerEntryError'
}

/**
 * An entry in today's version of its kind. Every kind is still at its first version; when one changes, its step from
 * the version before belongs here, with an old tape among the tests.
 * @throws NewerEntryError when it was written by a newer Keg
 */
export function upcast(entry: Entry): Entry {
  if (entry.version > ENTRY_VERSION)
    throw new NewerEntryError('This job has entries from a newer version of Keg: reload the page to get it.')
  return entry
}

/** Tape order: by time, then device, then the device's own count. */
export function inTapeOrder(a: Entry, b: Entry): number {
  return (
    a.at - b.at ||
    compare(a.deviceId, b.deviceId) ||
    a.deviceSeq - b.deviceSeq ||
    compare(a.entryId, b.entryId)
  )
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0
}
