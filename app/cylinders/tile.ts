import { isNearLimit, mayTake, type FitnessCode } from '#core/cylinders'
import type { CylinderRow } from '#db'
import { seen } from './condition'
import type { CylinderSight } from './sight'

/** So many are shown at once. */
export const TILES_SHOWN = 24

/** A cylinder as a tile shows it. */
export interface Tile
  extends
    CylinderSight,
    Pick<
      CylinderRow,
      | 'cylinderId'
      | 'label'
      | 'kind'
      | 'refrigerant'
      | 'tareMg'
      | 'waterCapacityMg'
      | 'condition'
      | 'fillingRatio'
      | 'ratioGas'
      | 'workingFillPct'
    > {
  /** Gross weight by tare and books. */
  expectedMg: number
  /** What still goes in; undefined: no limit is known. */
  roomMg?: number | undefined
  /** Why it may not be filled. */
  refusals: FitnessCode[]
  /** Made on this device, or used there: the server does not know it yet. */
  ahead: boolean
}

/** The order of the tiles: what is nearly full does not come before what has room; what may not be filled comes last. */
export const byRoom = (a: Tile, b: Tile): number => lateness(a) - lateness(b)

const lateness = ({ refusals, share }: Tile) => (refusals.length > 0 ? 2 : isNearLimit(share) ? 1 : 0)

export function tileOf(row: CylinderRow, today: string, marginPct: number, ahead = false): Tile {
  const { cylinderId, label, kind, refrigerant, tareMg, waterCapacityMg, condition } = row
  const { fillingRatio, ratioGas, workingFillPct } = row
  const { level, limit, share, grossLimitMg, governs, tags } = seen(row, marginPct, today)
  const fitness =
    refrigerant === null
      ? undefined
      : mayTake(row, { refrigerant, massMg: null, today, customerId: row.ownerCustomerId, marginPct })
  return {
    cylinderId,
    label,
    kind,
    refrigerant,
    tareMg,
    waterCapacityMg,
    condition,
    fillingRatio,
    ratioGas,
    workingFillPct,
    level,
    limit,
    share,
    ...(grossLimitMg === undefined ? {} : { grossLimitMg }),
    ...(governs && { governs }),
    tags,
    expectedMg: tareMg + row.balanceMg,
    roomMg: fitness?.roomMg,
    refusals: fitness?.refusals.map(({ code }) => code) ?? [],
    ahead,
  }
}
