// A course of work told in short: what happened, in order, a quarter of an hour apart unless said otherwise.
import type { RecoveryEndKind } from '#core/recovery'
import {
  type Entry,
  type EntryBodies,
  type EntryKind,
  foldTape,
  type JobState,
  type LeakMethod,
} from '#core/tape'
import { PA_PER_MICRON, ZERO_CELSIUS_K } from '#core/units'
import { anEntry } from './an-entry'

const KG = 1_000_000
const QUARTER_MS = 900_000

export interface Course {
  entries: Entry[]
  state: () => JobState
  /** Minutes until the next entry. */
  wait: (minutes: number) => Course
  write: <K extends EntryKind>(kind: K, body: EntryBodies[K]) => Course
  about: (refrigerant?: string, systemId?: string) => Course
  choose: (use: 'recover' | 'charge', cylinderId: string, kg?: number) => Course
  /** A whole transfer on a gross scale that starts where that cylinder stood last. */
  recover: (cylinderId: string, kg: number) => Course
  charge: (cylinderId: string, kg: number, hoseKg?: number) => Course
  /** A transfer that is not ended. */
  begin: (use: 'recover' | 'charge', cylinderId: string, kg: number) => Course
  end: (how: RecoveryEndKind) => Course
  search: (found: boolean, method?: LeakMethod) => Course
  vacuum: (micron: number) => Course
  /** A hold of so many minutes. */
  hold: (fromMicron: number, toMicron: number, minutes?: number) => Course
  holding: (micron: number) => Course
  target: (kg: number) => Course
  step: (step: string) => Course
  low: (barG: number) => Course
  suction: (tempC: number) => Course
}

export function aCourse(): Course {
  const entries: Entry[] = []
  const grosses = new Map<string, number>()
  let at = 0
  let ids = 0
  let pauseMs = QUARTER_MS
  const write: Course['write'] = (kind, body) => {
    at += pauseMs
    pauseMs = QUARTER_MS
    entries.push(anEntry(kind, body, { at, deviceSeq: entries.length + 1 }))
    return course
  }
  const begin = (use: 'recover' | 'charge', cylinderId: string) => {
    const runId = `run-${++ids}`
    const firstMg = grosses.get(cylinderId) ?? 20 * KG
    write('run-started', { runId, use, cylinderId, scale: '', mode: 'gross', weightMg: firstMg })
    return { runId, firstMg, sign: use === 'recover' ? 1 : -1 }
  }
  const transfer = (use: 'recover' | 'charge', cylinderId: string, kg: number, hoseKg = 0) => {
    const { runId, firstMg, sign } = begin(use, cylinderId)
    const weightMg = firstMg + sign * Math.round(kg * KG)
    grosses.set(cylinderId, weightMg)
    return write('run-ended', { runId, weightMg, ...(hoseKg ? { hoseMg: Math.round(hoseKg * KG) } : {}) })
  }
  const course: Course = {
    entries,
    state: () => foldTape(entries),
    wait(minutes) {
      pauseMs = minutes * 60_000
      return course
    },
    write,
    about: (refrigerant = 'R-410A', systemId) =>
      write('job-described', { refrigerant, ...(systemId ? { systemId } : {}) }),
    choose: (use, cylinderId, kg) =>
      write('cylinder-chosen', { cylinderId, use, massMg: kg === undefined ? null : Math.round(kg * KG) }),
    recover: (cylinderId, kg) => transfer('recover', cylinderId, kg),
    charge: (cylinderId, kg, hoseKg) => transfer('charge', cylinderId, kg, hoseKg),
    begin(use, cylinderId, kg) {
      const { runId, firstMg, sign } = begin(use, cylinderId)
      return write('weight-noted', { runId, weightMg: firstMg + sign * Math.round(kg * KG) })
    },
    end: (how) => write('recovery-ended', { how }),
    search: (found, method = 'nitrogen') => write('leak-checked', { method, found, text: '' }),
    vacuum: (micron) => write('vacuum-noted', { pressurePa: micron * PA_PER_MICRON }),
    hold(fromMicron, toMicron, minutes = 12) {
      const holdId = `hold-${++ids}`
      write('hold-started', { holdId, pressurePa: fromMicron * PA_PER_MICRON })
      return course.wait(minutes).write('hold-ended', { holdId, pressurePa: toMicron * PA_PER_MICRON })
    },
    holding: (micron) =>
      write('hold-started', { holdId: `hold-${++ids}`, pressurePa: micron * PA_PER_MICRON }),
    target: (kg) => write('target-set', { massMg: Math.round(kg * KG), toleranceMg: 30_000, basis: 'typed' }),
    step: (step) => write('step-done', { step }),
    low: (barG) => write('pressure-noted', { point: 'low', pressurePa: 101_325 + barG * 1e5 }),
    suction: (tempC) => write('temperature-noted', { point: 'suction', tempK: tempC + ZERO_CELSIUS_K }),
  }
  return course
}
