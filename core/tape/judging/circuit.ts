import { holdPassed, type HoldVerdict } from '../../vacuum'
import type { Hold } from '../chapters/evacuation'
import { OPENING_PARTS, OPENING_STEPS } from '../envelope/opening'
import { holdVerdict } from './hold-verdict'
import { runningHold } from './holds'
import type { JobState } from '../envelope/state'

/** How the vacuum hold of a circuit stands: one answer, whoever asks. */
export type HoldStands =
  /** None since the circuit was opened, or since anything was let in. */
  | 'none'
  | 'running'
  | 'passed'
  /** Too short, too near its limit, or no hold that can be read. */
  | 'cannot-tell'
  /** It never was deep enough, or there is water in it: pump on. */
  | 'pump-on'
  | 'leaking'
  | 'failed'

/** The circuit since it was empty last: what has to be proved of it, and what is. */
export interface Circuit {
  /** A leak test has to come after this: the circuit was emptied, or something was opened on it. */
  openedAt: number
  /** A vacuum has to come after this, and its hold: the same, or nitrogen was let in. */
  filledAt: number
  hold: { stands: HoldStands; last?: Hold }
}

/**
 * The circuit since it was empty last, also where it has been charged since. What is opened, or let in, makes every test
 * before it one of another circuit.
 * @returns undefined: it was never empty in this job
 */
export function circuitOf(state: JobState): Circuit | undefined {
  const episode = state.episodes.findLast((each) => each.emptiedAt !== undefined || each.shutIn !== undefined)
  if (!episode) return undefined
  const emptyAt = episode.emptiedAt ?? episode.shutIn!.at
  // Emptied before this job began: nothing here came before it.
  const since = episode.unaccounted && episode.pulls + episode.charges === 0 ? -Infinity : emptyAt
  const chargedAt = state.transfers.find(
    (each) => each.use === 'charge' && each.startedAt > emptyAt,
  )?.startedAt
  const letBackAt = episode.emptiedAt === undefined ? episode.shutIn!.letBackAt : undefined
  const gasInAt = Math.min(chargedAt ?? Infinity, letBackAt ?? Infinity)
  // With gas in it nobody opens it: what is ticked then was done before.
  const whileOpen = ({ at }: { at: number }) => at >= since && at < gasInAt
  const opened = Math.max(
    since,
    ...state.steps.filter((each) => OPENING_STEPS.includes(each.step) && whileOpen(each)).map(({ at }) => at),
    ...state.parts.filter((each) => OPENING_PARTS.includes(each.part) && whileOpen(each)).map(({ at }) => at),
  )
  const breaks = state.nitrogenBreaks.filter((each) => whileOpen(each) && each.at >= opened)
  // Between two vacuums nitrogen dries; after a hold that passed somebody begins anew.
  const anew = breaks.findLast(({ at }) =>
    holdsSince(state, opened).some((hold) => hold.endedAt! < at && passed(state, hold)),
  )
  const openedAt = Math.max(opened, anew?.at ?? -Infinity)
  const filledAt = Math.max(
    openedAt,
    ...breaks.map(({ at }) => at),
    ...state.pressureTests
      .filter((each) => whileOpen({ at: each.startedAt }))
      .map((each) => each.end?.at ?? each.startedAt),
    ...state.leakChecks.filter((each) => each.method !== 'vacuum' && whileOpen(each)).map(({ at }) => at),
  )
  return { openedAt, filledAt, hold: holdOf(state, filledAt) }
}

/** How the last hold stands, also where nobody knows of the circuit having been empty. */
export const holdStands = (state: JobState): HoldStands =>
  (circuitOf(state)?.hold ?? holdOf(state, -Infinity)).stands

/** Whether gas may go in without a look at the vacuum: a hold stands, or gas that this job weighed is in already. */
export function isProved(state: JobState): boolean {
  const now = state.episodes.at(-1)!
  const gasIn = now.began === 'empty' && now.emptiedAt === undefined && now.heldMg > 0
  return gasIn || holdStands(state) === 'passed'
}

const holdsSince = (state: JobState, at: number): Hold[] =>
  state.holds.filter((each) => each.endedAt !== undefined && each.startedAt >= at)

function holdOf(state: JobState, since: number): Circuit['hold'] {
  const running = runningHold(state)
  if (running && running.startedAt >= since) return { stands: 'running', last: running }
  const last = holdsSince(state, since).at(-1)
  return last ? { stands: standsOf(holdVerdict(state, last)), last } : { stands: 'none' }
}

function standsOf({ code, reasons }: HoldVerdict): HoldStands {
  if (holdPassed(code)) return 'passed'
  if (code === 'held-but-leaking') return 'leaking'
  if (code === 'hold-failed') return 'failed'
  if (reasons.some((each) => each.code === 'leak-certain')) return 'leaking'
  return code === 'held-but-shallow' || code === 'held-but-wet' ? 'pump-on' : 'cannot-tell'
}

const passed = (state: JobState, hold: Hold): boolean => holdPassed(holdVerdict(state, hold).code)
