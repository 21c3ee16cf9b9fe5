import { type NotedWeight, recoveryTimeLeft, timeLeft, type TimeLeft } from '../../recovery'
import { MG_PER_KG } from '../../units'
import type { Reference } from '../mass/in-system'
import { recoveredEpisode } from '../mass/episodes'
import { toGoMg } from '../mass/charged'
import { expectedMass } from './judge'
import type { JobState } from '../envelope/state'
import { movedWhen, type Transfer } from '../mass/weighings'

/** Three weights are needed before anything can be said. */
const LEAST_WEIGHTS = 3

/**
 * How long a running transfer still takes, from its last scale's weights: to what is expected, or to the target;
 * undefined: too few weights.
 */
export function transferTimeLeft(
  state: JobState,
  transfer: Transfer,
  reference: Reference,
): TimeLeft | undefined {
  const leftMg = transfer.use === 'charge' ? toGoMg(state) : stillInMg(state, reference)
  const known = reckoned.get(transfer.weighings)
  if (known && known.leftMg === leftMg && known.count === transfer.weighings.length) return known.timeLeft
  const points = movedOnLastScale(transfer)
  if (points.length < LEAST_WEIGHTS) return undefined
  const endKg = leftMg === undefined ? undefined : points.at(-1)!.massKg + Math.max(0, leftMg) / MG_PER_KG
  const found = (transfer.use === 'recover' ? recoveryTimeLeft : timeLeft)(points, endKg)
  reckoned.set(transfer.weighings, { leftMg, count: transfer.weighings.length, timeLeft: found })
  return found
}

/** The same weights are fitted once, however many ask: face, strip and panel do. */
const reckoned = new WeakMap<
  Transfer['weighings'],
  { leftMg: number | undefined; count: number; timeLeft: TimeLeft }
>()

/** What should still be in the system that is being recovered from. */
function stillInMg(state: JobState, reference: Reference): number | undefined {
  const expected = expectedMass(state, reference)
  if (!expected) return undefined
  return expected.massMg - (recoveredEpisode(state)?.recoveredMg ?? 0)
}

function movedOnLastScale({ weighings, segments, use }: Transfer): NotedWeight[] {
  const index = segments.length - 1
  const points: NotedWeight[] = []
  for (const { at, weightMg, segment } of weighings) {
    if (segment !== index) continue
    const massKg = movedWhen(use, segments[index]!, weightMg) / MG_PER_KG
    // Of two at one time the later one counts.
    if (points.length > 0 && at / 1000 <= points.at(-1)!.atS) points.pop()
    points.push({ atS: at / 1000, massKg })
  }
  return points
}
