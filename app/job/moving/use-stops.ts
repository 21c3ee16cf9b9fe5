import { reachOf } from '#core/charging'
import { readingAfter, stopReadingMg, toGoMg, type Transfer } from '#core/tape'
import { useOnScale } from './on-scale'
import { useJob } from '../field/job-context'
import { useGiving } from './use-sources'

/** Scale readings of a running charge, mg. */
export interface Stops {
  /** At which to close the cylinder; undefined: none is known, or this cylinder never gets there. */
  stopMg: number | undefined
  /** At which its liquid ends, where that comes before the stop. */
  outMg: number | undefined
}

/** Where a charge stops: at its target, or before it at the end of what this cylinder gives. */
export function useStops(transfer: Transfer | undefined): Stops {
  const { state, cylinderOf } = useJob()
  const { giving } = useGiving()
  const on = useOnScale(transfer)
  if (transfer?.use !== 'charge') return { stopMg: undefined, outMg: undefined }
  const cylinder = cylinderOf(transfer.cylinderId)
  const stopMg = stopReadingMg(state, transfer)
  const leftMg = toGoMg(state)
  if (leftMg === undefined || !on || !cylinder) return { stopMg, outMg: undefined }
  // As it was noted last: a stop does not wander with a live figure.
  const contentsMg = on.bounds.grossMg - on.bounds.tareMg
  const gives = giving({ ...cylinder, balanceMg: contentsMg })
  const reach = gives ? reachOf(gives, contentsMg, leftMg + transfer.plannedHoseMg) : 'as-liquid'
  return {
    stopMg: reach === 'not' ? undefined : stopMg,
    outMg:
      reach === 'as-liquid'
        ? undefined
        : readingAfter(transfer, Math.max(0, contentsMg - gives!.staysMostMg)),
  }
}
