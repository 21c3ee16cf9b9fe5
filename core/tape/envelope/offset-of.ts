import type { Made } from './entry'

/** How a device sends: its clocks at that moment. */
export interface Sending {
  /** Its clock, ms since 1970. */
  sentAt: number
  /** The same moment by what nobody can set. */
  made?: Made | undefined
  /** How far its clock is ahead of the server's now, ms. */
  offsetMs: number
}

/** Below this a clock was not set: it drifts, and answers take their time, ms. */
const SET_MS = 60_000

/**
 * How far a device's clock was ahead of the server's when an entry was made, ms: what is so now, but for a clock that was
 * set since.
 */
export function offsetOf({ at, made }: { at: number; made?: Made | undefined }, sending: Sending): number {
  const { offsetMs } = sending
  if (!made) return offsetMs
  const same = sending.made?.life === made.life
  // What the clock went ahead of what nobody can set: it was set by that, or the device slept so long.
  const aheadMs = same ? sending.sentAt - sending.made!.ms - (at - made.ms) : undefined
  // A device that sleeps never goes back.
  if (aheadMs !== undefined && aheadMs < -SET_MS) return offsetMs - aheadMs
  const setMs = made.heardMs === undefined ? 0 : offsetMs - made.heardMs
  if (Math.abs(setMs) < SET_MS) return offsetMs
  // It was set since it was heard: before the entry was made, or after it?
  const before = aheadMs !== undefined && !(setMs > 0 && aheadMs > setMs - SET_MS)
  return before ? offsetMs : made.heardMs!
}
