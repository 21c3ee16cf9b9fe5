import { addMonths, endOfMonth, format, parseISO, startOfMonth } from 'date-fns'

const iso = (date: Date) => format(date, 'yyyy-MM-dd')

/** Spans of days that are asked for every month. @param today `2026-11-24` where the shop is */
export function presets(today: string): { words: string; from: string; to: string }[] {
  const now = parseISO(today)
  const before = addMonths(now, -1)
  return [
    { words: 'This month', from: iso(startOfMonth(now)), to: iso(endOfMonth(now)) },
    { words: 'Last month', from: iso(startOfMonth(before)), to: iso(endOfMonth(before)) },
    { words: 'This year', from: `${today.slice(0, 4)}-01-01`, to: `${today.slice(0, 4)}-12-31` },
  ]
}
