import type { CylinderRow, RackSort } from '#db'
import { seen } from '~/cylinders/condition'
import { plainDateDue } from '~/cylinders/due'
import { type ListWish, listWish } from '~/base/form/list'
import { asked } from '~/base/form/search'

export const RACK_PAGE = 60
export const RACK_SORTS = [
  'refrigerant',
  'label',
  'balance',
  'keepsAt',
  'testDue',
] as const satisfies RackSort[]

/** What the address of the rack asks for. */
export interface RackWish {
  wish: ListWish<RackSort>
  filter: { refrigerant: string; label: string; retired: boolean }
  /** As a table, for the office. */
  asList: boolean
}

export const rackWish = (search: URLSearchParams): RackWish => ({
  wish: listWish(search, RACK_SORTS),
  filter: {
    refrigerant: asked(search, 'refrigerant', 20),
    label: asked(search, 'label', 80),
    retired: search.get('retired') === 'on',
  },
  asList: search.get('as') === 'list',
})

interface RackFacts {
  /** One page of them. */
  cylinders: CylinderRow[]
  /** How many fit in all. */
  count: number
  refrigerants: string[]
  marginPct: number
  today: string
  mayWrite: boolean
  /** Those of which the server does not know yet what was done here. */
  ahead?: ReadonlySet<string>
}

export function rackData({ wish, filter, asList }: RackWish, facts: RackFacts) {
  const { count, refrigerants, marginPct, today, mayWrite, ahead } = facts
  return {
    cylinders: facts.cylinders.map((each) => {
      const { cylinderId, label, kind, refrigerant, waterCapacityMg, balanceMg, ...rest } = seen(
        each,
        marginPct,
        today,
      )
      const { level, limit, share, tags, keepsAt, owner, tareMg } = rest
      const known = { cylinderId, label, kind, refrigerant, waterCapacityMg, balanceMg }
      const drawn = { ...known, share, tags, level, limit, ahead: ahead?.has(cylinderId) ?? false }
      // The rack is drawn often: it carries no more than it shows.
      return asList
        ? { ...drawn, list: { keepsAt, owner, tareMg, dueOn: plainDateDue(each, today) } }
        : { ...drawn, list: null }
    }),
    count,
    page: wish.number,
    asList,
    wish,
    pages: Math.max(1, Math.ceil(count / RACK_PAGE)),
    filter,
    refrigerants,
    mayWrite,
  }
}

export type RackData = ReturnType<typeof rackData>
