import { type Charging, type HandLag, SNIFF_SHARE } from '../charging'
import { type Jump, jumpsOf, withoutJumps } from '../recovery'
import { divisionMg } from '../scales'
import { type JobState, movedWhen, stepDone, toGoMg, type Transfer } from '../tape'
import { MG_PER_KG } from '../units'
import { type LinesOf, type Place, readingsFrom } from './lines'

export interface ChargeSeen extends Charging {
  /** Steps in the streamed weight that no hose makes: somebody touched the scale. Out of the cylinder, kg. */
  jumps: Jump[]
  /** A vehicle stops at a share of its charge: the cabin's vents are sniffed before the rest goes in. */
  pauses: boolean
}

/** The step that ends the pause. */
export const SNIFFED = 'cabin-sniffed'

/** A running charge as it is judged: from a live scale where one speaks, else from what was noted. */
export function chargeOf(
  state: JobState,
  transfer: Transfer,
  lines: LinesOf,
  place: Place,
  lag: HandLag,
): ChargeSeen | undefined {
  if (transfer.use !== 'charge') return undefined
  const index = transfer.segments.length - 1
  const segment = transfer.segments[index]!
  const own = transfer.weighings.filter((each) => each.segment === index)
  const beganMs = own[0]?.at ?? transfer.startedAt
  const { seconds, heard, either } = readingsFrom(beganMs, beganMs, lines, place)
  const outKg = (weightMg: number) => movedWhen('charge', segment, weightMg) / MG_PER_KG
  const spoken = heard('weight', (kg) => outKg(Math.round(kg * MG_PER_KG)))
  const division = divisionMg(segment.divisionMg, Math.abs(segment.highestMg)) / MG_PER_KG
  const jumps = jumpsOf(spoken, division)
  const out = either(
    withoutJumps(spoken, jumps),
    own.map(({ at, weightMg }) => ({ at, value: outKg(weightMg) })),
  )
  const notedKg = outKg(segment.lastMg)
  const left = toGoMg(state)
  const wantedKg = left === undefined ? undefined : notedKg + (left + transfer.plannedHoseMg) / MG_PER_KG
  const pauseKg = pauseOf(state, transfer, notedKg, place)
  const pauses = wantedKg !== undefined && pauseKg !== undefined && pauseKg < wantedKg
  return {
    out,
    nowS: seconds(place.nowMs),
    wantedKg: pauses ? pauseKg : wantedKg,
    toleranceKg: (state.target?.toleranceMg ?? 0) / MG_PER_KG,
    divisionKg: division,
    lag: { ...lag, seconds: lag.seconds * place.speed },
    jumps,
    pauses,
  }
}

/** Out of the cylinder on this scale when a vehicle's charge pauses; undefined: it does not. */
function pauseOf(state: JobState, transfer: Transfer, notedKg: number, place: Place): number | undefined {
  const now = state.episodes.at(-1)!
  if (place.trade !== 'vehicle' || !state.target || now.began !== 'empty') return undefined
  const since = state.transfers.find(
    (each) => each.use === 'charge' && each.startedAt > (state.target?.at ?? 0),
  )
  if (stepDone(state, SNIFFED, since?.startedAt ?? transfer.startedAt)) return undefined
  const inKg = now.heldMg / MG_PER_KG
  return notedKg + (SNIFF_SHARE * state.target.massMg) / MG_PER_KG - inKg
}
