import { type Addition, leakRate, type LeakRate } from '#core/leaks'
import { MG_PER_KG } from '#core/units'
import type { JobSummary } from '#db'

const DAY_MS = 86_400_000
/** Less than two weighings tell apart is no addition, mg. */
const TOLD_MG = 30_000

/**
 * How much a system lost a year, by what its closed jobs added beyond what they took out. The first fill that the books know of, with
 * nothing taken out before, is none of it. @returns undefined where nothing was added
 */
export function leakRateOf(
  jobs: readonly Pick<JobSummary, 'status' | 'recoveredMg' | 'chargedMg' | 'closedAt' | 'openedAt'>[],
  fullMg: number,
  nowMs: number,
): LeakRate | undefined {
  const done = jobs
    .filter((each) => each.status === 'closed' && each.closedAt !== null)
    .toSorted((a, b) => new Date(a.openedAt).getTime() - new Date(b.openedAt).getTime())
  const additions = done.flatMap(({ recoveredMg, chargedMg, closedAt }, i): Addition[] => {
    const addedMg = chargedMg - recoveredMg
    if (addedMg < TOLD_MG || (i === 0 && recoveredMg === 0)) return []
    const daysAgo = Math.floor((nowMs - new Date(closedAt!).getTime()) / DAY_MS)
    return daysAgo < 0 ? [] : [{ massKg: addedMg / MG_PER_KG, daysAgo }]
  })
  return additions.length === 0 ? undefined : leakRate(fullMg / MG_PER_KG, additions)
}
