import { toString as toSvg } from 'qrcode'
import type { CylinderRow, KitRow, SystemRow } from '#db'
import { isId } from '~/base/form/id'
import { listWish } from '~/base/form/list'
import { asked } from '~/base/form/search'
import { CYLINDER_KIND_WORDS, KIT_KIND_WORDS } from '~/words/en'

export const WHATS = { cylinders: 'Cylinders', systems: 'Systems', kit: 'Kit' } as const
export type What = keyof typeof WHATS
/** Three across and eight down, 70 by 37 mm, without margins between: a common sheet. */
export const ON_A_SHEET = 24

interface Label {
  id: string
  to: string
  name: string
  beside: string
}

/** What the address asks for. */
interface LabelWish {
  what: What
  /** Those and no others; empty: all of them. */
  ids: string[]
  /** Part of a label or name. */
  from: string
  /** Labels that are gone from the first sheet. */
  skip: number
  page: number
}

export const labelWish = (search: URLSearchParams): LabelWish => ({
  what: (Object.keys(WHATS) as What[]).find((each) => each === search.get('what')) ?? 'cylinders',
  ids: search.getAll('id').filter(isId).slice(0, ON_A_SHEET),
  from: asked(search, 'label', 80),
  skip: Math.trunc(Math.min(ON_A_SHEET - 1, Math.max(0, Number(search.get('skip')) || 0))),
  page: listWish(search, ['label']).number,
})

export interface Sheet {
  labels: Label[]
  /** How many there are in all. */
  count: number
  shop: string
  /** The address that the codes name. */
  origin: string
}

export async function labelSheet({ what, ids, from, skip, page }: LabelWish, sheet: Sheet) {
  const { labels, count, shop, origin } = sheet
  return {
    what,
    single: ids.length === 1,
    count,
    page,
    pages: Math.max(1, Math.ceil(count / ON_A_SHEET)),
    from,
    skip,
    shop,
    labels: await Promise.all(
      labels.map(async (label) => ({
        ...label,
        code: await toSvg(`${origin}${label.to}`, { type: 'svg', margin: 1, errorCorrectionLevel: 'M' }),
      })),
    ),
  }
}

export type LabelSheet = Awaited<ReturnType<typeof labelSheet>>

export const ofCylinder = (c: CylinderRow): Label => ({
  id: c.cylinderId,
  to: `/cylinders/${c.cylinderId}`,
  name: c.label,
  beside: CYLINDER_KIND_WORDS[c.kind],
})

export const ofSystem = (s: SystemRow): Label => ({
  id: s.systemId,
  to: `/systems/${s.systemId}`,
  name: s.name,
  beside: `${s.customer}, ${s.site}`,
})

export const ofKit = (k: KitRow): Label => ({
  id: k.kitId,
  to: `/kit/${k.kitId}`,
  name: k.label,
  beside: KIT_KIND_WORDS[k.kind],
})
