import { type Cylinder, worse } from '../cylinders'
import type { PlaceKind } from '../ledger'
import { bookings, cylinderEffects, firstGross, type JobState, reservations } from '../tape'

/** A job as the books have it, and with what they do not know yet. */
export interface JobAhead {
  before: JobState
  after: JobState
}

/** A scale and the books agree within the larger of 20 g and 1 %, at most 100 g: as the books themselves judge it. */
const offBeyond = (grossMg: number) => Math.max(20_000, Math.min(100_000, Math.trunc(grossMg / 100)))

/**
 * Cylinders as they are once what jobs have ahead of the books is in them: contents, gas, condition, what a scale saw, and room
 * that is kept free. What other people do meanwhile, nobody knows here.
 * @returns the cylinders that something was ahead of, as well
 */
export function cylindersAfter<C extends Cylinder>(
  cylinders: readonly C[],
  jobs: readonly JobAhead[],
): { cylinders: C[]; ahead: Set<string> } {
  const byId = new Map(cylinders.map((each) => [each.cylinderId, each]))
  const ahead = new Set<string>()
  const change = (cylinderId: string, how: (cylinder: C) => Partial<Cylinder>) => {
    const cylinder = byId.get(cylinderId)
    if (!cylinder) return
    byId.set(cylinderId, { ...cylinder, ...how(cylinder) })
    ahead.add(cylinderId)
  }
  for (const { before, after } of jobs) {
    const weighed = new Set(firstGross(before).map(({ cylinderId, at }) => `${cylinderId} ${at}`))
    for (const { cylinderId, at, grossMg } of firstGross(after)) {
      const transfer = after.transfers.find((each) => each.cylinderId === cylinderId && each.startedAt === at)
      if (weighed.has(`${cylinderId} ${at}`) || !transfer || transfer.bookedMg === null) continue
      const { bookedMg } = transfer
      const offMg = grossMg - bookedMg
      change(cylinderId, () => ({ offMg: Math.abs(offMg) <= offBeyond(bookedMg) ? 0 : offMg }))
    }
    for (const [cylinderId, massMg] of gained('cylinder', before, after))
      change(cylinderId, ({ balanceMg }) => ({ balanceMg: balanceMg + massMg }))
    const used = new Set(after.transfers.map((each) => each.cylinderId))
    const known = new Map([...byId].filter(([id]) => used.has(id) || Object.hasOwn(after.gas, id)))
    const was = new Map(cylinderEffects(before, known).map((effect) => [effect.cylinderId, effect]))
    for (const effect of cylinderEffects(after, known)) {
      const same = was.get(effect.cylinderId)
      if (same?.refrigerant === effect.refrigerant && same?.condition === effect.condition) continue
      change(effect.cylinderId, ({ condition, refrigerant }) => ({
        refrigerant: effect.refrigerant ?? refrigerant,
        condition: effect.condition ? worse(effect.condition, condition) : condition,
      }))
    }
    const kept = new Map(reservations(before).map((each) => [each.cylinderId, each.roomMg]))
    const keeps = new Map(reservations(after).map((each) => [each.cylinderId, each.roomMg]))
    for (const cylinderId of new Set([...kept.keys(), ...keeps.keys()])) {
      const more = (keeps.get(cylinderId) ?? 0) - (kept.get(cylinderId) ?? 0)
      if (more !== 0) change(cylinderId, ({ reservedMg }) => ({ reservedMg: Math.max(0, reservedMg + more) }))
    }
  }
  return { cylinders: cylinders.map((each) => byId.get(each.cylinderId)!), ahead }
}

/** Room that one job counts on, as the books have it: for itself it is free. */
export function ownReservations(before: JobState): Map<string, number> {
  return new Map(reservations(before).map((each) => [each.cylinderId, each.roomMg]))
}

/** What each cylinder has gained from a job, mg. */
export const gainedFrom = (state: JobState): ReadonlyMap<string, number> => flows('cylinder', state)

/** What is in a system once what one job has ahead of the books is in it, mg. @param balanceMg by the books */
export function systemAfter(systemId: string, balanceMg: number, { before, after }: JobAhead): number {
  const own = flows('system', before).get(systemId) ?? 0
  const beside = { others: [{ at: -Infinity, changeMg: Math.max(0, balanceMg - own) }], lost: [] }
  const was = flows('system', before, beside).get(systemId) ?? 0
  const is = flows('system', after, beside).get(systemId) ?? 0
  return Math.max(0, balanceMg + is - was)
}

/** What each place of a kind gains from what is ahead, mg; none that gains nothing. */
export function gained(kind: PlaceKind, before: JobState, after: JobState): [id: string, massMg: number][] {
  const [was, is] = [flows(kind, before), flows(kind, after)]
  return [...new Set([...was.keys(), ...is.keys()])]
    .map((id): [string, number] => [id, (is.get(id) ?? 0) - (was.get(id) ?? 0)])
    .filter(([, massMg]) => massMg !== 0)
}

function flows(
  kind: PlaceKind,
  state: JobState,
  beside?: Parameters<typeof bookings>[1],
): Map<string, number> {
  const sums = new Map<string, number>()
  const add = (place: { kind: PlaceKind; id: string | null }, massMg: number) => {
    if (place.kind === kind && place.id !== null) sums.set(place.id, (sums.get(place.id) ?? 0) + massMg)
  }
  for (const { from, to, massMg } of bookings(state, beside)) {
    add(from, -massMg)
    add(to, massMg)
  }
  return sums
}
