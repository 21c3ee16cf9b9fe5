import type { Condition, Cylinder } from './cylinder'
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
}

export type DecantRefusal = 'same-cylinder' | 'giver-without-gas' | 'worse-onto-better' | 'past-the-limit'
/** Somebody's gas becomes the shop's: that is asked, and done where it was agreed. */
export type DecantQuestion = 'owner-onto-shops'

/**
 * May gas go from one cylinder into another? Worse gas never goes onto better gas, and nothing past a limit; what the
 * giver's books have is no bound, since "empties" hold what nobody wrote down.
 */
export function mayDecant({ giver, taker, massMg, today, marginPct }: Decanting): {
  refusals: (DecantRefusal | Fitness['refusals'][number]['code'])[]
  questions: DecantQuestion[]
  condition: Condition
} {
  const questions: DecantQuestion[] =
    giver.ownerCustomerId !== null && taker.ownerCustomerId === null ? ['owner-onto-shops'] : []
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
