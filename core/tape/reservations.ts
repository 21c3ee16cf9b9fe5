import type { JobState } from './state'

export interface Reservation {
  cylinderId: string
  /** Room still to be kept free for this job, whole mg; 0: its gas stays spoken for, no more is coming. */
  roomMg: number
}

/**
 * The cylinders a job in hand counts on for its recovery. Room for what was expected, or for what is already coming if
 * that is more, less what the books have in the cylinder from this job; none once the recovery has ended.
 */
export function reservations(state: JobState): Reservation[] {
  if (state.status === 'closed' || state.status === 'cancelled') return []
  const planned = new Map<string, number>()
  for (const { cylinderId, use, massMg } of state.chosen)
    if (use === 'recover') planned.set(cylinderId, massMg ?? 0)
  const incoming = state.runs.filter((run) => run.use === 'recover')
  for (const run of incoming) if (!planned.has(run.cylinderId)) planned.set(run.cylinderId, 0)

  return [...planned].map(([cylinderId, plannedMg]) => {
    const own = incoming.filter((run) => run.cylinderId === cylinderId)
    const total = (runs: typeof own) => runs.reduce((sum, run) => sum + run.amountMg, 0)
    const booked = own.filter((run) => run.endedAt !== undefined || state.status === 'waiting')
    const wantedMg = state.recoveryEnded ? 0 : Math.max(plannedMg, total(own))
    return { cylinderId, roomMg: Math.max(0, wantedMg - total(booked)) }
  })
}
