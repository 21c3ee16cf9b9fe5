import type { OilPlace } from '#core/tape'
import type { ShopTx } from '../connection'

export interface OilLine {
  jobId: string
  number: number
  system: string | null
  what: 'oil' | 'dye'
  oil: string | null
  fromPlace: OilPlace
  toPlace: OilPlace
  bottle: string | null
  volumeMl: number
  at: Date
}

/** Every move of oil and dye between two times, the newest first. */
export async function oilLines(tx: ShopTx, from: Date, to: Date, most: number): Promise<OilLine[]> {
  return tx<OilLine[]>`
    select m.job_id, j.number, s.name as system, m.what, m.oil, m.from_place, m.to_place, k.label as bottle,
      m.volume_ml, m.at
    from oil_move m join job j using (shop_id, job_id)
      left join system s on s.shop_id = m.shop_id and s.system_id = m.system_id
      left join kit k on k.shop_id = m.shop_id and k.kit_id = m.bottle_id
    where m.at >= ${from} and m.at < ${to}
    order by m.at desc, j.number desc, m.key limit ${most}`
}

/** When dye was put into a system last, by another job; null: the books know of none. */
export async function dyedBefore(tx: ShopTx, systemId: string, notBy: string): Promise<Date | null> {
  const [row] = await tx<{ at: Date | null }[]>`
    select max(at) as at from oil_move where system_id = ${systemId} and what = 'dye' and job_id <> ${notBy}`
  return row?.at ?? null
}

/** What jobs took from a bottle since a time, mL. */
export async function takenFromBottle(tx: ShopTx, bottleId: string, since: Date | null): Promise<number> {
  const [row] = await tx<{ ml: number | null }[]>`
    select sum(volume_ml)::real as ml from oil_move
    where bottle_id = ${bottleId} and at > ${since ?? new Date(0)}`
  return row?.ml ?? 0
}
