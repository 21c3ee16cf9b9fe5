import type { Units } from '#core/units'
import type { Tile } from '~/cylinders/tile'
import type { JobKit } from '~/kit/job-kit'
import type { LiveSource } from '~/samples/live-source'
import type { SystemChoice } from '~/systems/choice'

/** What a new job is begun from. */
export interface NewJobData {
  /** Made once for this page: sending the form twice opens one job. */
  jobId: string
  runId: string
  newId: string
  systems: SystemChoice[]
  /** The system whose page led here. */
  system: SystemChoice | null
  tiles: Tile[]
  scales: JobKit[]
  /** Of those, the ones that weigh at a job that runs. */
  weighing: string[]
  /** Scales that speak for themselves. */
  live: LiveSource[]
  van: string
  /** In which bare numbers are meant. */
  units: Units
  refrigerants: readonly string[]
  marginPct: number
  /** Carried here from the slide rule. */
  carried: { refrigerant: string; cylinder: string }
}
