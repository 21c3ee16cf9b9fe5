import { M3_PER_KG } from '../recovery'
import { OutOfRangeError, refrigerant, saturationPressurePa, tableOf } from '../refrigerants'
import { MG_PER_KG } from '../units'
import type { Range, VacuumGiven } from '../vacuum'
import type { Hold } from './chapters/evacuation'
import { holdBefore, readingsOf, ruleOf } from './holds'
import type { Reference } from './in-system'
import { vacuumGaugeAt } from './instruments'
import type { JobState } from './state'

const AROUND_MS = 45 * 60_000
const STANDING_K = 293.15

/** Inner volume of the circuit, m3: as planned, else from the charge; undefined: nothing is known of either. */
export function innerVolume(state: Pick<JobState, 'vacuumPlan'>, reference: Reference): Range | undefined {
  const own = state.vacuumPlan?.volumeM3
  if (own !== undefined) return { least: own, most: own }
  const chargeMg = reference.plate?.massMg ?? reference.books?.massMg
  if (!chargeMg) return undefined
  const chargeKg = chargeMg / MG_PER_KG
  return { least: M3_PER_KG.least * chargeKg, most: M3_PER_KG.most * chargeKg }
}

/** The ambient noted nearest before a time, K; undefined: none within three quarters of an hour. */
export function ambientAt(state: Pick<JobState, 'temperatureNotes'>, at: number): number | undefined {
  return state.temperatureNotes.findLast(
    (each) => each.point === 'ambient' && each.at <= at && at - each.at < AROUND_MS,
  )?.value
}

/** What a hold of a tape gives its judge. */
export function vacuumGiven(state: JobState, hold: Hold, reference: Reference): VacuumGiven {
  const before = holdBefore(state, hold)
  const ambientK = ambientAt(state, hold.startedAt + 60_000)
  const ambientEndK = ambientAt(state, hold.endedAt ?? state.lastAt)
  const volumeM3 = innerVolume(state, reference)
  const gas = standing(state.refrigerant)
  const gaugePct = vacuumGaugeAt(state, hold.endedAt ?? state.lastAt).value
  return {
    readings: readingsOf(hold),
    rule: ruleOf(state, hold),
    gaugePct,
    ...(before && { previous: readingsOf(before) }),
    ...(ambientK !== undefined && { ambientK }),
    ...(ambientEndK !== undefined && { ambientEndK }),
    ...(volumeM3 && { volumeM3 }),
    ...(gas && { gas }),
  }
}

function standing(code: string | null): VacuumGiven['gas'] {
  if (code === null) return undefined
  try {
    return {
      workingPa: saturationPressurePa(tableOf(code), STANDING_K, 'dew'),
      molarMassG: refrigerant(code).molarMassG,
    }
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
