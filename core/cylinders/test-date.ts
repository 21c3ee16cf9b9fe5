import { addYears, differenceInCalendarDays, parseISO } from 'date-fns'

export interface TestDate {
  state: 'in-date' | 'due-soon' | 'overdue' | 'unknown' | 'not-needed'
  /** Last day on which it may be filled, `2026-11-24`; undefined where no test date is known. */
  dueOn?: string
  days?: number
}

const WARN_DAYS = 30

/**
 * Is a refillable cylinder within its pressure test? The rule profile gives the years (5 in the United States,
 * commonly 10 in Europe; check the text in force where you work). One-way cylinders are never tested, never refilled.
 * @param today `2026-11-24`
 */
export function testDate(testedOn: string | null, years: number, today: string, oneWay = false): TestDate {
  if (oneWay) return { state: 'not-needed' }
  if (!testedOn) return { state: 'unknown' }
  const due = addYears(parseISO(testedOn), years)
  const days = differenceInCalendarDays(due, parseISO(today))
  const dueOn = `${due.getFullYear()}-${String(due.getMonth() + 1).padStart(2, '0')}-${String(due.getDate()).padStart(2, '0')}`
  return { state: days < 0 ? 'overdue' : days <= WARN_DAYS ? 'due-soon' : 'in-date', dueOn, days }
}
