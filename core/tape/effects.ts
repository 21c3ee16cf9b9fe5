import type { Condition } from '../cylinders'
import { startSlackMg } from './questions'
import type { JobState } from './state'

export interface CylinderEffect {
  cylinderId: string
  refrigerant?: string
  condition?: Condition
}

/** More than a nudge of the scale has flowed into it, mg. */
const RECEIVED_MG = 20_000

/**
 * What a tape says of the cylinders it used: an empty one takes the refrigerant's name, clean turns to used (also by
 * gas that flowed back while charging), a wrong gas marks it mixed, and a judgement of the gas is kept.
 * @param cylinders as they were before this job, as far as that is known: a mark that rests on a slip of this job goes
 * with the slip. Never better than that; that is a person's decision elsewhere.
 */
export function cylinderEffects(
  state: JobState,
  cylinders: ReadonlyMap<string, { refrigerant: string | null; condition: Condition }>,
): CylinderEffect[] {
  const effects: CylinderEffect[] = []
  for (const [cylinderId, before] of cylinders) {
    const received = state.transfers.some(
      (each) =>
        each.cylinderId === cylinderId &&
        (each.use === 'recover' ? each.amountMg > 0 : each.amountMg < -RECEIVED_MG),
    )
    const effect: CylinderEffect = { cylinderId }
    let condition = before.condition
    if (received && state.refrigerant && !before.refrigerant) effect.refrigerant = state.refrigerant
    if (received) condition = worse(condition, 'used')
    if (received && state.refrigerant && before.refrigerant && before.refrigerant !== state.refrigerant)
      condition = 'mixed'
    const judged = state.gas[cylinderId]
    if (judged) condition = worse(condition, judged)
    if (condition !== before.condition) effect.condition = condition
    if (effect.refrigerant || effect.condition) effects.push(effect)
  }
  return effects
}

const WORSE: Condition[] = ['clean', 'used', 'doubtful', 'mixed']

/** The worse of two conditions. */
export function worse(a: Condition, b: Condition): Condition {
  return WORSE.indexOf(a) > WORSE.indexOf(b) ? a : b
}

/** How far a cylinder's first gross weight was from tare and books. */
export interface WeighedOff {
  cylinderId: string
  at: number
  /** Scale less books; 0: they agree as far as a scale can tell. */
  offMg: number
}

/** The newest start on each cylinder whose scale and books can be compared: what they differ by is marked on the cylinder. */
export function weighedOff(state: JobState): WeighedOff[] {
  const newest = new Map<string, WeighedOff>()
  for (const { cylinderId, startedAt, bookedMg, segments } of state.transfers) {
    const first = segments[0]!
    if (bookedMg === null || first.mode !== 'gross') continue
    const offMg = first.firstMg - bookedMg
    const before = newest.get(cylinderId)
    if (!before || before.at <= startedAt)
      newest.set(cylinderId, {
        cylinderId,
        at: startedAt,
        offMg: Math.abs(offMg) > startSlackMg(bookedMg) ? offMg : 0,
      })
  }
  return [...newest.values()]
}
