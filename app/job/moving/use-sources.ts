import { gives, type Gives, type Source, sourceKind } from '#core/charging'
import { mayGive } from '#core/cylinders'
import { refrigerant as factsOf, tableOf } from '#core/refrigerants'
import { ambientAt } from '#core/tape'
import { ORDINARY_K } from '#core/watching'
import { useJob } from '../field/job-context'
import type { JobCylinder } from '~/job-data/data'

export interface OfferedSource extends Source {
  cylinder: JobCylinder
}

/** What a cylinder of this job's gas gives at today's temperature; measured: somebody noted it. */
export function useGiving(): {
  giving: (cylinder: JobCylinder) => Gives | undefined
  tempK: number
  measured: boolean
} {
  const { state } = useJob()
  const noted = ambientAt(state, state.lastAt)
  const tempK = noted ?? ORDINARY_K
  const { refrigerant, metering } = state
  return {
    giving: (cylinder) =>
      refrigerant
        ? gives(cylinder, tableOf(refrigerant), tempK, {
            molarMassG: factsOf(refrigerant).molarMassG,
            suctionPa: metering?.lowPa,
          })
        : undefined,
    tempK,
    measured: noted !== undefined,
  }
}

/** The cylinders that may give, with what each can at today's temperature. */
export function useSources(): { sources: OfferedSource[]; tempK: number; measured: boolean } {
  const { data, state, cylinderOf } = useJob()
  const { giving, ...temperature } = useGiving()
  const { refrigerant } = state
  if (!refrigerant) return { sources: [], ...temperature }
  const customerId = data.system?.customerId ?? null
  const sources = data.cylinders.flatMap(({ cylinderId }) => {
    const cylinder = cylinderOf(cylinderId)!
    const { refusals } = mayGive(cylinder, { refrigerant, customerId, massMg: null })
    if (refusals.length > 0) return []
    const ownGasInIt = state.transfers.some(
      (each) => each.use === 'recover' && each.cylinderId === cylinderId && each.amountMg > 0,
    )
    return [
      {
        cylinderId,
        cylinder,
        kind: sourceKind(cylinder, { ownGasInIt, customerId }),
        gives: giving(cylinder),
      },
    ]
  })
  return { sources, ...temperature }
}
