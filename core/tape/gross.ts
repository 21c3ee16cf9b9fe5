import type { Run } from './state'

export interface OnTheScale {
  /** Gross weight of the cylinder now: tare + contents. */
  grossMg: number
  /** Gross weight never to pass, where a limit is known. */
  limitMg?: number
  /** What may still go in; negative: overfilled. */
  leftMg?: number
  /** How far the first gross weight is from tare + books; only in gross mode. */
  startOffMg?: number
}

/**
 * The cylinder on the scale at this point of a run, whichever way it is weighed.
 * @param contentsBeforeMg what the books had in it before this run
 */
export function onTheScale(
  run: Run,
  cylinder: { tareMg: number; contentsBeforeMg: number; grossLimitMg?: number },
): OnTheScale {
  const bookedMg = cylinder.tareMg + cylinder.contentsBeforeMg
  const movedMg = run.use === 'recover' ? run.amountMg : -run.amountMg
  const startedGross = run.modes[0] === 'gross'
  const startMg = startedGross ? run.weighings[0]!.weightMg : bookedMg
  const grossMg = startMg + movedMg
  return {
    grossMg,
    ...(cylinder.grossLimitMg === undefined
      ? {}
      : { limitMg: cylinder.grossLimitMg, leftMg: cylinder.grossLimitMg - grossMg }),
    ...(startedGross ? { startOffMg: startMg - bookedMg } : {}),
  }
}
