import type { Entry } from './entry'
import type { DeviceClock } from './state'

/** An entry with the time at which it counts. */
export interface Timed {
  entry: Entry
  time: number
}

/** Before any clock; a number that JSON can say. */
const LONG_AGO = -8.64e15

/**
 * The entries in tape order: by time, then device, then the device's own count. A device's time is its clock less what
 * the server found it to be off; where that would put an entry before an earlier one of the same device (a clock that
 * was set back), its count decides and the earlier time holds. Entries of the first version stand where they said.
 * @param clocks how far each device has been heard before these; brought up to date
 */
export function inTapeOrder(entries: readonly Entry[], clocks: Record<string, DeviceClock>): Timed[] {
  const byDevice = new Map<string, Entry[]>()
  for (const entry of entries) {
    const known = byDevice.get(entry.deviceId)
    if (known) known.push(entry)
    else byDevice.set(entry.deviceId, [entry])
  }
  const timed: Timed[] = []
  for (const [deviceId, own] of byDevice) {
    own.sort((a, b) => a.deviceSeq - b.deviceSeq || compare(a.entryId, b.entryId))
    const clock = Object.hasOwn(clocks, deviceId)
      ? clocks[deviceId]!
      : { seq: 0, time: LONG_AGO, offsetMs: 0 }
    let { seq, time, offsetMs } = clock
    for (const entry of own) {
      seq = Math.max(seq, entry.deviceSeq)
      // Taken before devices' clocks were known: as they said.
      if (entry.seq !== undefined && entry.offsetMs === undefined) {
        timed.push({ entry, time: entry.at })
        continue
      }
      // A time that was said by hand is no clock's.
      if (entry.backdated) {
        timed.push({ entry, time: entry.at - (entry.offsetMs ?? 0) })
        continue
      }
      offsetMs = entry.offsetMs ?? offsetMs
      time = Math.max(time, entry.at - offsetMs)
      timed.push({ entry, time })
    }
    clocks[deviceId] = { seq, time, offsetMs }
  }
  return timed.sort(
    (a, b) =>
      a.time - b.time ||
      compare(a.entry.deviceId, b.entry.deviceId) ||
      a.entry.deviceSeq - b.entry.deviceSeq ||
      compare(a.entry.entryId, b.entry.entryId),
  )
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0
}
