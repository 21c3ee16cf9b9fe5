/** Batches that are looked at; of fewer nothing is said. */
export const CLOCK_BATCHES = 10
/** They must not have come in one moment: what was kept while there was no signal comes like that. */
const LEAST_SPAN_MS = 4_000
/** A clock that is wrong is wrong by the same each time; what was kept catches up. */
const MOST_SPREAD_MS = 10_000
/** What a slow line and a patient gateway may take. */
const BEHIND_MS = 20_000
const AHEAD_MS = 5_000

export interface Arrival {
  /** Time of the last sample of a batch by the device's clock, ms. */
  saidAt: number
  /** When the batch came, by the server's clock, ms. */
  arrivedAt: number
}

/**
 * How far a device's clock is off, ms, positive: ahead. Judged by its last batches: each came late by about the same.
 * @param arrivals the last batches, in any order
 * @returns undefined where it is right, or cannot be told: too few, all at once, or something kept that catches up
 */
export function clockOffMs(arrivals: readonly Arrival[]): number | undefined {
  if (arrivals.length < CLOCK_BATCHES) return undefined
  const came = arrivals.map((each) => each.arrivedAt)
  if (Math.max(...came) - Math.min(...came) < LEAST_SPAN_MS) return undefined
  const off = arrivals.map((each) => each.saidAt - each.arrivedAt)
  if (Math.max(...off) - Math.min(...off) > MOST_SPREAD_MS) return undefined
  // The quickest of them was held up least.
  const best = Math.max(...off)
  return best < -BEHIND_MS || best > AHEAD_MS ? best : undefined
}
