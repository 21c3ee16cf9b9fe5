import { CHAPTERS, KINDS, refsOf, upcast } from './chapters'
import { hasWrongOil } from '../chapters/oil'
import type { Stamped } from '../envelope/chapter'
import type { Entry, EntryKind } from '../envelope/entry'
import { inTapeOrder, type Timed } from '../envelope/order'
import { type FlagCode, type JobState, raise, type TapeLine } from '../envelope/state'

/** Changes with every change of the fold: projections made with another one are rebuilt at the start. */
export const FOLD_VERSION = 15

/**
 * The state of a job: a pure function of its entries, whatever order they arrived in and however often.
 * @throws NewerEntryError when the tape holds entries of a newer version
 */
export function foldTape(entries: readonly Entry[]): JobState {
  const state = blankState()
  const lines = corrected(inTapeOrder(once(entries), state.clocks))
  foldOn(state, lines, idsOf(lines))
  return settled(state)
}

export function blankState(): JobState {
  const state = {
    entries: 0,
    lines: [],
    raised: [],
    flags: [],
    clocks: {},
    named: { cylinders: [], systems: [], kit: [] },
  }
  for (const chapter of CHAPTERS) Object.assign(state, chapter.blank())
  return state as unknown as JobState
}

/** Each entry once. A copy that the server has numbered tells more than the one still waiting on the device. */
export function once(entries: readonly Entry[]): Entry[] {
  const byId = new Map<string, Entry>()
  for (const entry of entries) {
    const known = byId.get(entry.entryId)
    if (!known || (known.seq === undefined && entry.seq !== undefined)) byId.set(entry.entryId, entry)
  }
  return [...byId.values()]
}

/** Lines with the last correction of each applied; a correction counts wherever in the tape it stands. */
export function corrected(timed: Timed[]): TapeLine[] {
  const last = new Map<string, Entry & { kind: 'correction' }>()
  for (const { entry } of timed) if (entry.kind === 'correction') last.set(entry.body.entryId, entry)
  return timed.map(({ entry, time }) => {
    const own = upcast(entry.kind, entry.version, entry.body)
    const by = last.get(entry.entryId)
    if (!by || by.body.kind !== entry.kind || entry.kind === 'correction')
      return { entry, time, body: own, struck: false }
    if (by.body.body === null) return { entry, time, body: own, struck: true, correctedBy: by }
    const body = upcast(entry.kind, by.body.version ?? 1, by.body.body as unknown as Entry['body'])
    return { entry, time, body, struck: false, correctedBy: by }
  })
}

export function idsOf(lines: readonly TapeLine[]): Set<string> {
  return new Set(lines.map((line) => line.entry.entryId))
}

/**
 * Folds lines that come after everything the state has seen. Changes the state.
 * @param known ids of the entries that there are to correct
 */
export function foldOn(state: JobState, lines: readonly TapeLine[], known: ReadonlySet<string>): void {
  for (const line of lines) {
    const { entry, time, body, struck } = line
    if (state.entries++ === 0) state.openedAt = state.lastAt = time
    state.lines.push(line)
    name(state, entry)
    if (entry.kind === 'correction' && !known.has(entry.body.entryId))
      raise(state, 'correction-without-entry')
    if (struck) continue
    if (state.closedAt !== undefined && !KINDS[entry.kind].afterClose) raise(state, 'noted-after-close')
    const fold = KINDS[entry.kind].fold as (state: JobState, body: unknown, entry: Stamped<unknown>) => void
    fold(state, body, { entryId: entry.entryId, writtenAs: entry.version, time, order: state.entries, body })
    state.lastAt = Math.max(state.lastAt, time)
  }
}

/** What follows from the state as a whole. May be done again at any time. */
export function settled(state: JobState): JobState {
  for (const chapter of CHAPTERS) chapter.settle?.(state)
  state.flags = [...state.raised, ...following(state)]
  return state
}

function following(state: JobState): FlagCode[] {
  const flags: [FlagCode, boolean][] = [
    ['weight-without-start', state.early.length > 0],
    ['hold-without-start', state.earlyHolds.some((each) => each.ends)],
    ['emptied-not-borne-out', state.episodes.some((each) => each.end?.contradictedPa !== undefined)],
    ['gas-unaccounted', state.episodes.some((each) => each.unaccounted === true && each.pulls > 0)],
    ['against-the-books', state.against.some((each) => each.settled === undefined)],
    ['oil-wrong-for-drive', hasWrongOil(state)],
    ['backflow', state.transfers.some((each) => each.endedAt !== undefined && each.amountMg < -BACKFLOW_MG)],
  ]
  return flags.filter(([code, raised]) => raised && !state.raised.includes(code)).map(([code]) => code)
}

/** A transfer that went the wrong way by less than this is a nudge. */
const BACKFLOW_MG = 50_000

function name(state: JobState, entry: Entry) {
  const refs = refsOf(entry)
  for (const key of ['cylinders', 'systems', 'kit'] as const)
    for (const id of refs[key]) if (!state.named[key].includes(id)) state.named[key].push(id)
}

/** How a state would be with more written on it now; it stays as it is. */
export function withWritten(
  state: JobState,
  written: readonly { kind: EntryKind; body: Entry['body'] }[],
  at: number,
): JobState {
  const next = structuredClone(state)
  const time = Math.max(at, state.lastAt)
  const lines = written.map(({ kind, body }, i) => ({
    entry: {
      entryId: `written-${i}`,
      kind,
      version: KINDS[kind].version,
      at: time,
      deviceId: '',
      deviceSeq: 0,
      body,
    } as Entry,
    time,
    body,
    struck: false,
  }))
  foldOn(next, lines, new Set([...idsOf(state.lines), ...idsOf(lines)]))
  return settled(next)
}
