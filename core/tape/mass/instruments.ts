import { clampLimitK, gaugeLimitPa, type KitFacts, type KitKind, type Limit, vacuumLimitPct } from '../../kit'
import { divisionMg } from '../../scales'
import type { LimitedBy } from '../../verdict'
import { kitAt } from '../envelope/kit-at'
import type { JobState } from '../envelope/state'
import type { Transfer } from './weighings'

/** An instrument as it was when something was read on it; without a label nobody has named one. */
export interface Instrument extends Limit {
  label: string
}

const read =
  (kind: KitKind, limit: (facts: KitFacts) => Limit) =>
  (state: Pick<JobState, 'kit'>, at: number): Instrument => {
    const used = kitAt(state, [kind], at)
    return { ...limit(used?.facts ?? {}), label: used?.label ?? '' }
  }

/** The gauge set in use at a time: limit of error in Pa. */
export const gaugeAt = read('gauge', gaugeLimitPa)
/** The clamp or thermometer: K. */
export const clampAt = read('thermometer', clampLimitK)
/** The vacuum gauge: percent of its reading. */
export const vacuumGaugeAt = read('vacuum-gauge', vacuumLimitPct)

/** The scale that counts coarsest of those that weighings were taken on: it limits what they say together. */
export function coarsestScale(transfers: readonly Transfer[]): LimitedBy | undefined {
  const widest = transfers.toSorted((a, b) => b.sigmaMg - a.sigmaMg)[0]
  if (!widest) return undefined
  const counts = ({ divisionMg: own, highestMg }: Transfer['segments'][number]) =>
    divisionMg(own, Math.abs(highestMg))
  const scale = widest.segments.toSorted((a, b) => counts(b) - counts(a))[0]!
  return { what: 'scale', label: scale.scale }
}
