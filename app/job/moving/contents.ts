import type { Transfer } from '#core/tape'
import type { JobCylinder } from '~/job-data/data'

/** What was in a cylinder before the transfers that are not listed, mg: its books plus what the listed ones moved. */
export function contentsBeforeMg(cylinder: JobCylinder, earlier: Transfer[]): number {
  return earlier
    .filter((each) => each.cylinderId === cylinder.cylinderId)
    .reduce((sum, each) => sum + (each.use === 'recover' ? each.amountMg : -each.amountMg), cylinder.beforeMg)
}
