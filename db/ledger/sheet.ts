import type { SheetRow } from '#core/ledger'
import type { ShopTx } from '../connection'

/** What one figure of the sheet is made of. */
export type SheetPart =
  'bought' | 'opening' | 'recovered' | 'charged' | 'shipped' | 'lost' | 'unexplained' | 'rig'

const PLACE_OF: Record<SheetPart, string> = {
  bought: 'supplier',
  opening: 'outside',
  recovered: 'system',
  charged: 'system',
  shipped: 'reclaimer',
  lost: 'lost',
  unexplained: 'unexplained',
  rig: 'rig',
}

/**
 * Movements between cylinders and other places, of a span of time, one row for each booking of a job or voucher. What a job moved
 * in or out of a system that it never named was recovered and charged as well.
 */
export async function sheetRows(tx: ShopTx, from: Date, to: Date): Promise<SheetRow[]> {
  return tx<SheetRow[]>`
    select refrigerant, place, sum(into_mg)::bigint as into_mg
    from (
      select refrigerant, coalesce(job_id, voucher_id) as behind, booking,
        case when 'outside' in (from_place, to_place) and job_id is not null then 'system'
          when to_place = 'cylinder' then from_place else to_place end as place,
        case when to_place = 'cylinder' then mass_mg else -mass_mg end as into_mg
      from movement
      where at >= ${from} and at < ${to} and (from_place = 'cylinder') <> (to_place = 'cylinder')
    ) m
    group by refrigerant, place, behind, booking having sum(into_mg) <> 0`
}

/** What the cylinders held of each gas at a time, by the books as they are now. */
export async function stockAt(
  tx: ShopTx,
  at: Date,
): Promise<{ refrigerant: string | null; massMg: number }[]> {
  return tx<{ refrigerant: string | null; massMg: number }[]>`
    select refrigerant, sum(case when to_place = 'cylinder' then mass_mg else 0 end
      - case when from_place = 'cylinder' then mass_mg else 0 end)::bigint as mass_mg
    from movement where at < ${at} group by refrigerant`
}

/** The movements that a figure of the sheet is made of, as a condition on `movement m`. */
export function ofPart(tx: ShopTx, part: SheetPart) {
  const place = PLACE_OF[part]
  const ends = tx`((m.from_place = 'cylinder' and m.to_place = ${place}) or (m.from_place = ${place} and m.to_place = 'cylinder'))`
  if (place === 'outside') return tx`${ends} and m.job_id is null`
  if (place !== 'system') return ends
  const unnamed = tx`('outside' in (m.from_place, m.to_place) and 'cylinder' in (m.from_place, m.to_place) and m.job_id is not null)`
  // A correction goes the other way, and belongs to what it corrects.
  return tx`(${ends} or ${unnamed}) and (
    select sum(case when o.to_place = 'cylinder' then o.mass_mg else -o.mass_mg end) from movement o
    where o.shop_id = m.shop_id and o.job_id = m.job_id and o.booking = m.booking
      and (o.from_place = 'cylinder') <> (o.to_place = 'cylinder')) ${part === 'recovered' ? tx`> 0` : tx`< 0`}`
}
