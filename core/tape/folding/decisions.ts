import { type Cylinder, type FitnessCode, mayGive, mayTake } from '../../cylinders'
import type { Reason } from '../../verdict'
import { type KitPiece, type KitRefusal, mayUse, recovers } from '../../kit'
import type { Decides } from '../envelope/chapter'
import { KINDS } from './chapters'
import { kitInUse } from '../envelope/kit-at'
import type { Entry } from '../envelope/entry'
import { gasIsFoul, type JobState } from '../envelope/state'

export interface DecisionContext {
  /** The one that is decided on; undefined: the decision is about kit. */
  cylinder?: Cylinder | undefined
  /** What the job uses to pull with, and the piece that is decided on, as they stand. */
  kit: KitPiece[]
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
  | FitnessCode
  | KitRefusal
  | 'in-use'
  | 'not-there'
  | 'not-allowed'
  | 'no-job'
  | 'too-large'
  | 'malformed'
  | 'unreadable'

/** How long after it was taken a decision still counts as one, ms. Later it is a thing that has happened. */
const STILL_A_DECISION_MS = 120_000

/** What an entry decides on, while it is a decision that may be refused. @param sentAt the device's clock */
export function decidesOn(entry: Entry, sentAt: number): Decides | undefined {
  return sentAt - entry.at > STILL_A_DECISION_MS ? undefined : decided(entry)
}

/** What an entry decided on, however long ago. */
export function decided(entry: Entry): Decides | undefined {
  return KINDS[entry.kind].decides?.(entry.body as never) ?? undefined
}

/** Why something that was done without signal stands against the rules, or against what others did meanwhile. */
export type AgainstCode = RefusalCode | 'used-meanwhile'

/** Why a decision is refused; empty when it may stand. Without a refrigerant nothing can be judged yet but its use. */
export function refusalsOf(entry: Entry, state: JobState, context: DecisionContext): Reason<RefusalCode>[] {
  const { cylinder, customerId, busyElsewhere, kit } = context
  if (entry.kind === 'kit-used' || entry.kind === 'programme-begun') {
    const piece = kit.find((each) => each.kitId === entry.body.kitId)
    return piece ? mayUse(piece, state.refrigerant).map((code) => ({ code })) : [{ code: 'not-there' }]
  }
  if (!cylinder) return []
  if (entry.kind === 'run-started') {
    const here = state.transfers.some(
      (each) => each.endedAt === undefined && each.cylinderId === cylinder.cylinderId,
    )
    if (here || busyElsewhere) return [{ code: 'in-use' }]
    // A job that learns its gas later than its machine: what it may not pull, it does not begin to.
    const machine = entry.body.use === 'recover' && kitInUse(state).findLast((each) => recovers(each.kind))
    const piece = machine && kit.find((each) => each.kitId === machine.kitId)
    const refused = piece ? mayUse(piece, state.refrigerant) : []
    if (refused.length > 0) return refused.map((code) => ({ code }))
  }
  if (!state.refrigerant) return []
  const { today, marginPct } = context
  const request = { today, marginPct, refrigerant: state.refrigerant, customerId }
  if (entry.kind === 'cylinder-chosen' && entry.body.use === 'recover')
    return mayTake(cylinder, { ...request, massMg: entry.body.massMg, foul: gasIsFoul(state) }).refusals
  const charges =
    (entry.kind === 'cylinder-chosen' || entry.kind === 'run-started') && entry.body.use === 'charge'
  return charges ? mayGive(cylinder, { ...request, massMg: null }).refusals : []
}
