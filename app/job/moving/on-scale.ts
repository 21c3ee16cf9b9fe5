import { grossLimitMg } from '#core/cylinders'
import type { GrossBounds, OnTheScale, Transfer } from '#core/tape'
import { standsNow } from '#core/watching'
import { useJob } from '../field/job-context'
import { useNetNow } from './live-net'
import { contentsBeforeMg } from './contents'

export interface CylinderOnScale {
  bounds: GrossBounds & { grossMg: number }
  scale: OnTheScale
  /** How full it is against its limit; undefined: no limit is known. */
  share: number | undefined
}

/** The cylinder of a running transfer, as it stands on its scale; undefined: it is not known here. */
export function useOnScale(transfer: Transfer | undefined): CylinderOnScale | undefined {
  const { state, data, cylinderOf } = useJob()
  // The gross weight of this moment, where the scale speaks: a limit does not wait for a note.
  const net = useNetNow(transfer)
  if (!transfer) return undefined
  const cylinder = cylinderOf(transfer.cylinderId)
  if (!cylinder) return undefined
  const earlier = state.transfers.slice(0, state.transfers.indexOf(transfer))
  const contentsMg = contentsBeforeMg(cylinder, earlier)
  const limitMg = grossLimitMg(cylinder, state.refrigerant, data.shop.marginPct)
  const { scale, notedMg, share } = standsNow(
    transfer,
    { tareMg: cylinder.tareMg, contentsBeforeMg: contentsMg, grossLimitMg: limitMg },
    net,
  )
  return {
    bounds: {
      tareMg: cylinder.tareMg,
      limitMg,
      bookedMg: cylinder.tareMg + contentsMg,
      grossMg: notedMg,
    },
    scale,
    share,
  }
}
