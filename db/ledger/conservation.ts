import type { Flow, Held } from '#core/ledger'
import type { ShopTx } from '../connection'

/** What a cylinder gave to or got from outside in a job was a system's that the job never named. */
const placeNamed = (tx: ShopTx, end: 'from' | 'to') => tx`
  case when ${tx(`${end}_place`)} = 'outside' and job_id is not null
    and (from_place = 'cylinder' or to_place = 'cylinder') then 'unnamed' else ${tx(`${end}_place`)} end`

/** What moved between kinds of places over a span, whatever it was booked by. */
export async function flows(tx: ShopTx, from: Date, to: Date): Promise<Flow[]> {
  return tx<Flow[]>`
    select refrigerant, ${placeNamed(tx, 'from')} as "from", ${placeNamed(tx, 'to')} as "to", sum(mass_mg)::bigint as mass_mg
    from movement where at >= ${from} and at < ${to} and from_place <> to_place
    group by 1, 2, 3`
}

/** What cylinders, systems and rigs held of each gas at a time, by all that moved before it. */
export async function heldAt(tx: ShopTx, at: Date): Promise<Held[]> {
  return tx<Held[]>`
    select refrigerant, place, sum(mass_mg)::bigint as mass_mg from (
      select refrigerant, to_place as place, mass_mg from movement where at < ${at}
      union all
      select refrigerant, from_place, -mass_mg from movement where at < ${at}) m
    where place in ('cylinder', 'system', 'rig') group by refrigerant, place having sum(mass_mg) <> 0`
}

/** Places whose kept balance is another than their movements make it: there should be none. */
export async function unbalanced(tx: ShopTx): Promise<{ place: string; label: string; offMg: number }[]> {
  return tx<{ place: string; label: string; offMg: number }[]>`
    with moved as (
      select to_place as place, coalesce(to_cylinder, to_system, to_kit) as id, mass_mg from movement
      union all
      select from_place, coalesce(from_cylinder, from_system, from_kit), -mass_mg from movement),
    sums as (select place, id, sum(mass_mg)::bigint as mass_mg from moved where id is not null group by place, id),
    kept as (
      select 'cylinder' as place, cylinder_id as id, label, balance_mg from cylinder
      union all select 'system', system_id, name, balance_mg from system
      union all select 'rig', kit_id, label, balance_mg from kit)
    select k.place, k.label, k.balance_mg - coalesce(s.mass_mg, 0) as off_mg
    from kept k left join sums s using (place, id)
    where k.balance_mg <> coalesce(s.mass_mg, 0) order by k.place, k.label limit 50`
}

/** What the books did not know before, or know no longer: into or out of them without being bought or sent away. */
export interface Difference {
  refrigerant: string | null
  /** What it was booked for: the kind of a voucher, or of a job's booking. */
  cause: string
  /** Into the books, mg. */
  foundMg: number
  goneMg: number
  times: number
}

/** Differences of a span by what they were booked for, the largest first. */
export async function differencesByCause(tx: ShopTx, from: Date, to: Date): Promise<Difference[]> {
  return tx<Difference[]>`
    select m.refrigerant, coalesce(v.kind, split_part(m.booking, ':', 1)) as cause,
      coalesce(sum(m.mass_mg) filter (where m.from_place in ('outside', 'unexplained', 'lost')), 0)::bigint as found_mg,
      coalesce(sum(m.mass_mg) filter (where m.to_place in ('outside', 'unexplained', 'lost')), 0)::bigint as gone_mg,
      count(*)::integer as times
    from movement m left join voucher v on v.shop_id = m.shop_id and v.voucher_id = m.voucher_id
    where m.at >= ${from} and m.at < ${to} and m.from_place <> m.to_place
      and (m.from_place in ('outside', 'unexplained', 'lost') or m.to_place in ('outside', 'unexplained', 'lost'))
    group by 1, 2 order by 3 + 4 desc, 1, 2 limit 200`
}
