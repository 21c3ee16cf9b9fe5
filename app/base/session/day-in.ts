import { TZDate } from '@date-fns/tz'
import { format } from 'date-fns'

/** The date at a time where the shop is, `2026-11-24`. */
export function dayIn(timeZone: string, at: Date | number): string {
  return format(new TZDate(new Date(at), timeZone), 'yyyy-MM-dd')
}
