import { type ChargeVerdict, judgeCharge } from '../../charging'
import { inSystemNow, massIn } from './in-system'
import { coarsestScale } from './instruments'
import type { JobState } from '../envelope/state'
import { readingAfter, type Transfer } from './weighings'

/** Is what is in the system now on target? undefined: no target, it is empty, or nobody knows how much. */
export function judgeCharged(state: Charged): ChargeVerdict | undefined {
  const now = inSystemNow(state)
  if (!state.target || now.kind !== 'weighed') return undefined
  const limitedBy = coarsestScale(state.transfers.filter((each) => each.use === 'charge'))
  return { ...judgeCharge(now, state.target), ...(limitedBy && { limitedBy }) }
}

type Charged = Pick<JobState, 'episodes' | 'target' | 'transfers'>

/** What is still to go in; negative: too much is in it. undefined: no target, or nobody knows what is in it. */
export function toGoMg(state: Charged): number | undefined {
  const now = massIn(inSystemNow(state))
  return state.target && now ? state.target.massMg - now.massMg : undefined
}

/** Scale reading at which to close the cylinder, on whatever scale it stands now: the hose keeps its share. */
export function stopReadingMg(state: Charged, charge: Transfer): number | undefined {
  if (charge.use !== 'charge') return undefined
  const left = toGoMg(state)
  return left === undefined ? undefined : readingAfter(charge, left + charge.plannedHoseMg)
}
