import type { JobState } from './state'
import type { Transfer } from '../mass/weighings'

/** The last transfer that has not ended. */
export function openTransfer(state: Pick<JobState, 'transfers'>): Transfer | undefined {
  return state.transfers.findLast((each) => each.endedAt === undefined)
}
