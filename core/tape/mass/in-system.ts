import type { Weighed } from '../../recovery'
import { OPENING_STEPS } from '../envelope/opening'
import { shutInAt } from './episodes'
import type { JobState } from '../envelope/state'
import { netMg } from './weighings'

/** What is known of a system from outside the job's tape. */
export interface Reference {
  /** What the books had in it when the job began; null: they do not know the whole of it. */
  books: Weighed | null
  /** What they had in it themselves, where they do not know the whole, mg. */
  inBooksMg?: number
  /** Total noted in the panel, or plate, lines and accessories; null: no plate. */
  plate: Weighed | null
}

/** One standard deviation of what books say of a charge, mg: two transfers on ordinary scales. */
const BOOKS_SIGMA_MG = 15_000

/** What books say of a charge, as well as they know it. */
export const booksSay = (massMg: number): Weighed => ({ massMg, sigmaMg: BOOKS_SIGMA_MG })

export const NOTHING_KNOWN: Reference = { books: null, plate: null }

/** What is in the system now, and how that is known. */
export type InSystem =
  | { kind: 'empty' }
  /** All of it went in over the scale since it was empty. */
  | ({ kind: 'weighed' } & Weighed)
  /** As it was when the job began: nothing has moved. */
  | { kind: 'as-found' }
  /**
   * It was never emptied in this job: only the change is known. What books, plate or label say was in it then, and it
   * lacks what it has lost since: that is why it is topped up.
   */
  | ({ kind: 'added' | 'taken' } & Weighed)

/** What should have been in a system when the job began: what the books charged it with, else what the plate says. */
export function asFound({ books, plate }: Reference): { from: 'books' | 'plate'; weighed: Weighed } | null {
  if (books) return { from: 'books', weighed: books }
  return plate && { from: 'plate', weighed: plate }
}

/**
 * What is in the system now: what went in less what came out since it was last emptied. Label, report, verdict, what is
 * still to go in and the stop weight use this, and nothing else.
 */
export function inSystemNow(state: Pick<JobState, 'episodes'>): InSystem {
  const now = state.episodes.at(-1)!
  if (now.emptiedAt !== undefined) return { kind: 'empty' }
  // What a machine holds is known to about half of it.
  const sigmaMg = Math.round(Math.hypot(now.inSigmaMg, now.outSigmaMg, now.keptMg / 2))
  if (now.began === 'empty') return { kind: 'weighed', massMg: now.heldMg, sigmaMg }
  if (now.pulls + now.charges === 0 && now.keptMg === 0) return { kind: 'as-found' }
  return { kind: now.heldMg < 0 ? 'taken' : 'added', massMg: Math.abs(now.heldMg), sigmaMg }
}

/** A mass in the system where one is known. */
export function massIn(now: InSystem): Weighed | null {
  if (now.kind === 'empty') return { massMg: 0, sigmaMg: 0 }
  return now.kind === 'weighed' ? { massMg: now.massMg, sigmaMg: now.sigmaMg } : null
}

/** Whether what goes in now goes onto what is in it: how much that is nobody knows. */
export function isToppedUp({ episodes }: Pick<JobState, 'episodes'>): boolean {
  const now = episodes.at(-1)!
  return now.began === 'as-found' && now.emptiedAt === undefined && shutInAt(now) === undefined
}

/** The first sign that the circuit is empty or open, while nobody has said what became of what was in it. */
export interface Unanswered {
  at: number
  /** In it then beyond what was found when the job began, mg. */
  changeMg: number
  /** It had in it what was found when the job began. */
  asFound: boolean
  /** Some of it was recovered in this job. */
  pulled: boolean
}

/**
 * A deep vacuum, or work on the open circuit, before which nobody said what became of the gas. What is charged afterwards
 * answers nothing.
 */
export function unanswered(state: JobState): Unanswered | undefined {
  const open = state.episodes.findLast((each) => each.unaccounted)
  if (open)
    return {
      at: open.emptiedAt!,
      changeMg: open.heldMg,
      asFound: open.began === 'as-found',
      pulled: open.pulls > 0,
    }
  const opened = state.steps
    .filter(({ step }) => OPENING_STEPS.includes(step))
    .toSorted((one, other) => one.at - other.at)
  for (const { at } of opened) {
    const sign = openedOn(state, at)
    if (sign) return sign
  }
  return undefined
}

/** Work on the open circuit, where nobody has said what became of what was in it then. */
function openedOn({ transfers, recoveryEnds, episodes }: JobState, at: number): Unanswered | undefined {
  const last = transfers.findLast((each) => each.startedAt < at)
  // Ticked after it was topped up: done before.
  if (last?.use === 'charge') return undefined
  const next = transfers.find((each) => each.startedAt >= at)
  const untrue = episodes.flatMap(({ disproved }) => disproved)
  const isAnswered = recoveryEnds.some(
    (each) =>
      each.how !== 'not-emptied' &&
      !untrue.includes(each.entryId) &&
      each.at >= (last?.endedAt ?? -Infinity) &&
      each.at < (next?.startedAt ?? Infinity),
  )
  const emptyAt = episodes.findLast((each) => (each.emptiedAt ?? Infinity) <= at)?.emptiedAt ?? -Infinity
  const before = transfers.filter(({ startedAt }) => startedAt > emptyAt && startedAt < at)
  // What moved before it was empty last was answered then.
  if (isAnswered || (emptyAt !== -Infinity && before.length === 0)) return undefined
  const changeMg = before.reduce(
    (sum, each) => sum + (each.use === 'charge' ? netMg(each) : -each.amountMg),
    0,
  )
  return {
    at,
    changeMg,
    asFound: emptyAt === -Infinity,
    pulled: before.some((each) => each.use === 'recover'),
  }
}

export interface GasUnaccounted {
  /** The first sign that it is not in there. */
  at: number
  massMg: number
  /** What became of it may have happened from then on: an answer counts from here, before what was tested since. */
  since: number
}

/** The same, where there should have been gas in it: how much. */
export function gasUnaccounted(state: JobState, reference: Reference): GasUnaccounted | null {
  const sign = unanswered(state)
  if (!sign) return null
  const found = sign.asFound ? (asFound(reference)?.weighed.massMg ?? reference.inBooksMg ?? 0) : 0
  const massMg = Math.max(0, found + sign.changeMg)
  const half = sign.pulled && state.episodes.some((each) => each.unaccounted)
  if (!half && massMg <= LEAST_ASKED_MG) return null
  const last = state.transfers.findLast((each) => each.startedAt < sign.at)
  return { at: sign.at, massMg, since: last?.endedAt ?? state.openedAt }
}

/** Less than this needs no question, mg. */
const LEAST_ASKED_MG = 20_000
