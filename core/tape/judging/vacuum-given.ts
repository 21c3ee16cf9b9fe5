import { M3_PER_KG } from '../../recovery'
import { OutOfRangeError, refrigerant, saturationPressurePa, tableOf } from '../../refrigerants'
import { MG_PER_KG } from '../../units'
import type { Range, VacuumGiven } from '../../vacuum'
import type { Hold } from '../chapters/evacuation'
import { holdGiven } from './hold-verdict'
import type { Reference } from '../mass/in-system'
import type { JobState } from '../envelope/state'

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

/** What a hold of a tape gives its judge, and what it takes to say how much a leak would lose. */
export function vacuumGiven(state: JobState, hold: Hold, reference: Reference): VacuumGiven {
  const volumeM3 = innerVolume(state, reference)
  const gas = standing(state.refrigerant)
  const chargeMg = state.target?.massMg ?? reference.plate?.massMg ?? reference.books?.massMg
  return {
    ...holdGiven(state, hold),
    ...(volumeM3 && { volumeM3 }),
    ...(gas && { gas: { ...gas, ...(chargeMg && { chargeKg: chargeMg / MG_PER_KG }) } }),
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
