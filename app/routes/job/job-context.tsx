import { createContext, use, useMemo } from 'react'
import { type ExpectedCharge, expectedCharge, type SystemPlate } from '#core/systems'
import { tableOf } from '#core/refrigerants'
import type { JobState, JudgingContext, Stage } from '#core/tape'
import type { Draft } from '~/tape/use-tape'
import type { JobCylinder, JobData } from './load.server'

export interface OpenJob {
  data: JobData
  state: JobState
  note: (drafts: Draft[], at?: number) => void
  /** Nothing can be noted: a trainee looks on, or the job is finished. */
  closed: boolean
  cylinderOf: (cylinderId: string) => JobCylinder | undefined
  learn: (cylinder: JobCylinder) => void
  openStage: (stage: Stage) => void
  /** On a phone: from the scale face to everything else of the job. */
  wholeJob: () => void
}

export const JobContext = createContext<OpenJob | undefined>(undefined)

export function useJob(): OpenJob {
  const job = use(JobContext)
  if (!job) throw new Error('useJob needs a JobContext above it')
  return job
}

const NO_SYSTEM: SystemPlate = {
  trade: 'stationary',
  refrigerant: null,
  plateMg: null,
  panelTotalMg: null,
  lines: [],
  accessories: [],
}

/** What is known of the system counts; a plate that was read in this job fills what is not, as it reads now. */
export function plateOf({ system, jobId }: JobData, state: JobState): SystemPlate {
  const read = state.plate?.massMg ?? null
  const entered = system?.plateJob === jobId ? null : (system?.plateMg ?? null)
  return { ...(system ?? NO_SYSTEM), plateMg: entered ?? read }
}

/** What plate, lines and accessories say should be in the system; null where no plate and no total are known. */
export function expectedIn(data: JobData, state: JobState): ExpectedCharge | null {
  const code = state.refrigerant ?? data.system?.refrigerant
  return code ? expectedCharge(plateOf(data, state), tableOf(code)) : null
}

/** One standard deviation of what books say of a charge: two transfers on ordinary scales. */
const BOOKS_SIGMA_MG = 15_000

/** Everything that judging needs beside the tape. */
export function judgingContext(data: JobData, state: JobState): JudgingContext {
  const expected = expectedIn(data, state)
  const { system, booksBefore } = data
  return {
    books: booksBefore && { massMg: booksBefore.massMg, sigmaMg: BOOKS_SIGMA_MG },
    // A sum with a part that nobody can compute is no expectation.
    plate: expected && expected.unknown.length === 0 ? expected : null,
    trade: system?.trade ?? 'stationary',
    metering: system?.metering ?? 'unknown',
    plateSubcoolingK: system?.subcoolingTargetK ?? null,
  }
}

/** What the panels and papers judge by. */
export function useJudging(): JudgingContext {
  const { data, state } = useJob()
  return useMemo(() => judgingContext(data, state), [data, state])
}
