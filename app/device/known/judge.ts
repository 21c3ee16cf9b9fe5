import { asPiece } from '#core/kit'
import {
  decidesOn,
  type Entry,
  foldTape,
  type JobState,
  kitInUse,
  type RefusalCode,
  refusalsOf,
} from '#core/tape'
import type { Reason } from '#core/verdict'
import type { Device } from './device'

/**
 * Why the server would not take the beginning of a job, as far as this device can know: judged by the same rules, with what it took
 * along. Room that others have reserved since, or a transfer that they began, only the server knows.
 */
export function refusedHere(device: Device, entries: readonly Entry[], at: number): Reason<RefusalCode>[] {
  return entries.flatMap((entry, i) => decisionOn(device, entry, foldTape(entries.slice(0, i)), at))
}

function decisionOn(device: Device, entry: Entry, state: JobState, at: number): Reason<RefusalCode>[] {
  const about = decidesOn(entry, entry.at)
  if (!about) return []
  const { cylinderId } = about
  const kitIds = about.kitId ? [about.kitId] : kitInUse(state).map((each) => each.kitId)
  return refusalsOf(entry, state, {
    cylinder: cylinderId ? device.cylinder(cylinderId) : undefined,
    kit: device.kit.filter(({ kitId }) => kitIds.includes(kitId)).map(asPiece),
    today: device.today(at),
    marginPct: device.pack.shop.fillMarginPct,
    customerId: (state.systemId && device.system(state.systemId)?.customerId) || null,
    busyElsewhere: cylinderId !== undefined && device.busy().has(cylinderId),
  })
}
