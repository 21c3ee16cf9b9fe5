import type { Cylinder } from './cylinder'
import { type FillLimit, fillLimit, NoFillLimitError } from './fill'

export type LimitedCylinder = Pick<
  Cylinder,
  | 'kind'
  | 'tareMg'
  | 'waterCapacityMg'
  | 'fillingRatio'
  | 'ratioGas'
  | 'workingFillPct'
  | 'refrigerant'
  | 'condition'
>

/** Working fill of a station's tank where none is set, percent: 50 to 60 is usual. */
const STATION_PCT = 60

/** From here on the next cylinder is made ready, as a share of the limit. */
const NEAR = 0.9

/** Whether a cylinder is near its limit, or past it; where no limit is known it is not said. */
export const isNearLimit = (share: number | null | undefined): boolean => (share ?? 0) >= NEAR

export type LimitRefusal = 'one-way' | 'capacity-unknown' | 'no-stamped-ratio' | 'ratio-of-another-gas'

export type CylinderLimit =
  | { kind: 'known'; limit: FillLimit; /** null: the lightest of all gases counts. */ gas: string | null }
  | { kind: 'unknown'; why: LimitRefusal }

/**
 * The one answer to how much a cylinder may hold; rack, job, fitness and slide rule all ask here. Where what is in it
 * is mixed or doubtful, where another gas comes on top, or where nobody knows, the lightest liquid that it may be
 * counts: a cylinder filled for a denser one would be liquid-full, and burst, when it warms.
 * @param incoming refrigerant about to go in, if any
 * @param marginPct extra margin that the shop sets, percent of the net mass
 */
export function cylinderLimit(
  cylinder: LimitedCylinder,
  incoming: string | null,
  marginPct: number,
): CylinderLimit {
  const { kind, tareMg, waterCapacityMg, fillingRatio, ratioGas } = cylinder
  if (kind === 'one-way') return { kind: 'unknown', why: 'one-way' }
  if (waterCapacityMg === null) return { kind: 'unknown', why: 'capacity-unknown' }
  const gas = gasThatCounts(cylinder, incoming)
  const stampedFor = ratioGas ?? cylinder.refrigerant
  try {
    const limit = fillLimit({
      tareMg,
      waterCapacityMg,
      refrigerant: gas,
      marginPct,
      fillingRatio: gas !== null && stampedFor === gas ? fillingRatio : null,
    })
    return { kind: 'known', limit, gas }
  } catch (error) {
    if (!(error instanceof NoFillLimitError)) throw error
    return { kind: 'unknown', why: fillingRatio === null ? 'no-stamped-ratio' : 'ratio-of-another-gas' }
  }
}

/** The gross weight never to pass, mg; undefined where none can be known. */
export function grossLimitMg(
  cylinder: LimitedCylinder,
  incoming: string | null,
  marginPct: number,
): number | undefined {
  const found = cylinderLimit(cylinder, incoming, marginPct)
  return found.kind === 'known' ? found.limit.grossMg : undefined
}

/**
 * Up to where a cylinder is filled from supply, gross mg. A station's tank ends at its working fill, since what is
 * recovered from a vehicle comes on top, up to the limit; any other at its limit.
 */
export function supplyLimitMg(
  cylinder: LimitedCylinder,
  incoming: string | null,
  marginPct: number,
): number | undefined {
  const limitMg = grossLimitMg(cylinder, incoming, marginPct)
  const { kind, tareMg, waterCapacityMg, workingFillPct } = cylinder
  if (kind !== 'station' || waterCapacityMg === null || limitMg === undefined) return limitMg
  const workingMg = tareMg + Math.floor(((workingFillPct ?? STATION_PCT) / 100) * waterCapacityMg)
  return Math.min(limitMg, workingMg)
}

function gasThatCounts({ condition, refrigerant }: LimitedCylinder, incoming: string | null): string | null {
  if (condition === 'mixed' || condition === 'doubtful') return null
  if (refrigerant && incoming && refrigerant !== incoming) return null
  return incoming ?? refrigerant
}
