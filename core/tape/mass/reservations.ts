import type { JobState } from '../envelope/state'
import { netMg } from './weighings'

export interface Reservation {
  cylinderId: string
  /** Room still to be kept free for this job, whole mg; 0: its gas stays spoken for, no more is coming. */
  roomMg: number
}

/**
 * The cylinders a job in hand counts on for its recovery. Room for what was expected, or for what is already coming if
 * that is more, less what the books have in the cylinder from this job; none once the recovery has ended. Several
 * cylinders for one charge each keep their own share.
 */
export function reservations(state: JobState): Reservation[] {
  if (state.status === 'closed' || state.status === 'cancelled') return []
  const planned = new Map<string, number>()
  for (const { cylinderId, use, massMg } of state.chosen)
    if (use === 'recover') planned.set(cylinderId, massMg ?? 0)
  const incoming = state.transfers.filter((each) => each.use === 'recover')
  for (const each of incoming) if (!planned.has(each.cylinderId)) planned.set(each.cylinderId, 0)
  const end = state.episodes.at(-1)!.end
  const over = end !== undefined && end.how !== 'not-emptied' && end.contradictedPa === undefined
  return [...planned].map(([cylinderId, plannedMg]) => {
    const own = incoming.filter((each) => each.cylinderId === cylinderId)
    const total = (transfers: typeof own) => transfers.reduce((sum, each) => sum + netMg(each), 0)
    const booked = own.filter((each) => each.endedAt !== undefined || state.status === 'waiting')
    const wantedMg = over ? 0 : Math.max(plannedMg, total(own))
    return { cylinderId, roomMg: Math.max(0, wantedMg - total(booked)) }
  })
}
