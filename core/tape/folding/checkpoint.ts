import type { Entry } from '../envelope/entry'
import { blankState, corrected, FOLD_VERSION, foldOn, idsOf, once, settled } from './fold'
import { inTapeOrder } from '../envelope/order'
import type { JobState } from '../envelope/state'

/**
 * The state of a tape up to an entry, without its lines: what comes after it folds on from here, so that a long tape
 * costs no more than a short one. Plain JSON.
 */
export interface Checkpoint {
  foldVersion: number
  /** Everything up to this number is in it, nothing after. */
  seq: number
  /** Tape order of its last entry. */
  time: number
  /** Corrections after it that it has applied already. */
  corrections: string[]
  state: JobState
}

/** So many entries stay after the checkpoint at least, and it moves on when there are so many more. */
const TAIL = { least: 200, step: 50 }

/** Whether a tape with so many entries after its checkpoint wants a newer one. */
export function wantsCheckpoint(entriesAfter: number): boolean {
  return entriesAfter >= TAIL.least + TAIL.step
}

/**
 * The newest checkpoint that leaves enough of the tape after it.
 * @param entries the whole tape, numbered
 * @returns undefined for a short tape, or one whose numbers and times are so mixed that none can be cut
 */
export function checkpointOf(entries: readonly Entry[]): Checkpoint | undefined {
  if (entries.length < TAIL.least + TAIL.step) return undefined
  const lines = corrected(inTapeOrder(once(entries), {}))
  let cut = 0
  let highest = 0
  // A cut is where all numbers up to it, and no others, come before all others in tape order.
  lines.slice(0, lines.length - TAIL.least).forEach(({ entry }, i) => {
    highest = Math.max(highest, entry.seq ?? Infinity)
    if (highest === i + 1) cut = i + 1
  })
  if (cut === 0) return undefined
  const before = lines.slice(0, cut)
  const known = new Set(before.map((line) => line.entry.entryId))
  const state = blankState()
  inTapeOrder(
    before.map((line) => line.entry),
    state.clocks,
  )
  foldOn(state, before, idsOf(lines))
  state.lines = []
  return {
    foldVersion: FOLD_VERSION,
    seq: cut,
    time: before.at(-1)!.time,
    corrections: lines
      .slice(cut)
      .flatMap(({ entry }) =>
        entry.kind === 'correction' && known.has(entry.body.entryId) ? [entry.entryId] : [],
      ),
    state,
  }
}

/**
 * Folds what comes after a checkpoint.
 * @returns undefined when some of it falls before the checkpoint, or corrects what is in it: then the whole tape folds
 */
export function foldFrom(checkpoint: Checkpoint, entries: readonly Entry[]): JobState | undefined {
  if (checkpoint.foldVersion !== FOLD_VERSION) return undefined
  const state = structuredClone(checkpoint.state)
  const after = once(entries).filter((entry) => entry.seq === undefined || entry.seq > checkpoint.seq)
  const heard = (entry: Entry) =>
    Object.hasOwn(state.clocks, entry.deviceId) && entry.deviceSeq <= state.clocks[entry.deviceId]!.seq
  if (after.some((entry) => heard(entry) && !entry.backdated)) return undefined
  const here = new Set(after.map((entry) => entry.entryId))
  const lines = corrected(inTapeOrder(after, state.clocks))
  if (lines.some(({ time }) => time <= checkpoint.time)) return undefined
  const strange = lines.some(
    ({ entry }) =>
      entry.kind === 'correction' &&
      !here.has(entry.body.entryId) &&
      !checkpoint.corrections.includes(entry.entryId),
  )
  if (strange) return undefined
  const earlier = lines.flatMap(({ entry }) =>
    entry.kind === 'correction' && checkpoint.corrections.includes(entry.entryId) ? [entry.body.entryId] : [],
  )
  foldOn(state, lines, new Set([...here, ...earlier]))
  return settled(state)
}
