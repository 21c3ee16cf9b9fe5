import { type ActCode, type KitFacts, type KitKind, KINDS_OF_KIT, USUAL_DAYS } from './kinds'

/** When an act was done last; days as `2026-11-26` where the shop is. */
export type LastDone = Partial<Record<ActCode, string>>

export interface Due {
  what: ActCode
  /** From this day on it should be done. */
  on: string
  /** It was never done: it is due since the kit has been here. */
  never: boolean
}

/** An opened bottle of oil that draws water is used up within so many days. */
const OPENED_DAYS = 60

/**
 * What is due by the calendar, the earliest first; oil by its hours, too.
 * @param here the day since when it has been in the shop
 * @param hoursRun hours that a pump ran since its oil was changed
 */
export function dueOf(
  kind: KitKind,
  facts: KitFacts,
  { last, here, hoursRun = 0 }: { last: LastDone; here: string; hoursRun?: number },
): Due[] {
  const due = KINDS_OF_KIT[kind].acts.flatMap((what): Due[] => {
    const days = USUAL_DAYS[what]
    if (days === undefined) return []
    const done = last[what]
    if (done === undefined) return [{ what, on: here, never: true }]
    return [{ what, on: plusDays(done, facts.checkDays ?? days), never: false }]
  })
  const opened = last['bottle-opened']
  if (
    kind === 'bottle' &&
    opened !== undefined &&
    facts.contents !== 'dye' &&
    drawsWater(facts.oilType ?? '')
  )
    due.push({ what: 'bottle-opened', on: plusDays(opened, facts.checkDays ?? OPENED_DAYS), never: false })
  // Used up by its hours: due on the day on which they were noted.
  if (facts.oilHours !== undefined && hoursRun >= facts.oilHours)
    due.push({ what: 'oil-changed', on: last['hours-run'] ?? here, never: false })
  return due.sort((a, b) => a.on.localeCompare(b.on))
}

/** Polyol ester, glycol and vinyl ether do; mineral oil and alkylbenzene hardly do. An unknown oil is taken to. */
function drawsWater(oilType: string): boolean {
  return !/\b(mineral|mo|ab|alkyl\w*)\b/i.test(oilType)
}

/** How far a filter-drier is used up: 1 is its life. null: no life is known. */
export function filterUsed(facts: KitFacts, passedMg: number): number | null {
  return facts.filterLifeMg ? passedMg / facts.filterLifeMg : null
}
/** From here on it is on the list. */
export const FILTER_SOON = 0.8

export function plusDays(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)
}
