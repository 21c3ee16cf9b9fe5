import { endLevel, type EndLevel, type EndLevelUse } from '../../recovery'
import { REFRIGERANTS } from '../../refrigerants'
import type { Trade } from '../../systems'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '../../units'
import { leakKnown } from './leak-known'
import type { JobState } from '../envelope/state'

/** By which rule a recovery is down: a leak that is known rules over what was planned. */
export function levelUse(state: Pick<JobState, 'plan' | 'leakChecks' | 'steps'>, trade: Trade): EndLevelUse {
  if (leakKnown(state)) return 'leaking'
  // Planned for a leak that is repaired, or was none.
  const planned = state.plan?.level === 'leaking' ? undefined : state.plan?.level
  return planned ?? (trade === 'vehicle' ? 'vehicle' : 'appliance')
}

/** How far down a recovery must go here, and why; undefined: no gas is named that Keg knows. */
export function levelHere(
  state: Pick<JobState, 'refrigerant' | 'plan' | 'leakChecks' | 'steps'>,
  { chargeKg, trade }: { chargeKg: number | null; trade: Trade },
  atmospherePa: number = STANDARD_ATMOSPHERE_PA,
): EndLevel | undefined {
  if (!state.refrigerant || !REFRIGERANTS.includes(state.refrigerant)) return undefined
  const level = endLevel(state.refrigerant, chargeKg ?? 0, levelUse(state, trade))
  // The rule speaks of gauges: its level moves with the atmosphere. One that is absolute stays where it is.
  if (level.rule === 'low-25-mmhg') return level
  return { ...level, levelPa: level.levelPa - STANDARD_ATMOSPHERE_PA + atmospherePa }
}

/** The charge that a level goes by, kg. */
export const chargeKgOf = (expected: { massMg: number } | null): number | null =>
  expected && expected.massMg / MG_PER_KG
