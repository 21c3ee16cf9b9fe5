import { runningProgramme } from '../envelope/running-programme'
import { openTransfer } from '../envelope/open-transfer'
import { holdRule, runningHold } from '../judging/holds'
import type { Watched } from '../chapters/watches'
import type { Reference } from '../mass/in-system'
import type { JobState } from '../envelope/state'
import { transferTimeLeft } from '../judging/time-left'

/** Something of a job that runs against the clock. */
export interface Clock {
  /** Of the hold, the watch or the transfer. */
  clockId: string
  what: 'hold' | Watched | 'recover' | 'charge'
  startedAt: number
  /** When the one number is due; null: nobody knows, or it is done when it is done. */
  dueAt: number | null
  /** Of an estimate: the latest time at which it may be done; null: open. */
  latestAt?: number | null
}

/** A watch that nobody ended is let go after this, ms. */
const FORGOTTEN_MS = 24 * 3_600_000

/**
 * What runs in a job, the one that is due first on top.
 * @param reference for the time that a transfer takes; null: only its beginning is told
 */
export function clocksOf(state: JobState, reference: Reference | null): Clock[] {
  if (state.status === 'closed' || state.status === 'cancelled') return []
  const clocks: Clock[] = []
  const hold = runningHold(state)
  if (hold)
    clocks.push({
      clockId: hold.holdId,
      what: 'hold',
      startedAt: hold.startedAt,
      // A station reads its own gauge, and asks for a hand where it wants one.
      dueAt: runningProgramme(state) ? null : hold.startedAt + holdRule(state).leastS * 1000,
    })
  // A wait is over when gas moves again, whoever forgot to end its clock.
  const movedAt = state.transfers.at(-1)?.startedAt ?? -Infinity
  for (const { watchId, what, startedAt, forS, endedAt } of state.watches)
    if (
      endedAt === undefined &&
      state.lastAt - startedAt < FORGOTTEN_MS &&
      (what !== 'pull' || startedAt >= movedAt)
    )
      clocks.push({ clockId: watchId, what, startedAt, dueAt: startedAt + forS * 1000 })
  const transfer = openTransfer(state)
  if (transfer) {
    const left = reference ? transferTimeLeft(state, transfer, reference) : undefined
    const from = transfer.weighings.at(-1)!.at
    const range =
      left && 'leastS' in left
        ? {
            dueAt: from + left.leastS * 1000,
            latestAt: Number.isFinite(left.mostS) ? from + left.mostS * 1000 : null,
          }
        : { dueAt: null }
    clocks.push({
      clockId: transfer.transferId,
      what: transfer.use,
      startedAt: transfer.startedAt,
      ...range,
    })
  }
  return clocks.sort((a, b) => (a.dueAt ?? Infinity) - (b.dueAt ?? Infinity))
}
