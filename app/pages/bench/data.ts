import type { CylinderRow, JobSummary, RunningJob, RunningProgramme } from '#db'
import { seen } from '~/cylinders/condition'
import type { DueItem } from '~/kit/due.server'

export const DUE_SHOWN = 15
export const DUE_DAYS = 30
/** Said by the list of what is due. */
const DUE_TAGS = ['test run out', 'test due']

/** A job as the Bench shows it; one that was begun without signal has no number yet. */
type OnTheBench = Omit<JobSummary, 'number'> & { number: number | null }

interface BenchFacts {
  jobs: OnTheBench[]
  lately: OnTheBench[]
  /** Those that may need a look. */
  cylinders: CylinderRow[]
  stock: { refrigerant: string | null; cylinders: number; massMg: number }[]
  /** One more than is shown says that there is more. */
  due: DueItem[]
  running: RunningJob[]
  programmes: RunningProgramme[]
  loadedAt: number
  today: string
  marginPct: number
  timeZone: string
  mayWrite: boolean
}

/** What the Bench shows: each job in one place. */
export function benchData(facts: BenchFacts) {
  const { jobs, cylinders, due, running, programmes, today, marginPct, ...rest } = facts
  const atStations = new Set(programmes.map((each) => each.jobId))
  const runs = new Set(running.map((each) => each.jobId))
  return {
    ...rest,
    // What a station does stands by itself.
    running: running.filter((each) => !atStations.has(each.jobId)),
    programmes,
    // What runs stands above.
    jobs: jobs.filter(({ jobId }) => !runs.has(jobId) && !atStations.has(jobId)),
    due: due.slice(0, DUE_SHOWN),
    moreDue: due.length > DUE_SHOWN,
    amiss: cylinders
      .map((each) => seen(each, marginPct, today))
      .map(({ cylinderId, label, refrigerant, tags }) => ({
        cylinderId,
        label,
        refrigerant,
        // Tests stand among what is due.
        tags: tags.filter(([, tone]) => tone !== 'copper'),
      }))
      .filter((each) => each.tags.some(([text]) => !DUE_TAGS.includes(text)))
      .slice(0, DUE_SHOWN),
  }
}

export type BenchData = ReturnType<typeof benchData>
