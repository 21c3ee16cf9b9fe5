import type { Weighed } from '../recovery'
import { OPENING_STEPS } from './circuit'
import type { JobState } from './state'

/** What is known of a system from outside the job's tape. */
export interface Reference {
  /** What the books had in it when the job began; null: they do not know the whole of it. */
  books: Weighed | null
  /** Total noted in the panel, or plate, lines and accessories; null: no plate. */
  plate: Weighed | null
}

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
  const changeMg = now.inMg - now.outMg
  const sigmaMg = Math.round(Math.hypot(now.inSigmaMg, now.outSigmaMg))
  if (now.began === 'empty') return { kind: 'weighed', massMg: Math.max(0, changeMg), sigmaMg }
  if (now.pulls + now.charges === 0) return { kind: 'as-found' }
  return { kind: changeMg < 0 ? 'taken' : 'added', massMg: Math.abs(changeMg), sigmaMg }
}

/** A mass in the system where one is known. */
export function massIn(now: InSystem): Weighed | null {
  if (now.kind === 'empty') return { massMg: 0, sigmaMg: 0 }
  return now.kind === 'weighed' ? { massMg: now.massMg, sigmaMg: now.sigmaMg } : null
}

/** Whether what goes in now goes onto what is in it: how much that is nobody knows. */
export function isToppedUp({ episodes }: Pick<JobState, 'episodes'>): boolean {
  const now = episodes.at(-1)!
  return now.began === 'as-found' && now.emptiedAt === undefined && now.end?.how !== 'shut-in'
}

/** Gas that the tape leaves open: a deep vacuum, or work on the open circuit, while it should still be in there. */
export function gasUnaccounted(state: JobState, reference: Reference): { at: number; massMg: number } | null {
  const now = state.episodes.at(-1)!
  const found = now.began === 'as-found' ? (asFound(reference)?.weighed.massMg ?? 0) : 0
  const massMg = found + now.inMg - now.outMg
  if (now.unaccounted && now.emptiedAt !== undefined)
    return now.pulls > 0 || massMg > LEAST_ASKED_MG
      ? { at: now.emptiedAt, massMg: Math.max(0, massMg) }
      : null
  if (now.emptiedAt !== undefined || now.end !== undefined || now.lastWas === 'charge') return null
  const opened = state.steps.find(({ step, at }) => OPENING_STEPS.includes(step) && at >= (now.lastAt ?? 0))
  return opened && massMg > LEAST_ASKED_MG ? { at: opened.at, massMg } : null
}

/** Less than this needs no question, mg. */
const LEAST_ASKED_MG = 20_000
