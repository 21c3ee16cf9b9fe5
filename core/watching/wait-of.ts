import type { AfterPull } from '../recovery'
import { refrigerant, tableOf } from '../refrigerants'
import { gaugeAt, type JobState, leakKnown, type Transfer } from '../tape'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '../units'
import { type LinesOf, type Place, pressuresAt, readingsFrom, temperaturesAt } from './lines'
import { levelPaOf, ORDINARY_K } from './pull-of'

/** What a gauge showed just before the stop belongs to it, ms. */
const BEFORE_MS = 120_000
/** An instrument says what it was at the stop much closer to it, s. */
const LIVE_BEFORE_S = 10

/** The pull after which one waits; undefined: one runs, or gas has gone in since, or the recovery is over. */
export function waitedAfter(state: JobState): (Transfer & { endedAt: number }) | undefined {
  const last = state.transfers.at(-1)
  if (last?.use !== 'recover' || last.endedAt === undefined) return undefined
  const { end } = state.episodes.at(-1)!
  if (end && end.how !== 'not-emptied' && end.contradictedPa === undefined) return undefined
  return last as Transfer & { endedAt: number }
}

/** What is known while one waits after a pull, as its judge sees it. */
export function waitOf(state: JobState, pull: { endedAt: number }, lines: LinesOf, place: Place): AfterPull {
  const { nowMs, atmospherePa = STANDARD_ATMOSPHERE_PA, expected, speed } = place
  const { endedAt } = pull
  const { seconds, heard, either } = readingsFrom(endedAt - BEFORE_MS, endedAt, lines, place)
  const since = <T extends { at: number }>(notes: readonly T[]) => notes.findLast(({ at }) => at >= endedAt)
  const spoken = heard('low', (pa) => pa + atmospherePa).filter(({ atS }) => atS >= -LIVE_BEFORE_S * speed)
  const gas = state.refrigerant
  const coldest = heard('suction').findLast(({ atS }) => atS >= 0)?.value
  const ambients = [...heard('ambient'), ...temperaturesAt(state, 'ambient')].map(({ value }) => value)
  return {
    low: either(spoken, pressuresAt(state, 'low')),
    nowS: seconds(nowMs),
    levelPa: levelPaOf(state, place),
    atmospherePa,
    gaugePa: gaugeAt(state, nowMs).value / 2,
    ambientK: ambients.at(-1) ?? ORDINARY_K,
    coldestK: coldest ?? since(temperaturesAt(state, 'suction'))?.value,
    leaking: leakKnown(state),
    chargeKg: expected ? expected.massMg / MG_PER_KG : undefined,
    ...(gas && { gas: { table: tableOf(gas), molarMassG: refrigerant(gas).molarMassG } }),
  }
}
