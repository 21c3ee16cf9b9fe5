import { type Condition, worse } from '../../cylinders'
import { gasAt } from '../envelope/gas-at'
import type { JobState } from '../envelope/state'
import type { Transfer } from './weighings'

export interface CylinderEffect {
  cylinderId: string
  refrigerant?: string
  condition?: Condition
}

/** More than a nudge of the scale has flowed back into it, mg. */
const RECEIVED_MG = 20_000
/** What its scale can tell from nothing: noise makes no mixture. */
const leastMg = ({ sigmaMg }: Transfer) => Math.min(RECEIVED_MG, 2 * sigmaMg)

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
    const last = state.transfers.findLast(
      (each) =>
        each.cylinderId === cylinderId &&
        (each.use === 'recover' ? each.amountMg > leastMg(each) : each.amountMg < -RECEIVED_MG),
    )
    const received = last !== undefined
    const gas = last ? gasAt(state, last.startedAt) : state.refrigerant
    const effect: CylinderEffect = { cylinderId }
    let condition = before.condition
    if (received && gas && !before.refrigerant) effect.refrigerant = gas
    if (received) condition = worse(condition, 'used')
    if (received && gas && before.refrigerant && before.refrigerant !== gas) condition = 'mixed'
    const judged = state.gas[cylinderId]
    if (judged) condition = worse(condition, judged)
    if (condition !== before.condition) effect.condition = condition
    if (effect.refrigerant || effect.condition) effects.push(effect)
  }
  return effects
}

/** The first gross weight of a transfer, to be compared with tare and books. */
export interface FirstGross {
  cylinderId: string
  at: number
  grossMg: number
}

/**
 * The newest gross start on each cylinder that was compared with tare and books when it was noted: what they differ by
 * is marked on the cylinder.
 */
export function firstGross(state: JobState): FirstGross[] {
  const newest = new Map<string, FirstGross>()
  for (const { cylinderId, startedAt, bookedMg, segments } of state.transfers) {
    const first = segments[0]!
    if (bookedMg === null || first.mode !== 'gross') continue
    const before = newest.get(cylinderId)
    if (!before || before.at <= startedAt)
      newest.set(cylinderId, { cylinderId, at: startedAt, grossMg: first.firstMg })
  }
  return [...newest.values()]
}
