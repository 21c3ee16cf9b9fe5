const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']

/**
 * Reads a test date as it is stamped: `3/25`, `03-2025`, `03 25`, `Mar 25`, `2025-03`, or a whole day `2025-03-14`.
 * Two figures of a year from 70 on are of the last century: `3/99` is March 1999. A month counts from its first day, so that no test holds longer than it may.
 * @returns `2025-03-01`; undefined where it is no such date. Three numbers in another order are not guessed at.
 */
export function stampDate(text: string): string | undefined {
  const typed = text.trim().toLowerCase()
  const day = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(typed)
  if (day) return dated(Number(day[1]), Number(day[2]), Number(day[3]))
  const yearFirst = /^(\d{4})[-/. ](\d{1,2})$/.exec(typed)
  if (yearFirst) return dated(Number(yearFirst[1]), Number(yearFirst[2]), 1)
  const monthFirst = /^(\d{1,2})[-/. ](\d{2}|\d{4})$/.exec(typed)
  if (monthFirst) return dated(year(monthFirst[2]!), Number(monthFirst[1]), 1)
  const named = /^([a-z]{3})[a-z]*\.?[-/ ](\d{2}|\d{4})$/.exec(typed)
  if (named) return dated(year(named[2]!), MONTHS.indexOf(named[1]!) + 1, 1)
  return undefined
}

/** Of two figures: cylinders of the trade are no older than this, and nobody stamps so far ahead. */
const OLDEST = 70

function year(text: string): number {
  const figures = Number(text)
  if (text.length !== 2) return figures
  return figures >= OLDEST ? 1900 + figures : 2000 + figures
}

function dated(ofYear: number, month: number, day: number): string | undefined {
  const date = new Date(Date.UTC(ofYear, month - 1, day))
  const same =
    date.getUTCFullYear() === ofYear && date.getUTCMonth() === month - 1 && date.getUTCDate() === day
  return same && ofYear >= 1950 && ofYear < 2200 ? date.toISOString().slice(0, 10) : undefined
}
