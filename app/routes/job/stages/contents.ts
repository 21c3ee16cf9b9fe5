import { fillLimit, NoFillLimitError } from '#core/cylinders'
import type { Run } from '#core/tape'
import type { JobCylinder } from '../load.server'

/** What was in a cylinder before the runs that are not listed, mg: its books plus what the listed runs moved. */
export function contentsBeforeMg(cylinder: JobCylinder, earlier: Run[]): number {
  return earlier
    .filter((run) => run.cylinderId === cylinder.cylinderId)
    .reduce((sum, run) => sum + (run.use === 'recover' ? run.amountMg : -run.amountMg), cylinder.beforeMg)
}

/** Gross weight never to pass; undefined where no limit can be known. */
export function grossLimitMg(
  cylinder: JobCylinder,
  refrigerant: string | null,
  marginPct: number,
): number | undefined {
  if (cylinder.waterCapacityMg === null || cylinder.kind === 'one-way') return undefined
  try {
    return fillLimit({
      tareMg: cylinder.tareMg,
      waterCapacityMg: cylinder.waterCapacityMg,
      fillingRatio: cylinder.fillingRatio,
      // Two gases in one cylinder: whatever is in there, the lightest counts.
      refrigerant: cylinder.refrigerant && cylinder.refrigerant !== refrigerant ? null : refrigerant,
      marginPct,
    }).grossMg
  } catch (error) {
    if (error instanceof NoFillLimitError) return undefined
    throw error
  }
}
