import { kitAt } from '../envelope/kit-at'
import { transferAt } from './episodes'
import { gasAt } from '../envelope/gas-at'
import { type JobState, stepDone } from '../envelope/state'
import type { Transfer } from './weighings'

/** A transfer that a piece of kit was used for. */
export interface KitUse {
  kitId: string
  transferId: string
  use: Transfer['use']
  cylinderId: string
  /** What went through it; null: the job did not know then. */
  refrigerant: string | null
  massMg: number
  /** When, ms. */
  at: number
  /** When it was purged after it, ms; null: not, or not by itself. */
  purgedAt: number | null
}

/** Which kit each transfer of a job was made with: scales by what they weighed, machines and stations by what went through them. */
export function kitUses(state: JobState): KitUse[] {
  const lastPull = state.transfers.findLast((each) => each.use === 'recover')
  return state.transfers.flatMap((transfer) => {
    const at = transferAt(transfer)
    const puller = transfer.use === 'recover' ? kitAt(state, ['machine', 'station'], at) : undefined
    const scales = transfer.segments.flatMap((segment) => segment.scaleId ?? [])
    return [...new Set([...scales, ...(puller ? [puller.kitId] : [])])].map((kitId) => ({
      kitId,
      transferId: transfer.transferId,
      use: transfer.use,
      cylinderId: transfer.cylinderId,
      refrigerant: gasAt(state, transfer.startedAt),
      massMg: transfer.amountMg,
      at,
      purgedAt: kitId === puller?.kitId && transfer === lastPull ? purgedIn(state, kitId, transfer) : null,
    }))
  })
}

/** Nothing of another gas came out of the machine: it is the shop's, whose books know it, or somebody has said so. */
export const machineIsClean = (state: JobState): boolean =>
  stepDone(state, 'rig-drier') ||
  state.transfers
    .filter((each) => each.use === 'recover')
    .every((each) => kitAt(state, ['machine', 'station'], transferAt(each)) !== undefined)

/** A self-purge that was ticked off after the last pull, unless it was said that the machine keeps some. */
function purgedIn(state: JobState, kitId: string, last: Transfer): number | null {
  const purged = state.steps.find(({ step }) => step === 'self-purged')
  if (!purged || purged.at < last.startedAt || state.rigKept.some((each) => each.kitId === kitId)) return null
  return Math.max(purged.at, transferAt(last))
}
