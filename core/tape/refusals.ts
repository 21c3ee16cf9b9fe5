import { type Cylinder, mayGive, mayTake } from '../cylinders'
import type { Reason } from '../verdict'
import type { Entry } from './entry'
import type { JobState } from './state'

export interface DecisionContext {
  cylinder: Cylinder
  /** `2026-11-24` where the shop is. */
  today: string
  marginPct: number
  /** Whose system it is; null: not known. */
  customerId: string | null
}

/** How long after it was taken a decision still counts as one, ms. Later it is a thing that has happened. */
const STILL_A_DECISION_MS = 120_000

/** The cylinder that an entry decides on, when it is a decision that may be refused: to choose one, to start to charge. */
export function decidesOn(entry: Entry, sentAt: number): string | undefined {
  if (sentAt - entry.at > STILL_A_DECISION_MS) return undefined
  if (entry.kind === 'cylinder-chosen') return entry.body.cylinderId
  if (entry.kind === 'run-started' && entry.body.use === 'charge') return entry.body.cylinderId
  return undefined
}

/** Why a decision is refused; empty when it may stand. Without a refrigerant nothing can be judged yet. */
export function refusalsOf(entry: Entry, state: JobState, context: DecisionContext): Reason[] {
  if (!state.refrigerant) return []
  const { cylinder, customerId } = context
  const request = { ...context, refrigerant: state.refrigerant, customerId }
  if (entry.kind === 'cylinder-chosen' && entry.body.use === 'recover')
    return mayTake(cylinder, { ...request, massMg: entry.body.massMg }).refusals
  if (entry.kind === 'cylinder-chosen' || entry.kind === 'run-started')
    return mayGive(cylinder, { ...request, massMg: null }).refusals
  return []
}
