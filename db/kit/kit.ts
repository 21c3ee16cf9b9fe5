import { type ActCode, KIT_KINDS, type KitFacts, type KitKind, type KitState } from '#core/kit'
import { announce } from '../changes'
import type { ShopTx } from '../connection'
import { lock } from '../locks'
import { projectDue } from './acts'

export interface KitData {
  kind: KitKind
  label: string
  facts: KitFacts
  keepsAt: string
  state: KitState
}

/** A piece of kit with what the screens say of it. */
export interface KitRow extends KitData {
  kitId: string
  /** Rises with every change by a person. */
  version: number
  createdAt: Date
  /** What it holds by the books, mg. */
  balanceMg: number
  dueOn: string | null
  dueWhat: ActCode | null
  lastGas: string | null
  gasAt: Date | null
  purgedAt: Date | null
  passedMg: number
  failedAt: Date | null
}

const SELECT = (tx: ShopTx) => tx`
  select k.kit_id, k.kind, k.label, k.facts, k.keeps_at, k.state, k.version, k.created_at, k.balance_mg, k.due_on,
    k.due_what, k.last_gas, k.gas_at, k.purged_at, k.passed_mg, k.failed_at
  from kit k`

export interface KitFilter {
  kind?: string
  /** A van, or the shop. */
  keepsAt?: string
  /** Part of a label. */
  label?: string
  /** in-use where it is left out. */
  state?: KitState
}

const like = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`

const where = (tx: ShopTx, { kind, keepsAt, label, state }: KitFilter) => tx`
  where k.state = ${state ?? 'in-use'}
  ${kind ? tx`and k.kind = ${kind}` : tx``}
  ${keepsAt ? tx`and lower(k.keeps_at) = lower(${keepsAt})` : tx``}
  ${label ? tx`and k.label ilike ${like(label)}` : tx``}`

export type KitSort = 'label' | 'kind' | 'keepsAt' | 'dueOn'

const ORDER = {
  label: (tx: ShopTx) => tx`lower(k.label)`,
  kind: (tx: ShopTx) => tx`array_position(${[...KIT_KINDS]}::text[], k.kind)`,
  keepsAt: (tx: ShopTx) => tx`lower(k.keeps_at)`,
  dueOn: (tx: ShopTx) => tx`k.due_on`,
} satisfies Record<KitSort, (tx: ShopTx) => unknown>

/** One page of the shop's kit, and how many pieces fit the filter. */
export async function kitList(
  tx: ShopTx,
  filter: KitFilter,
  page: { number: number; size: number; sort: KitSort; down: boolean },
): Promise<{ kit: KitRow[]; count: number }> {
  const [kit, [total]] = await Promise.all([
    tx<KitRow[]>`
      ${SELECT(tx)} ${where(tx, filter)}
      order by ${ORDER[page.sort](tx)} ${page.down ? tx`desc` : tx`asc`} nulls last, lower(k.label), k.kit_id
      limit ${page.size} offset ${(page.number - 1) * page.size}`,
    tx<{ count: number }[]>`select count(*) from kit k ${where(tx, filter)}`,
  ])
  return { kit, count: total!.count }
}

/** Where kit is kept, by name. */
export async function kitPlaces(tx: ShopTx): Promise<string[]> {
  // From one place to the next by the index: there are few places, and much kit in each.
  const rows = await tx<{ keepsAt: string }[]>`
    with recursive place(name) as (
      (select lower(keeps_at) from kit where state = 'in-use' and keeps_at <> '' order by lower(keeps_at) limit 1)
      union all
      (select (select lower(k.keeps_at) from kit k where k.state = 'in-use' and lower(k.keeps_at) > place.name
          order by lower(k.keeps_at) limit 1)
        from place where place.name is not null)
    )
    select (select k.keeps_at from kit k where k.state = 'in-use' and lower(k.keeps_at) = place.name limit 1) as keeps_at
    from place where place.name is not null limit 100`
  return rows.map((row) => row.keepsAt)
}

/** All that is in use in one place, by kind and label: the set of a van. */
export async function kitAtPlace(tx: ShopTx, keepsAt: string): Promise<KitRow[]> {
  return tx<KitRow[]>`
    ${SELECT(tx)} where k.state = 'in-use' and lower(k.keeps_at) = lower(${keepsAt})
    order by k.kind, lower(k.label) limit 60`
}

/** The shop's scales and stations in use, those that passed their check first. */
export async function scalesInUse(tx: ShopTx, limit = 30): Promise<KitRow[]> {
  return tx<KitRow[]>`
    ${SELECT(tx)} where k.state = 'in-use' and k.kind in ('scale', 'station')
    order by (k.failed_at is not null), lower(k.label) limit ${limit}`
}

/** All that is in use, by label. */
export async function allKit(tx: ShopTx, limit = 2000): Promise<KitRow[]> {
  return tx<KitRow[]>`${SELECT(tx)} where k.state = 'in-use' order by lower(k.label) limit ${limit}`
}

/** Kit of the kinds that can say something by themselves. */
export async function kitThatSpeaks(tx: ShopTx): Promise<KitRow[]> {
  return tx<KitRow[]>`
    ${SELECT(tx)} where k.state <> 'retired' and k.kind in ${tx(['scale', 'gauge', 'thermometer', 'vacuum-gauge', 'identifier', 'detector', 'station'])}
    order by lower(k.label) limit 400`
}

/** Kit whose label has this in it. */
export async function findKit(tx: ShopTx, label: string, limit: number): Promise<KitRow[]> {
  return tx<KitRow[]>`
    ${SELECT(tx)} where k.state <> 'retired' and k.label ilike ${like(label)}
    order by length(k.label), lower(k.label) limit ${limit}`
}

export async function kitOf(tx: ShopTx, kitIds: string[]): Promise<KitRow[]> {
  if (kitIds.length === 0) return []
  return tx<KitRow[]>`${SELECT(tx)} where k.kit_id in ${tx(kitIds)} order by lower(k.label)`
}

export async function onePiece(tx: ShopTx, kitId: string): Promise<KitRow | undefined> {
  return (await kitOf(tx, [kitId]))[0]
}

/** Another piece of its kind that is not retired has this label. */
export class KitLabelTakenError extends Error {
  override name = 'KitLabelTakenError'
}

/** Sending it twice adds one. @throws KitLabelTakenError */
export async function addKit(tx: ShopTx, kitId: string, data: KitData, at: Date): Promise<void> {
  if (await onePiece(tx, kitId)) return
  await labelled(
    () => tx`
      insert into kit (shop_id, kit_id, kind, label, facts, keeps_at, state, created_at)
      values (current_shop(), ${kitId}, ${data.kind}, ${data.label}, ${tx.json(data.facts as never)}, ${data.keepsAt},
        ${data.state}, ${at}) on conflict (shop_id, kit_id) do nothing`,
  )
  await projectDue(tx, kitId)
}

/** @returns the piece as it is now, and stays until this transaction ends */
export async function lockedKit(tx: ShopTx, kitId: string): Promise<KitRow | undefined> {
  await lock(tx, { kitIds: [kitId] })
  return onePiece(tx, kitId)
}

/** The caller holds its lock. Its kind stays. @throws KitLabelTakenError */
export async function changeKit(
  tx: ShopTx,
  kitId: string,
  { label, facts, keepsAt, state }: Omit<KitData, 'kind'>,
): Promise<void> {
  await labelled(
    () => tx`
      update kit set label = ${label}, facts = ${tx.json(facts as never)}, keeps_at = ${keepsAt}, state = ${state}
      where kit_id = ${kitId}`,
  )
  await projectDue(tx, kitId)
  await announce(tx, { kind: 'kit', id: kitId })
}

async function labelled(write: () => PromiseLike<unknown>) {
  try {
    await write()
  } catch (error) {
    if ((error as { constraint_name?: string }).constraint_name === 'kit_label')
      throw new KitLabelTakenError('Another one of this kind has this label already: give this one its own.')
    throw error
  }
}

/** Everything that is due by the calendar up to a day, and filters that are nearly used up. */
export async function dueKit(tx: ShopTx, upTo: string, share: number, limit: number): Promise<KitRow[]> {
  const [dated, filters] = await Promise.all([
    tx<KitRow[]>`
      ${SELECT(tx)} where k.state = 'in-use' and k.due_on is not null and k.due_on <= ${upTo}::date
      order by k.due_on, lower(k.label) limit ${limit}`,
    tx<KitRow[]>`
      ${SELECT(tx)} where k.state = 'in-use' and k.filter_life_mg is not null
        and k.passed_mg >= ${share}::double precision * k.filter_life_mg
      order by k.passed_mg::double precision / k.filter_life_mg desc limit ${limit}`,
  ])
  const known = new Map([...dated, ...filters].map((k) => [k.kitId, k]))
  return [...known.values()]
}
