import type { Flow, Held } from '#core/ledger'
import type { ShopTx } from '../connection'

/** What moved between kinds of places over a span, whatever it was booked by. */
export async function flows(tx: ShopTx, from: Date, to: Date): Promise<Flow[]> {
  return tx<Flow[]>`
    select refrigerant, from_place as "from", to_place as "to", sum(mass_mg)::bigint as mass_mg
    from movement where at >= ${from} and at < ${to} and from_place <> to_place
    group by refrigerant, from_place, to_place`
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
