import type { PastRun } from '#core/recovery'
import { FOLD_VERSION } from '#core/tape'
import type {
  CylinderRow,
  JobSummary,
  KitRow,
  OpenTape,
  RunningProgramme,
  RunningJob,
  Site,
  SystemPast,
  SystemRow,
} from '#db'
import type { Calling } from '~/alarms/read.server'
import type { JobClocks } from '../clocks/running'
import type { Bay, JobBeside } from '~/job-data/data'
import type { DueItem } from '~/kit/due.server'
import type { Preferences } from '~/base/session/preferences'

/** Rises when an older program could not read it. */
export const PACK_FORMAT = 1

/** What a device takes along of a shop, for one person: enough to open every page of the work without signal. */
export interface Pack {
  format: number
  /** The server's time when it was read, ms. */
  at: number
  /** The address that labels name. */
  origin: string
  person: {
    userId: string
    name: string
    role: 'manager' | 'technician' | 'trainee'
    /** Locks what waits here when they leave; undefined: kept by an earlier Keg. */
    deviceKey?: string
  }
  preferences: Preferences
  shop: { name: string; timeZone: string; fillMarginPct: number; heading: string }
  /** Names by id. */
  people: Record<string, string>
  /** Those in use, by label, and those that a job in hand names. */
  cylinders: CylinderRow[]
  /** Cylinders that this person is likely to take next, in that order. */
  atHand: string[]
  /** Those in use, by name. */
  systems: SystemRow[]
  systemPasts: SystemPast[]
  customers: { customerId: string; name: string }[]
  sites: Site[]
  /** In use. */
  kit: KitRow[]
  places: string[]
  /** What machines took out before, by their ids: of those in the person's van. */
  pastRuns: Record<string, PastRun[]>
  chargeLags: number[]
  bay: Bay
  /** In hand, the one touched last first. */
  jobs: PackedJob[]
  lately: JobSummary[]
  running: RunningJob[]
  programmes: RunningProgramme[]
  clocks: JobClocks[]
  calling: Calling[]
  /** Within a year. */
  due: DueItem[]
}

export interface PackedJob {
  summary: JobSummary
  tape: OpenTape
  beside: JobBeside
}

/** JSON has no times of its own. */
const TIME = '$time'

/** As text, times kept as times. */
export function asText(value: unknown): string {
  return JSON.stringify(value, function (this: Record<string, unknown>, key: string, plain: unknown) {
    const found = this[key]
    return found instanceof Date ? { [TIME]: found.getTime() } : plain
  })
}

/** @throws SyntaxError for what is not whole */
export function fromText(text: string): unknown {
  return JSON.parse(text, (_key, value: unknown) =>
    typeof value === 'object' && value !== null && TIME in value ? new Date(value[TIME] as number) : value,
  )
}

/** @returns undefined: it is nothing that this program reads */
export function packIn(value: unknown): Pack | undefined {
  const pack = value as Partial<Pack> | null
  if (pack?.format !== PACK_FORMAT || typeof pack.person?.userId !== 'string' || !Array.isArray(pack.jobs))
    return undefined
  // The short cut of another version of the fold is none: such a job opens with signal only.
  const foldable = ({ tape }: PackedJob) => (tape.checkpoint?.foldVersion ?? FOLD_VERSION) === FOLD_VERSION
  return { ...(pack as Pack), jobs: (pack as Pack).jobs.filter(foldable) }
}
