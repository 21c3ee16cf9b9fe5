import type { Channel } from './channels'
import type { Point } from './downsample'

export type LiveState = 'live' | 'silent' | 'nonsense'

/** An instrument that says nothing for so long is not counted on any more, ms. */
export const SILENT_MS = 4_000

/** A step from one sample to the next that no weighing, boiling or pump makes by itself, in the channel's unit. */
const JUMP: Partial<Record<Channel, number>> = {
  weight: 1,
  suction: 15,
  liquid: 15,
  ambient: 15,
  cylinder: 15,
  vent: 15,
}
/** So many jumps, there and back again, among the last samples: it shows nonsense. */
const LOOKED_AT = 8
const TOO_MANY = 3

/**
 * Whether what an instrument says now can be used: it has gone silent, or jumps there and back. One jump is somebody's
 * hand, and no nonsense.
 * @param last its last samples, in order
 */
export function liveState(channel: Channel, last: readonly Point[], nowMs: number): LiveState {
  const latest = last.at(-1)
  if (!latest || nowMs - latest[0] > SILENT_MS) return 'silent'
  const most = JUMP[channel]
  if (most === undefined) return 'live'
  const recent = last.slice(-LOOKED_AT)
  let turns = 0
  let lastStep = 0
  for (let i = 1; i < recent.length; i++) {
    const step = recent[i]![1] - recent[i - 1]![1]
    if (Math.abs(step) < most) continue
    // There and back again: a weight that goes on in one direction is a weight.
    if (lastStep !== 0 && Math.sign(step) !== Math.sign(lastStep)) turns++
    lastStep = step
  }
  return turns >= TOO_MANY - 1 ? 'nonsense' : 'live'
}
