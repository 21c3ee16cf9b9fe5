import { refrigerant as factsOf } from '../refrigerants'
import { type KitFacts, type KitKind, type KitState, recovers } from './kinds'

/** A piece of kit as it stands when a job wants to use it. */
export interface KitPiece {
  kitId: string
  kind: KitKind
  label: string
  facts: KitFacts
  state: KitState
  /** Gas that went through it since it was purged last; null: none, or not known. */
  lastGas: string | null
}

/** As a job decides on it: gas that was purged since is no gas. */
export function asPiece(row: KitPiece & { gasAt: Date | null; purgedAt: Date | null }): KitPiece {
  const { kitId, kind, label, facts, state, lastGas, gasAt, purgedAt } = row
  const purged = purgedAt !== null && (gasAt === null || purgedAt >= gasAt)
  return { kitId, kind, label, facts, state, lastGas: purged ? null : lastGas }
}

export type KitRefusal = 'kit-not-here' | 'not-rated-flammable' | 'holds-another-gas'

/**
 * Why a piece of kit may not be used in a job.
 * @param refrigerant of the job; null: not known yet
 */
export function mayUse({ kind, facts, state, lastGas }: KitPiece, refrigerant: string | null): KitRefusal[] {
  const refusals: KitRefusal[] = []
  if (state !== 'in-use') refusals.push('kit-not-here')
  if (refrigerant === null) return refusals
  if (!recovers(kind)) return refusals
  if (factsOf(refrigerant).flammable && facts.flammableOk !== true) refusals.push('not-rated-flammable')
  if (lastGas !== null && lastGas !== refrigerant) refusals.push('holds-another-gas')
  return refusals
}
