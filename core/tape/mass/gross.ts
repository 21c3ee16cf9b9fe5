import type { Transfer } from './weighings'

export interface OnTheScale {
  /** Gross weight of the cylinder now: tare + contents. */
  grossMg: number
  /** Gross weight never to pass, where a limit is known. */
  limitMg?: number
  /** What may still go in; negative: overfilled. */
  leftMg?: number
  /** How far the first gross weight is from tare + books; only where it began gross. */
  startOffMg?: number
}

/**
 * The cylinder on the scale at this point of a transfer, whichever way it is weighed. The newest gross reading counts.
 * @param cylinder.contentsBeforeMg what the books had in it before this transfer
 */
export function onTheScale(
  transfer: Transfer,
  cylinder: { tareMg: number; contentsBeforeMg: number; grossLimitMg?: number | undefined },
): OnTheScale {
  const bookedMg = cylinder.tareMg + cylinder.contentsBeforeMg
  const movedMg = transfer.use === 'recover' ? transfer.amountMg : -transfer.amountMg
  const first = transfer.segments[0]!
  const grossMg = transfer.grossMg ?? bookedMg + movedMg
  const found: OnTheScale = { grossMg }
  if (cylinder.grossLimitMg !== undefined) {
    found.limitMg = cylinder.grossLimitMg
    found.leftMg = cylinder.grossLimitMg - grossMg
  }
  if (first.mode === 'gross') found.startOffMg = first.firstMg - bookedMg
  return found
}
