import type { JobSort, JobSummary } from '#db'
import { type ListWish, listWish } from '~/base/form/list'
import { asked } from '~/base/form/search'
import { JOB_STATUS_WORDS } from '~/words/en'

export const JOBS_PAGE = 60
export const JOB_SORTS = ['lastAt', 'number'] as const satisfies JobSort[]

/** What the address of the list asks for. */
interface JobsWish {
  wish: ListWish<(typeof JOB_SORTS)[number]>
  filter: { status: string; search: string }
}

export function jobsWish(search: URLSearchParams): JobsWish {
  const status = search.get('status') ?? ''
  return {
    wish: listWish(search, JOB_SORTS, true),
    filter: {
      status: Object.hasOwn(JOB_STATUS_WORDS, status) ? status : '',
      search: asked(search, 'search', 80),
    },
  }
}

export interface JobsData extends JobsWish {
  /** One page of them. */
  jobs: (Omit<JobSummary, 'number'> & { number: number | null })[]
  /** How many fit in all. */
  count: number
  pages: number
  /** A device takes along those in hand. */
  onlyInHand: boolean
  timeZone: string
}
