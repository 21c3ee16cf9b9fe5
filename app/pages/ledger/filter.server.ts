import { TZDate } from '@date-fns/tz'
import { addDays, endOfMonth, format, parseISO } from 'date-fns'
import { REFRIGERANTS } from '#core/refrigerants'
import type { LedgerFilter, SheetPart } from '#db'
import { SHEET_PART_WORDS } from '~/words/en'
import { isId } from '~/base/form/ids.server'
import { isDay } from '~/base/form/day'

/**
 * What an address asks of the ledger; days are days where the shop is. What cannot be read is said, never left out:
 * a list of everything would look like the answer.
 */
export function filterOf(
  search: URLSearchParams,
  timeZone: string,
): { filter: LedgerFilter; wrong?: string } {
  const asked = (name: string) => search.get(name)?.trim() || undefined
  const [refrigerant, cylinderId, from, to, part] = ['refrigerant', 'cylinder', 'from', 'to', 'part'].map(
    asked,
  )
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
  if (part && !Object.hasOwn(SHEET_PART_WORDS, part))
    return nothing('There is no such figure on the month sheet: go to its movements from there.')
  if (from && to && from > to) return nothing('The first day comes after the last: turn them round.')
  return {
    filter: {
      ...(refrigerant ? { refrigerant } : {}),
      ...(cylinderId ? { cylinderId: cylinderId.toLowerCase() } : {}),
      ...(from ? { from: dayStart(from, timeZone, 0) } : {}),
      ...(to ? { to: dayStart(to, timeZone, 1) } : {}),
      ...(part ? { part: part as SheetPart } : {}),
    },
  }
}

/** The span of days that is asked for, this month without one; days are days where the shop is. */
export function spanOf(
  search: URLSearchParams,
  timeZone: string,
  today: string,
): { from: Date; to: Date; firstDay: string; lastDay: string; wrong?: string } {
  const month = /^(\d{4})-(\d{2})$/.exec(search.get('month')?.trim() ?? '')
  const asked = month && isDay(`${month[0]}-01`) ? `${month[0]}-01` : undefined
  const start = asked ?? `${today.slice(0, 7)}-01`
  const usual = span(start, lastOfMonth(start), timeZone)
  if (search.get('month') && !asked)
    return { ...usual, wrong: 'Enter the month as year and month, such as 2026-03.' }
  const [firstDay, lastDay] = [search.get('from')?.trim(), search.get('to')?.trim()]
  if (!firstDay && !lastDay) return usual
  if (!firstDay || !lastDay || !isDay(firstDay) || !isDay(lastDay))
    return { ...usual, wrong: 'Enter the first and the last day as year-month-day, such as 2026-03-31.' }
  if (firstDay > lastDay) return { ...usual, wrong: 'The first day comes after the last: turn them round.' }
  return span(firstDay, lastDay, timeZone)
}

const span = (firstDay: string, lastDay: string, timeZone: string) => ({
  firstDay,
  lastDay,
  from: dayStart(firstDay, timeZone, 0),
  to: dayStart(lastDay, timeZone, 1),
})

export const lastOfMonth = (day: string) => format(endOfMonth(parseISO(day)), 'yyyy-MM-dd')

function dayStart(day: string, timeZone: string, plusDays: number): Date {
  const date = addDays(parseISO(day), plusDays)
  return new Date(new TZDate(date.getFullYear(), date.getMonth(), date.getDate(), timeZone).getTime())
}
