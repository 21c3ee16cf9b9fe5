import { createContext, use } from 'react'
import { type ExpectedCharge, expectedCharge } from '#core/systems'
import { tableOf } from '#core/refrigerants'
import type { JobState } from '#core/tape'
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
}

export const JobContext = createContext<OpenJob | undefined>(undefined)

export function useJob(): OpenJob {
  const job = use(JobContext)
  if (!job) throw new Error('useJob needs a JobContext above it')
  return job
}

/** What should be in the system; null where no plate and no total are known. */
export function expectedIn(data: JobData, state: JobState): ExpectedCharge | null {
  const code = state.refrigerant ?? data.system?.refrigerant
  return data.system && code ? expectedCharge(data.system, tableOf(code)) : null
}
