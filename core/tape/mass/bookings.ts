import { type Booking, place, type Place } from '../../ledger'
import { kitAt } from '../envelope/kit-at'
import { eventsOf, transferAt } from './episodes'
import { gasAt } from '../envelope/gas-at'
import type { JobState } from '../envelope/state'
import { netMg, type Transfer } from './weighings'

/** What the books say of the system apart from this job's own movements. */
export interface BooksBeside {
  /** Into the system (or out of it, negative) by other jobs, with its time; in any order. */
  others: { at: number; changeMg: number }[]
  /** Lost from the system by other jobs since gas last went in, in time: a later pull takes it back from there. */
  lost: { at: number; massMg: number }[]
}

export const NOTHING_BESIDE: BooksBeside = { others: [], lost: [] }

/** One standard deviation of what was computed from books that were weighed: two transfers of an ordinary scale. */
const COMPUTED_SIGMA_MG = 10_000

/**
 * The movements that a tape calls for. A transfer is booked, by its own time, once it has ended, or once the job stands
 * still. What comes out of a system beyond what the books had in it was there before Keg knew it: it comes from
 * `outside`; out of a system that had been emptied, from what was booked as lost then. What the books still have in a
 * system that was emptied has been lost, once; recovered by somebody else, it is `outside`.
 */
export function bookings(state: JobState, beside: BooksBeside = NOTHING_BESIDE): Booking[] {
  const system: Place = state.systemId ? place('system', state.systemId) : place('outside')
  const wanted: Booking[] = []
  const standsStill = state.status !== 'open'
  const others = beside.others.toSorted((a, b) => a.at - b.at)
  const lostBefore = beside.lost.map((each) => ({ ...each }))
  /** What this job has booked as lost, to be taken back from. */
  const lostHere: Booking[] = []
  let seen = 0
  let booksMg = 0
  const upTo = (at: number) => {
    for (; seen < others.length && others[seen]!.at <= at; seen++) booksMg += others[seen]!.changeMg
    booksMg = Math.max(0, booksMg)
    return booksMg
  }
  const computed = (key: string, from: Place, to: Place, massMg: number, at: number): Booking => ({
    key,
    from,
    to,
    massMg,
    at,
    refrigerant: gasAt(state, at),
    knownBy: 'computed',
    uncertaintyMg: COMPUTED_SIGMA_MG,
  })
  const leaves = (key: string, to: Place, at: number): Booking | undefined => {
    const massMg = upTo(at)
    if (!state.systemId || massMg <= 0) return undefined
    booksMg -= massMg
    const booking = computed(key, system, to, massMg, at)
    wanted.push(booking)
    return booking
  }
  /** Takes back what was lost before; what is still missing was never in the books. */
  const takeBack = (id: string, missingMg: number, at: number) => {
    let leftMg = missingMg
    for (const booking of lostHere) {
      const backMg = Math.min(leftMg, booking.massMg)
      booking.massMg -= backMg
      leftMg -= backMg
      booksMg += backMg
    }
    let fromLostMg = 0
    for (const each of lostBefore) {
      if (each.at > at) continue
      const backMg = Math.min(leftMg, each.massMg)
      each.massMg -= backMg
      leftMg -= backMg
      fromLostMg += backMg
    }
    if (fromLostMg > 0) wanted.push(computed(`back:${id}`, place('lost'), system, fromLostMg, at))
    if (leftMg > 0) wanted.push(computed(`before:${id}`, place('outside'), system, leftMg, at))
    booksMg += fromLostMg + leftMg
  }
  const hoses = (at: number) => place('rig', kitAt(state, ['hoses'], at)?.kitId ?? null)
  const ends = new Map(state.recoveryEnds.map((end, index) => [end, index]))
  const untrue = new Set(state.episodes.flatMap(({ disproved }) => disproved))

  for (const event of eventsOf(state)) {
    if ('deepVacuum' in event || 'valvesOpened' in event) continue
    if ('end' in event) {
      const { end, at } = event
      if (untrue.has(end.entryId)) continue
      // Never filled, against what the books had in it: that is gone, too.
      if (end.how === 'emptied' || end.how === 'lost' || end.how === 'never-filled') {
        const booking = leaves(`rest:${ends.get(end)}`, place('lost'), at)
        if (booking) lostHere.push(booking)
      } else if (end.how === 'elsewhere') leaves(`elsewhere:${ends.get(end)}`, place('outside'), at)
      continue
    }
    if ('kept' in event) {
      const { entryId, kitId, massMg } = event.kept
      const knownMg = upTo(event.at)
      if (state.systemId && massMg > knownMg) takeBack(entryId, massMg - knownMg, event.at)
      booksMg -= massMg
      // What a machine holds is known to about half of it.
      wanted.push({
        ...computed(`kept:${entryId}`, system, place('rig', kitId), massMg, event.at),
        uncertaintyMg: Math.round(massMg / 2),
      })
      continue
    }
    const { transfer } = event
    if (transfer.endedAt === undefined && !standsStill) continue
    const at = transferAt(transfer)
    const cylinder = place('cylinder', transfer.cylinderId)
    const outMg = transfer.use === 'recover' ? transfer.amountMg : -netMg(transfer)
    const knownMg = upTo(at)
    if (state.systemId && outMg > knownMg) takeBack(transfer.transferId, outMg - knownMg, at)
    booksMg -= outMg
    const key = `run:${transfer.transferId}`
    if (outMg > 0) wanted.push(weighed(state, transfer, key, system, cylinder, outMg, at))
    if (outMg < 0) wanted.push(weighed(state, transfer, key, cylinder, system, -outMg, at))
    if (transfer.use === 'charge' && transfer.hoseMg > 0)
      wanted.push(
        weighed(state, transfer, `hose:${transfer.transferId}`, cylinder, hoses(at), transfer.hoseMg, at),
      )
  }
  return wanted.filter((booking) => booking.massMg > 0)
}

function weighed(
  state: JobState,
  transfer: Transfer,
  key: string,
  from: Place,
  to: Place,
  massMg: number,
  at: number,
): Booking {
  return {
    key,
    from,
    to,
    massMg,
    at,
    refrigerant: gasAt(state, transfer.startedAt),
    knownBy: 'weighed',
    uncertaintyMg: transfer.sigmaMg,
  }
}
