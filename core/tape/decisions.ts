import { type Cylinder, type FitnessCode, mayGive, mayTake } from '../cylinders'
import type { Reason } from '../verdict'
import { KINDS } from './chapters'
import type { Entry } from './entry'
import type { JobState } from './state'

export interface DecisionContext {
  cylinder: Cylinder
  /** `2026-11-24` where the shop is. */
  today: string
  marginPct: number
  /** Whose system it is; null: not known. */
  customerId: string | null
  /** A transfer of another job is running on this cylinder. */
  busyElsewhere: boolean
}

/** Why the server does not take an entry. */
export type RefusalCode =
  FitnessCode | 'in-use' | 'not-there' | 'not-allowed' | 'no-job' | 'too-large' | 'malformed' | 'unreadable'

/** How long after it was taken a decision still counts as one, ms. Later it is a thing that has happened. */
const STILL_A_DECISION_MS = 120_000

/** The cylinder that an entry decides on, while it is a decision that may be refused. @param sentAt the device's clock */
export function decidesOn(entry: Entry, sentAt: number): string | undefined {
  if (sentAt - entry.at > STILL_A_DECISION_MS) return undefined
  return KINDS[entry.kind].decides?.(entry.body as never)?.cylinderId
}

/** Why a decision is refused; empty when it may stand. Without a refrigerant nothing can be judged yet but its use. */
export function refusalsOf(entry: Entry, state: JobState, context: DecisionContext): Reason<RefusalCode>[] {
  const { cylinder, customerId, busyElsewhere } = context
  if (entry.kind === 'run-started') {
    const here = state.transfers.some(
      (each) => each.endedAt === undefined && each.cylinderId === cylinder.cylinderId,
    )
    if (here || busyElsewhere) return [{ code: 'in-use' }]
  }
  if (!state.refrigerant) return []
  const request = { ...context, refrigerant: state.refrigerant, customerId }
  if (entry.kind === 'cylinder-chosen' && entry.body.use === 'recover')
    return mayTake(cylinder, { ...request, massMg: entry.body.massMg }).refusals
  const charges =
    (entry.kind === 'cylinder-chosen' || entry.kind === 'run-started') && entry.body.use === 'charge'
  return charges ? mayGive(cylinder, { ...request, massMg: null }).refusals : []
}
