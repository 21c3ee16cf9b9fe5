import { type Pull, type PullState, pullTimeLeft, type TimeLeft, type Watched } from '../recovery'
import type { JobState, Transfer } from '../tape'
import { MG_PER_KG } from '../units'
import type { Place } from './lines'

/** States in which the weight says how long it still takes. */
const COMING: ReadonlySet<PullState['code']> = new Set<PullState['code']>([
  'running-over',
  'liquid',
  'vapour',
  'slowing',
  'boiling-cold',
  'pushing-hot',
  'restricted',
])

/**
 * How long a running pull still takes from now on: the face, the Bench and the alarms say the same.
 * @returns undefined where too little is known, and of what only creeps, stands or goes back
 */
export function pullLeft(
  state: JobState,
  transfer: Transfer,
  { nowS }: Pull,
  { state: said, weights }: Watched,
  { expected }: Pick<Place, 'expected'>,
): TimeLeft | undefined {
  if (!COMING.has(said.code)) return undefined
  const stillKg = expected
    ? Math.max(0, expected.massMg - state.recoveredMg + transfer.amountMg) / MG_PER_KG
    : undefined
  const left = pullTimeLeft(weights, stillKg, said.code)
  if (!left || !('leastS' in left)) return left
  const goneS = Math.max(0, nowS - weights.at(-1)!.atS)
  const from = (seconds: number) => Math.max(0, seconds - goneS)
  return { ...left, leftS: from(left.leftS), leastS: from(left.leastS), mostS: from(left.mostS) }
}
