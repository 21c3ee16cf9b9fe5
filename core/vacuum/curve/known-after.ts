import { PA_PER_MICRON } from '../../units'
import { type Cause, type CauseGiven, judgeCause } from './cause'
import { onCurve } from './fit'

/** How long holds are asked about, s. */
const LENGTHS_S = [600, 900, 1200, 1800, 2700, 3600]
const EVERY_S = 10

/**
 * After how long a hold like this one would be answered, if it goes on as its fitted curve does; undefined where
 * waiting up to an hour does not help.
 * @returns seconds from valving off
 */
export function knownAfterS(cause: Cause, given: Omit<CauseGiven, 'readings'>): number | undefined {
  const heldS = cause.points.at(-1)!.atS
  return LENGTHS_S.find((lengthS) => {
    if (lengthS <= heldS) return false
    const readings = Array.from({ length: lengthS / EVERY_S + 1 }, (_, i) => ({
      atS: i * EVERY_S,
      pressurePa: onCurve(cause.curve, i * EVERY_S) * PA_PER_MICRON,
    }))
    const then = judgeCause({ ...given, readings })
    return then !== undefined && then.leak !== 'open' && then.moisture !== 'open'
  })
}
