import type { Cylinder } from './cylinder'
import type { Fitness } from './take'

/** What is to become of the gas: it goes back into the system, or it is kept. */
export type Intent = 'go-back' | 'keep'

export interface Ranked {
  cylinder: Cylinder
  fitness: Fitness
}

/**
 * The order in which cylinders are proposed to recover into. To go back: clean before used, gas of the same owner before
 * the shop's, then the most room. To keep: where the same gas is already, then the most room left afterwards. One that
 * is nearly full never comes first.
 */
export function rankToTake<T extends Ranked>(
  candidates: readonly T[],
  intent: Intent,
  customerId: string | null,
): T[] {
  const keys = ({ cylinder, fitness }: T): number[] => {
    const { refrigerant, condition, ownerCustomerId } = cylinder
    const empty = refrigerant === null
    const room = -(fitness.roomMg ?? 0)
    if (intent === 'keep') return [fitness.refusals.length, Number(empty), room]
    const unclean = empty || condition === 'clean' ? 0 : condition === 'used' ? 1 : 2
    // Nobody's yet, or its owner's own: it stays theirs.
    const others = empty || (customerId !== null && ownerCustomerId === customerId) ? 0 : 1
    return [fitness.refusals.length, unclean, others, room]
  }
  return candidates
    .map((candidate) => ({ candidate, by: keys(candidate) }))
    .sort((a, b) => compare(a.by, b.by))
    .map(({ candidate }) => candidate)
}

function compare(a: number[], b: number[]): number {
  const at = a.findIndex((each, i) => each !== b[i])
  return at === -1 ? 0 : a[at]! - b[at]!
}
