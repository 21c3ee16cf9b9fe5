import type { Condition, Cylinder } from './cylinder'
import { FAR_MG, isFarFromBooks } from './reweigh'
import { type Fitness, mayTake } from './take'

/** The worse of two conditions. */
export function worse(a: Condition, b: Condition): Condition {
  return WORSE.indexOf(a) > WORSE.indexOf(b) ? a : b
}
const WORSE: Condition[] = ['clean', 'used', 'doubtful', 'mixed']

export interface Decanting {
  giver: Cylinder
  taker: Cylinder
  massMg: number
  today: string
  marginPct: number
  /** What the scale showed before, and which of the two stood on it. */
  before?: { on: 'taker' | 'giver'; grossMg: number }
}

export type DecantRefusal = 'same-cylinder' | 'giver-without-gas' | 'worse-onto-better' | 'past-the-limit'
/** What is asked, and done where it is so. */
export type DecantQuestion =
  /** Somebody's gas becomes the shop's. */
  | 'owner-onto-shops'
  /** What the scale showed before is far from tare and books of what stood on it. */
  | 'before-off-the-books'
  /** More came out of it than its books had. */
  | 'more-than-it-had'

/** Nobody wrote down what an "empty" holds. */
const isUnwritten = ({ kind }: Cylinder) => kind === 'one-way'
/** Zeroed with the cylinder on it. */
const isZeroed = (readMg: number, { tareMg }: Cylinder) => Math.abs(readMg) < tareMg / 2

/**
 * May gas go from one cylinder into another? Worse gas never goes onto better gas, and nothing past a limit; what the
 * giver's books have is no bound, since "empties" hold what nobody wrote down.
 */
export function mayDecant({ giver, taker, massMg, today, marginPct, before }: Decanting): {
  refusals: (DecantRefusal | Fitness['refusals'][number]['code'])[]
  questions: DecantQuestion[]
  condition: Condition
} {
  const questions: DecantQuestion[] = []
  if (giver.ownerCustomerId !== null && taker.ownerCustomerId === null) questions.push('owner-onto-shops')
  const weighed = before?.on === 'giver' ? giver : taker
  const isKnown = before && !isZeroed(before.grossMg, weighed) && !isUnwritten(weighed)
  if (isKnown && isFarFromBooks(before.grossMg, weighed)) questions.push('before-off-the-books')
  if (massMg - giver.balanceMg > FAR_MG && !isUnwritten(giver)) questions.push('more-than-it-had')
  const condition = worse(giver.condition, taker.condition)
  const refusals: (DecantRefusal | Fitness['refusals'][number]['code'])[] = []
  if (giver.cylinderId === taker.cylinderId) refusals.push('same-cylinder')
  if (giver.retired) refusals.push('retired')
  const { refrigerant } = giver
  if (refrigerant === null) return { refusals: [...refusals, 'giver-without-gas'], questions, condition }
  const fitness = mayTake(taker, {
    refrigerant,
    massMg,
    today,
    customerId: giver.ownerCustomerId,
    marginPct,
    // Mixed onto mixed, for the reclaimer, spoils nothing.
    foul: giver.condition === 'mixed',
  })
  for (const { code } of fitness.refusals)
    refusals.push(code === 'too-small' || code === 'full' ? 'past-the-limit' : code)
  if (taker.balanceMg > 0 && condition !== taker.condition) refusals.push('worse-onto-better')
  return { refusals: [...new Set(refusals)], questions, condition }
}
