import { gaugeAt } from '../mass/instruments'
import type { JobState } from '../envelope/state'

/** What the low side says of the valves behind which a charge was shut in. */
export interface ShutIn {
  risePa: number
  heldS: number
  verdict: 'holds' | 'rises' | 'too-soon'
}

/** Who notes first and starts the clock then has noted its beginning, ms. */
const JUST_BEFORE_MS = 120_000
/** A valve that seeps shows within minutes, not at once, s. */
const LEAST_S = 300
/** Less is no rise, whatever the gauge, Pa. */
const RISE_PA = 5_000

/**
 * Do the service valves hold? By the low side over the last watch: undefined until it was noted twice. Against itself a
 * gauge is exact to its divisions, however far it is off.
 */
export function shutInHolds(state: Pick<JobState, 'watches' | 'pressureNotes' | 'kit'>): ShutIn | undefined {
  const watch = state.watches.findLast((each) => each.what === 'pull')
  if (!watch) return undefined
  const lows = state.pressureNotes.filter(
    (each) => each.point === 'low' && each.at >= watch.startedAt - JUST_BEFORE_MS,
  )
  const [first, last] = [lows[0], lows.at(-1)]
  if (!first || !last || first === last) return undefined
  const [risePa, heldS] = [last.value - first.value, (last.at - first.at) / 1_000]
  const rises = risePa > Math.max(RISE_PA, gaugeAt(state, last.at).value / 4)
  return { risePa, heldS, verdict: rises ? 'rises' : heldS < LEAST_S ? 'too-soon' : 'holds' }
}
