import { inSystemNow, massIn } from './in-system'
import type { JobState } from '../envelope/state'

/** How late the last charge was closed. */
export interface ChargeLag {
  /** Who closed it. */
  userId: string | undefined
  seconds: number
  overMg: number
}

/** Typed weights further apart than this tell no rate, ms. */
const RATE_MS = 120_000

/**
 * The time that the hand took after the call: what went in beyond the stop weight, at the rate that it flowed.
 * undefined: nothing was charged to a target, it was closed before it, or no rate is known.
 */
export function chargeLag(state: JobState): ChargeLag | undefined {
  const last = state.transfers.at(-1)
  const now = massIn(inSystemNow(state))
  if (last?.use !== 'charge' || last.endedAt === undefined || !state.target || !now) return undefined
  const overMg = now.massMg - state.target.massMg
  if (overMg < 0) return undefined
  const final = last.weighings.at(-1)!
  const [before, after] = last.weighings
    .filter((each) => each.segment === final.segment && each.doubt === undefined && each.at < final.at)
    .slice(-2)
  if (!before || !after || after.at <= before.at || after.at - before.at > RATE_MS) return undefined
  const mgPerMs = Math.abs(after.weightMg - before.weightMg) / (after.at - before.at)
  if (mgPerMs === 0) return undefined
  const line = state.lines.findLast(
    ({ entry, struck }) => entry.kind === 'run-ended' && !struck && entry.body.runId === last.transferId,
  )
  return { userId: line?.entry.userId, seconds: overMg / mgPerMs / 1000, overMg }
}
