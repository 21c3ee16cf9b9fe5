import type { KitRow, KitSort } from '#db'
import { type ListWish, listWish } from '~/base/form/list'
import { asked } from '~/base/form/search'
import { kindOf } from '~/kit/schema'

export const KIT_PAGE = 60
export const KIT_SORTS = ['kind', 'label', 'keepsAt', 'dueOn'] as const satisfies KitSort[]
export const KIT_STATES = ['in-use', 'repair', 'retired'] as const

/** What the address of the list asks for. */
interface KitWish {
  wish: ListWish<(typeof KIT_SORTS)[number]>
  filter: { kind: string; keepsAt: string; label: string; state: (typeof KIT_STATES)[number] }
}

export const kitWish = (search: URLSearchParams): KitWish => ({
  wish: listWish(search, KIT_SORTS),
  filter: {
    kind: kindOf(search.get('kind')) ?? '',
    keepsAt: asked(search, 'place', 120),
    label: asked(search, 'label', 80),
    state: KIT_STATES.find((each) => each === search.get('state')) ?? KIT_STATES[0],
  },
})

export interface KitListData extends KitWish {
  /** One page of them. */
  kit: KitRow[]
  /** How many fit in all. */
  count: number
  places: string[]
  /** Ids of those that were used here, and the server does not know yet. */
  ahead: string[]
  pages: number
  today: string
  mayWrite: boolean
}
