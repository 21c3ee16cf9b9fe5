import { TZDate } from '@date-fns/tz'
import { addDays, parseISO } from 'date-fns'
import { REFRIGERANTS } from '#core/refrigerants'
import type { LedgerFilter } from '#db'
import { isId } from '~/form/ids.server'

const DAY = /^\d{4}-\d{2}-\d{2}$/

/** What an address asks of the ledger; days are days where the shop is. */
export function filterOf(search: URLSearchParams, timeZone: string): LedgerFilter {
  const refrigerant = search.get('refrigerant') ?? ''
  const cylinderId = search.get('cylinder') ?? ''
  const from = dayStart(search.get('from'), timeZone, 0)
  const to = dayStart(search.get('to'), timeZone, 1)
  return {
    ...(REFRIGERANTS.includes(refrigerant) ? { refrigerant } : {}),
    ...(isId(cylinderId) ? { cylinderId } : {}),
    ...(from ? { from } : {}),
    ...(to ? { to } : {}),
  }
}

function dayStart(text: string | null, timeZone: string, plusDays: number): Date | undefined {
  if (!text || !DAY.test(text) || Number.isNaN(Date.parse(text))) return undefined
  const date = addDays(parseISO(text), plusDays)
  return new Date(new TZDate(date.getFullYear(), date.getMonth(), date.getDate(), timeZone).getTime())
}
