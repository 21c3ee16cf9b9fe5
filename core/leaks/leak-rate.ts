const YEAR_DAYS = 365

export interface Addition {
  massKg: number
  /** Whole days before the day of asking; 0: today. */
  daysAgo: number
}

export interface LeakRate {
  /** Of the newest addition: added / full x 365 / min(days since refrigerant was last added before it, 365). */
  annualised?: number
  /** Days that the annualised rate looks back over. */
  overDays?: number
  /** Sum added within 365 days / full. */
  rolling: number
  addedInYearKg: number
}

/**
 * Leak rate as a share of the full charge a year, by both methods (40 CFR 84.102 and 82.152).
 * @param additions with what replaced no loss as well, of no mass: refrigerant was added then, too
 * @param sinceDays days between the newest addition and the one before it, where there is one only
 */
export function leakRate(fullKg: number, additions: readonly Addition[], sinceDays?: number): LeakRate {
  const newestFirst = byDay(additions)
  const addedInYearKg = newestFirst.filter((a) => a.daysAgo < YEAR_DAYS).reduce((sum, a) => sum + a.massKg, 0)
  const from = newestFirst.findIndex((each) => each.massKg > 0)
  const [newest, before] = from < 0 ? [] : newestFirst.slice(from)
  const between = before && newest ? before.daysAgo - newest.daysAgo : sinceDays
  const overDays = between === undefined ? undefined : Math.min(Math.max(1, between), YEAR_DAYS)
  return {
    rolling: addedInYearKg / fullKg,
    addedInYearKg,
    ...(newest && overDays !== undefined
      ? { annualised: ((newest.massKg / fullKg) * YEAR_DAYS) / overDays, overDays }
      : {}),
  }
}

/** What was added on one day is one addition, however many cylinders it came from. The newest day first. */
function byDay(additions: readonly Addition[]): Addition[] {
  const days = new Map<number, number>()
  for (const { massKg, daysAgo } of additions) days.set(daysAgo, (days.get(daysAgo) ?? 0) + massKg)
  return [...days].map(([daysAgo, massKg]) => ({ massKg, daysAgo })).sort((a, b) => a.daysAgo - b.daysAgo)
}

/**
 * Size of a slow leak from what was lost over a time.
 * @returns kg a year, and share of the full charge a year
 */
export function slowLeak(fullKg: number, lostKg: number, days: number): { kgPerYear: number; share: number } {
  const kgPerYear = (lostKg * YEAR_DAYS) / days
  return { kgPerYear, share: kgPerYear / fullKg }
}

/** CO2 equivalent, tonnes: kg x GWP / 1000. */
export function co2EquivalentT(massKg: number, gwp: number): number {
  return (massKg * gwp) / 1000
}
