import type { PlaceKind } from './movement'

/** Where gas is while it is the shop's or its customers' concern. */
export const INSIDE = ['cylinder', 'system', 'rig'] as const
/** Where it comes from and goes to. */
export const CAME_FROM = ['supplier', 'unnamed', 'outside', 'unexplained'] as const
export const WENT_TO = ['unnamed', 'reclaimer', 'lost', 'unexplained', 'outside'] as const
/** A kind of place; `unnamed`: a system that its job never named, of which no books are kept. */
export type FlowPlace = PlaceKind | 'unnamed'
export type Inside = (typeof INSIDE)[number]

/** What moved from one kind of place to another over a span, mg, corrections taken out. */
export interface Flow {
  refrigerant: string | null
  from: FlowPlace
  to: FlowPlace
  massMg: number
}

/** What a kind of place held at a moment, mg. */
export interface Held {
  refrigerant: string | null
  place: Inside
  massMg: number
}

export interface Conservation {
  refrigerant: string | null
  start: Record<Inside, number>
  /** Into the books. */
  came: Record<(typeof CAME_FROM)[number], number>
  /** Out of them. */
  went: Record<(typeof WENT_TO)[number], number>
  end: Record<Inside, number>
  /** What the books hold at the end less what all that moved makes of the start: 0, or something is wrong. */
  offMg: number
}

/**
 * Start + what came - what went = end, for each gas, to the milligram. The end is counted by itself, from what the places
 * hold: that it agrees is a finding, and no definition.
 */
export function conservationOf(
  flows: readonly Flow[],
  start: readonly Held[],
  end: readonly Held[],
): Conservation[] {
  const all = new Map<string | null, Conservation>()
  const of = (refrigerant: string | null) => {
    const known = all.get(refrigerant)
    if (known) return known
    const made = blank(refrigerant)
    all.set(refrigerant, made)
    return made
  }
  for (const { refrigerant, place, massMg } of start) of(refrigerant).start[place] += massMg
  for (const { refrigerant, place, massMg } of end) of(refrigerant).end[place] += massMg
  for (const { refrigerant, from, to, massMg } of flows) {
    const line = of(refrigerant)
    if (!isInside(from) && isInside(to)) {
      // What comes back from the lost or the reclaimer was not gone.
      if (from === 'lost' || from === 'reclaimer') line.went[from] -= massMg
      else line.came[from] += massMg
    }
    if (isInside(from) && !isInside(to)) {
      if (to === 'supplier') line.came.supplier -= massMg
      else line.went[to] += massMg
    }
  }
  const lines = [...all.values()]
  for (const line of lines) line.offMg = sum(line.end) - (sum(line.start) + sum(line.came) - sum(line.went))
  return lines
    .filter((line) =>
      [line.start, line.came, line.went, line.end].some((part) => Object.values(part).some((mg) => mg !== 0)),
    )
    .sort((a, b) => (a.refrigerant ?? '~').localeCompare(b.refrigerant ?? '~'))
}

export const sum = (part: Record<string, number>): number =>
  Object.values(part).reduce((all, massMg) => all + massMg, 0)

const isInside = (kind: FlowPlace): kind is Inside => (INSIDE as readonly string[]).includes(kind)

const blank = (refrigerant: string | null): Conservation => ({
  refrigerant,
  start: { cylinder: 0, system: 0, rig: 0 },
  came: { supplier: 0, unnamed: 0, outside: 0, unexplained: 0 },
  went: { unnamed: 0, reclaimer: 0, lost: 0, unexplained: 0, outside: 0 },
  end: { cylinder: 0, system: 0, rig: 0 },
  offMg: 0,
})
