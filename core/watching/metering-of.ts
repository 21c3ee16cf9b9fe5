import { type MeteringState, watchMetering } from '../charging'
import type { JobState, Transfer } from '../tape'
import { STANDARD_ATMOSPHERE_PA } from '../units'
import { type LinesOf, type Place, pressuresAt, readingsFrom } from './lines'

/** Whether liquid is metered into the running suction side in this transfer. */
export const isMetered = ({ metering }: Pick<JobState, 'metering'>, { startedAt }: Transfer): boolean =>
  metering !== undefined && metering.at >= startedAt

/** What the suction pressure says as long as liquid is metered in; undefined: it is not, or nobody has read it. */
export function meteringOf(
  state: JobState,
  transfer: Transfer,
  lines: LinesOf,
  place: Place,
): MeteringState | undefined {
  if (!state.metering || !isMetered(state, transfer)) return undefined
  const { lowPa, nearCompressor, at } = state.metering
  const { atmospherePa = STANDARD_ATMOSPHERE_PA } = place
  const { heard, either } = readingsFrom(at, at, lines, place)
  const low = either(
    heard('low', (pa) => pa + atmospherePa),
    pressuresAt(state, 'low'),
  )
  return watchMetering(low, lowPa, nearCompressor)
}
