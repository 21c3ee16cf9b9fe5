import { createContext, use, useMemo } from 'react'
import { type JobState, judgingContext, type JudgingContext, type Stage } from '#core/tape'
import type { Draft } from '~/tape/draft'
import type { JobCylinder, JobData } from '~/job-data/data'

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

/** What the panels and papers judge by. */
export function useJudging(): JudgingContext {
  const { data, state } = useJob()
  return useMemo(() => judgingContext(data, state), [data, state])
}
