import { refrigerant as factsOf, tableOf } from '#core/refrigerants'
import { expectedCharge } from '#core/systems'
import type { JobSummary, MovementRow, Retrofit, SystemRow, SystemSort } from '#db'
import type { ListWish } from '~/base/form/list'

export const SYSTEM_PAGE = 60
export const SYSTEM_SORTS = ['name', 'customer', 'site', 'refrigerant'] as const satisfies SystemSort[]

/** One page of the systems, and how many fit. */
export interface SystemListData {
  systems: SystemRow[]
  /** Ids of those of which the server does not know all. */
  ahead: string[]
  count: number
  search: string
  wish: ListWish<(typeof SYSTEM_SORTS)[number]>
  pages: number
  mayWrite: boolean
}

interface SystemFacts {
  system: SystemRow
  /** The latest first; without its past, those that are in hand. */
  jobs: (Omit<JobSummary, 'number'> & { number: number | null })[]
  /** Everything that went in or out, and earlier gases; null: not known here. */
  past: { ledger: MovementRow[]; retrofits: Retrofit[] } | null
  /** The server does not know all of it yet. */
  ahead: boolean
  timeZone: string
  loadedAt: number
  mayWrite: boolean
}

/** What the page of a system shows. */
export function systemData(facts: SystemFacts) {
  const { refrigerant } = facts.system
  const gas = refrigerant ? factsOf(refrigerant) : undefined
  return {
    ...facts,
    expected: refrigerant ? expectedCharge(facts.system, tableOf(refrigerant)) : null,
    gas: gas ? { safetyClass: gas.safetyClass, gwp: gas.gwp } : null,
  }
}

export type SystemPageData = ReturnType<typeof systemData>

/** What the form of a new system offers. */
export interface NewSystemData {
  systemId: string
  entryId: string
  /** The job that it is put into; '': none. */
  jobId: string
  /** What the job knows already. */
  refrigerant: string
  refrigerants: readonly string[]
  pipes: string[]
  customers: string[]
  sites: string[]
}
