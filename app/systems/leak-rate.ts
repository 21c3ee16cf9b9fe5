import { type Addition, leakRate, type LeakRate } from '#core/leaks'
import { MG_PER_KG } from '#core/units'
import type { JobSummary } from '#db'

const DAY_MS = 86_400_000
/** Less than two weighings tell apart is no addition, mg; of a small charge, a share of it. */
const toldMg = (fullMg: number) => Math.min(30_000, 0.05 * fullMg)

/**
 * How much a system lost a year, by all that its jobs added beyond what they took out, over the time since refrigerant went in
 * last. A job in hand counts once it is finished, waits or was given up. @returns undefined where nothing was added
 */
export function leakRateOf(
  jobs: readonly Pick<JobSummary, 'status' | 'addedMg' | 'chargedAt'>[],
  fullMg: number,
  nowMs: number,
): LeakRate | undefined {
  const additions = jobs.flatMap(({ status, addedMg, chargedAt }): Addition[] => {
    if (status === 'open' || chargedAt === null) return []
    const daysAgo = Math.floor((nowMs - new Date(chargedAt).getTime()) / DAY_MS)
    // What only replaced what had come out is no addition, and still the time from which the next one counts.
    const massKg = addedMg < toldMg(fullMg) ? 0 : addedMg / MG_PER_KG
    return daysAgo < 0 ? [] : [{ massKg, daysAgo }]
  })
  return additions.every(({ massKg }) => massKg === 0) ? undefined : leakRate(fullMg / MG_PER_KG, additions)
}
