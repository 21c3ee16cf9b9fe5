import type { namedScale } from '~/kit/job-kit'
import {
  type Entry,
  type EntryBodies,
  type EntryKind,
  type ReadOff,
  versionOf,
  type WeighMode,
} from '#core/tape'

/** What a new job begins with, as far as it is known. */
export interface Beginning {
  jobId: string
  runId: string
  /** The clock, the name and the count of the device that it was pressed on. */
  at: number
  deviceId: string
  deviceSeq: number
  title: string
  systemId: string | null
  refrigerant: string | null
  /** The system is to hold another gas at its end. */
  retrofit?: boolean
  cylinder?: {
    cylinderId: string
    /** Gross weight by tare and books. */
    bookedMg: number
    startMg?: number | undefined
    /** Read off a live scale: the sample that counts. */
    sample?: ReadOff | undefined
    mode: WeighMode
    /** The shop's scale that it stands on. */
    scale?: ReturnType<typeof namedScale> | undefined
  }
}

/** What a beginning writes at most: described, cylinder chosen, transfer started, for a retrofit. */
export const MOST_ENTRIES = 4

/** The same entries wherever it is pressed, and however often it is sent: by the server, or waiting on the device. */
export function beginning(begin: Beginning): Entry[] {
  const { title, systemId, refrigerant, cylinder, runId, retrofit } = begin
  const entries = [entry(begin, 0, 'job-described', { title, systemId, refrigerant })]
  if (retrofit) entries.push(entry(begin, 3, 'retrofit-planned', {}))
  if (!cylinder) return entries
  const { cylinderId, bookedMg, startMg, mode, scale = { scale: '' }, sample } = cylinder
  entries.push(entry(begin, 1, 'cylinder-chosen', { cylinderId, use: 'recover', massMg: null }))
  if (startMg !== undefined)
    entries.push({
      ...entry(begin, 2, 'run-started', {
        runId,
        use: 'recover',
        cylinderId,
        ...scale,
        mode,
        weightMg: startMg,
        bookedMg,
      }),
      ...(sample ? { sample } : {}),
    })
  return entries
}

function entry<K extends EntryKind>(begin: Beginning, n: number, kind: K, body: EntryBodies[K]): Entry {
  return {
    entryId: nth(begin.jobId, n),
    kind,
    version: versionOf(kind),
    at: begin.at,
    deviceId: begin.deviceId,
    deviceSeq: begin.deviceSeq + n,
    body,
  } as Entry
}

/** The n-th entry of a beginning, whenever it is sent again. */
function nth(jobId: string, n: number): string {
  return jobId.slice(0, -1) + ((Number.parseInt(jobId.slice(-1), 16) + n) % 16).toString(16)
}
