import { TZDate } from '@date-fns/tz'
import { addDays, parseISO } from 'date-fns'
import { REFRIGERANTS } from '#core/refrigerants'
import type { LedgerFilter } from '#db'
import { isId } from '~/form/ids.server'
import { isDay } from '~/form/read.server'

/**
 * What an address asks of the ledger; days are days where the shop is. What cannot be read is said, never left out:
 * a list of everything would look like the answer.
 */
export function filterOf(
  search: URLSearchParams,
  timeZone: string,
): { filter: LedgerFilter; wrong?: string } {
  const asked = (name: string) => search.get(name)?.trim() || undefined
  const [refrigerant, cylinderId, from, to] = ['refrigerant', 'cylinder', 'from', 'to'].map(asked)
  const nothing = (wrong: string) => ({ filter: {}, wrong })
  for (const day of [from, to])
    if (day && !isDay(day))
      return nothing(`There is no day “${day.slice(0, 40)}”: enter it as year-month-day, such as 2026-03-31.`)
  if (refrigerant && !REFRIGERANTS.includes(refrigerant))
    return nothing(
      `There is no refrigerant “${refrigerant.slice(0, 40)}” in the tables: choose one from the list.`,
    )
  if (cylinderId && !isId(cylinderId.toLowerCase()))
    return nothing('That is no cylinder: open its page, and go to its ledger from there.')
  if (from && to && from > to) return nothing('The first day comes after the last: turn them round.')
  return {
    filter: {
      ...(refrigerant ? { refrigerant } : {}),
      ...(cylinderId ? { cylinderId: cylinderId.toLowerCase() } : {}),
      ...(from ? { from: dayStart(from, timeZone, 0) } : {}),
      ...(to ? { to: dayStart(to, timeZone, 1) } : {}),
    },
  }
}

function dayStart(day: string, timeZone: string, plusDays: number): Date {
  const date = addDays(parseISO(day), plusDays)
  return new Date(new TZDate(date.getFullYear(), date.getMonth(), date.getDate(), timeZone).getTime())
}
