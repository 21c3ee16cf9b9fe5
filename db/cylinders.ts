import { type Condition, type Cylinder, nearLabels } from '#core/cylinders'
import type { ShopTx } from './connection'
import { lock } from './locks'

/** A cylinder with what the screens say of it. */
export interface CylinderRow extends Cylinder {
  /** Rises with every change: a form that was opened with an older one is out of date. */
  version: number
  keepsAt: string
  /** When scale and books were compared last. */
  weighedAt: Date | null
  /** Name of the customer whose gas it holds; null: the shop's own. */
  owner: string | null
}

/** @param jobId reservations of this job are its own and do not count */
const SELECT = (tx: ShopTx, jobId: string | null = null) => tx`
  select c.cylinder_id, c.label, c.kind, c.refrigerant, c.tare_mg, c.water_capacity_mg, c.filling_ratio, c.ratio_gas,
    c.working_fill_pct,
    c.service_pressure_pa, c.tested_on, c.test_years, c.flammable_ok, c.condition, c.owner_customer_id, c.keeps_at,
    c.balance_mg, c.weighed_at, c.version,
    case when c.weighed_gross_mg is null then 0 else weighed_off(c) end as off_mg, c.retired_at is not null as retired,
    (select o.name from customer o where o.shop_id = c.shop_id and o.customer_id = c.owner_customer_id) as owner,
    (select coalesce(sum(r.room_mg), 0)::bigint from reservation r
      where r.shop_id = c.shop_id and r.cylinder_id = c.cylinder_id
        and r.job_id is distinct from ${jobId}) as reserved_mg
  from cylinder c`

export interface RackFilter {
  refrigerant?: string
  /** Part of a label. */
  label?: string
  retired?: boolean
}

const where = (tx: ShopTx, { refrigerant, label, retired }: RackFilter) => tx`
  where ${retired ? tx`c.retired_at is not null` : tx`c.retired_at is null`}
  ${refrigerant ? tx`and c.refrigerant = ${refrigerant}` : tx``}
  ${label ? tx`and c.label ilike ${`%${label.replace(/[\\%_]/g, '\\$&')}%`}` : tx``}`

export type RackSort = 'refrigerant' | 'label' | 'balance' | 'keepsAt' | 'testDue'

const RACK_ORDER = {
  refrigerant: (tx: ShopTx) => tx`c.refrigerant`,
  label: (tx: ShopTx) => tx`lower(c.label)`,
  balance: (tx: ShopTx) => tx`c.balance_mg`,
  keepsAt: (tx: ShopTx) => tx`lower(c.keeps_at)`,
  testDue: (tx: ShopTx) => tx`c.test_due`,
} satisfies Record<RackSort, (tx: ShopTx) => unknown>

/** One page of the rack, by refrigerant and label if nothing else is asked for, and how many there are in all. */
export async function rack(
  tx: ShopTx,
  filter: RackFilter,
  page: number,
  pageSize: number,
  { sort, down }: { sort: RackSort; down: boolean } = { sort: 'refrigerant', down: false },
): Promise<{ cylinders: CylinderRow[]; count: number }> {
  const [cylinders, [total]] = await Promise.all([
    tx<CylinderRow[]>`
      ${SELECT(tx)} ${where(tx, filter)}
      order by ${RACK_ORDER[sort](tx)} ${down ? tx`desc` : tx`asc`} nulls last, lower(c.label)
      limit ${pageSize} offset ${(page - 1) * pageSize}`,
    tx<{ count: number }[]>`select count(*) from cylinder c ${where(tx, filter)}`,
  ])
  return { cylinders, count: total!.count }
}

/** What the rack holds: mass of each refrigerant. */
export async function stock(
  tx: ShopTx,
): Promise<{ refrigerant: string | null; cylinders: number; massMg: number }[]> {
  return tx<{ refrigerant: string | null; cylinders: number; massMg: number }[]>`
    select refrigerant, count(*) as cylinders, coalesce(sum(balance_mg), 0)::bigint as mass_mg
    from cylinder where retired_at is null group by refrigerant order by refrigerant nulls last`
}

export async function cylinderOf(
  tx: ShopTx,
  cylinderId: string,
  jobId: string | null = null,
): Promise<CylinderRow | undefined> {
  return (await cylindersOf(tx, [cylinderId], jobId))[0]
}

export async function cylindersOf(
  tx: ShopTx,
  cylinderIds: string[],
  jobId: string | null = null,
): Promise<CylinderRow[]> {
  if (cylinderIds.length === 0) return []
  return tx<CylinderRow[]>`${SELECT(tx, jobId)} where c.cylinder_id in ${tx(cylinderIds)}`
}

/** Cylinders in use that hold this refrigerant, or nothing yet. */
export async function cylindersFor(tx: ShopTx, refrigerant: string, jobId: string): Promise<CylinderRow[]> {
  return tx<CylinderRow[]>`
    ${SELECT(tx, jobId)}
    where c.retired_at is null and (c.refrigerant = ${refrigerant} or c.refrigerant is null)
    order by c.balance_mg desc limit 1000`
}

/** Recovery cylinders and station tanks in use that hold this gas or none: the rules say which of them may take it. */
export async function cylindersThatMayTake(tx: ShopTx, refrigerant: string): Promise<CylinderRow[]> {
  return tx<CylinderRow[]>`
    ${SELECT(tx)} where c.retired_at is null and c.kind in ('recovery', 'station')
      and (c.refrigerant = ${refrigerant} or c.refrigerant is null)
    order by c.cylinder_id limit 10000`
}

/** All cylinders in use, by label. */
export async function allCylinders(tx: ShopTx, limit = 20_000): Promise<CylinderRow[]> {
  return tx<CylinderRow[]>`${SELECT(tx)} where c.retired_at is null order by lower(c.label) limit ${limit}`
}

/** Cylinders of a kind that are in use, by label. */
export async function cylindersOfKind(
  tx: ShopTx,
  kind: Cylinder['kind'],
): Promise<{ cylinderId: string; label: string }[]> {
  return tx<{ cylinderId: string; label: string }[]>`
    select cylinder_id, label from cylinder where retired_at is null and kind = ${kind}
    order by lower(label) limit 500`
}

/** Recovery cylinders and tanks in use that hold a gas, by label. */
export async function cylindersOfGas(
  tx: ShopTx,
  refrigerant: string,
): Promise<{ cylinderId: string; label: string }[]> {
  return tx<{ cylinderId: string; label: string }[]>`
    select cylinder_id, label from cylinder
    where retired_at is null and refrigerant = ${refrigerant} and kind in ('recovery', 'station')
    order by lower(label) limit 500`
}

/** Cylinders in use whose pressure test runs out by a day, the earliest first. */
export async function cylindersTestDue(
  tx: ShopTx,
  upTo: string,
  limit: number,
): Promise<Pick<CylinderRow, 'cylinderId' | 'label' | 'kind' | 'testedOn' | 'testYears'>[]> {
  return tx`
    select cylinder_id, label, kind, tested_on, test_years from cylinder
    where retired_at is null and kind <> 'one-way' and test_due <= ${upTo}::date
    order by test_due limit ${limit}`
}

const FOUND = 12

/** Those in use whose label is like this, the likest first: `gul 4` finds Gull 4. */
export async function findCylinders(
  tx: ShopTx,
  label: string,
  jobId: string | null = null,
): Promise<CylinderRow[]> {
  const like = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`
  const whole = await tx<CylinderRow[]>`
    ${SELECT(tx, jobId)} ${where(tx, { label })} order by length(c.label), lower(c.label) limit ${FOUND}`
  if (whole.length > 0 || label.trim() === '') return whole
  // Not as it was typed: whatever shares a letter pair or a number with it, and then by likeness.
  const parts = [...label.toLowerCase().matchAll(/\p{L}{2}|\p{N}+/gu)].map(([part]) => like(part))
  if (parts.length === 0) return []
  const some = await tx<CylinderRow[]>`
    ${SELECT(tx, jobId)} where c.retired_at is null and c.label ilike any(${parts}) order by length(c.label) limit 400`
  return nearLabels(some, label).slice(0, FOUND)
}

/**
 * Recovery cylinders and tanks that somebody is likely to take next: those that they filled last, then the others that
 * were filled last in the shop, then the emptiest.
 */
export async function cylindersAtHand(tx: ShopTx, userId: string, limit: number): Promise<CylinderRow[]> {
  const used = await tx<{ cylinderId: string; own: boolean; at: Date }[]>`
    select to_cylinder as cylinder_id, bool_or(user_id = ${userId}) as own, max(at) as at
    from (select to_cylinder, user_id, at from movement order by at desc, nr desc limit 400) m
    where to_cylinder is not null group by to_cylinder order by own desc, at desc limit ${limit}`
  const rows = await tx<CylinderRow[]>`
    ${SELECT(tx)} where c.retired_at is null and c.kind in ('recovery', 'station') and c.condition <> 'mixed'
    order by array_position(${used.map((each) => each.cylinderId)}::uuid[], c.cylinder_id) nulls last,
      c.balance_mg, lower(c.label) limit ${limit}`
  return rows
}

export interface CylinderData {
  label: string
  kind: Cylinder['kind']
  refrigerant: string | null
  tareMg: number
  waterCapacityMg: number | null
  fillingRatio: number | null
  ratioGas: string | null
  workingFillPct: number | null
  servicePressurePa: number | null
  testedOn: string | null
  testYears: number
  flammableOk: boolean
  condition: Condition
  ownerCustomerId: string | null
  keepsAt: string
}

const FIELDS = [
  'label',
  'kind',
  'refrigerant',
  'tareMg',
  'waterCapacityMg',
  'fillingRatio',
  'ratioGas',
  'workingFillPct',
  'servicePressurePa',
  'testedOn',
  'testYears',
  'flammableOk',
  'condition',
  'ownerCustomerId',
  'keepsAt',
] as const satisfies (keyof CylinderData)[]

/** Another cylinder in use has this label. */
export class LabelTakenError extends Error {
  override name = 'LabelTakenError'
}

/** Sending it twice adds one. @throws LabelTakenError */
export async function addCylinder(
  tx: ShopTx,
  cylinderId: string,
  data: CylinderData,
  at: Date,
): Promise<void> {
  if (await cylinderOf(tx, cylinderId)) return
  await labelled(
    () => tx`
      insert into cylinder (shop_id, cylinder_id, created_at, label, kind, refrigerant, tare_mg, water_capacity_mg,
        filling_ratio, ratio_gas, working_fill_pct, service_pressure_pa, tested_on, test_years, flammable_ok, condition, owner_customer_id, keeps_at)
      values (current_shop(), ${cylinderId}, ${at}, ${data.label}, ${data.kind}, ${data.refrigerant}, ${data.tareMg},
        ${data.waterCapacityMg}, ${data.fillingRatio}, ${data.ratioGas}, ${data.workingFillPct}, ${data.servicePressurePa}, ${data.testedOn}, ${data.testYears},
        ${data.flammableOk}, ${data.condition}, ${data.ownerCustomerId}, ${data.keepsAt})
      on conflict (shop_id, cylinder_id) do nothing`,
  )
}

/** @returns the cylinder as it is now, and stays until this transaction ends */
export async function lockedCylinder(tx: ShopTx, cylinderId: string): Promise<CylinderRow | undefined> {
  await lock(tx, { cylinderIds: [cylinderId] })
  return cylinderOf(tx, cylinderId)
}

/** The caller holds the cylinder's lock. @throws LabelTakenError */
export async function changeCylinder(tx: ShopTx, cylinderId: string, data: CylinderData): Promise<void> {
  await labelled(() => tx`update cylinder set ${tx(data, ...FIELDS)} where cylinder_id = ${cylinderId}`)
}

async function labelled(write: () => PromiseLike<unknown>) {
  try {
    await write()
  } catch (error) {
    if ((error as { constraint_name?: string }).constraint_name === 'cylinder_label')
      throw new LabelTakenError('Another cylinder in use has this label already: give this one its own.')
    throw error
  }
}

/**
 * Cylinders in use that may need a look: those with doubtful or mixed gas or a test that has run out or does within 30
 * days, and the fullest. Three tenths of the water capacity lie below the limit of every refrigerant.
 */
export async function needingAttention(tx: ShopTx, today: string, limit = 20): Promise<CylinderRow[]> {
  const [fullest, amiss, testDue] = await Promise.all([
    tx<CylinderRow[]>`
      ${SELECT(tx)}
      where c.retired_at is null and c.kind in ('recovery', 'station') and c.balance_mg > 0.3 * c.water_capacity_mg
      order by c.balance_mg::double precision / c.water_capacity_mg desc limit ${limit}`,
    tx<CylinderRow[]>`
      ${SELECT(tx)}
      where c.retired_at is null and (c.condition in ('doubtful', 'mixed') or c.balance_mg < 0 or c.weighed_gross_mg is not null)
      order by (c.condition = 'mixed') desc, c.balance_mg desc limit ${limit}`,
    tx<CylinderRow[]>`
      ${SELECT(tx)}
      where c.retired_at is null and c.kind <> 'one-way'
        and (c.test_due is null or c.test_due < ${today}::date + 30)
      order by c.test_due nulls first limit ${limit}`,
  ])
  const known = new Map([...fullest, ...amiss, ...testDue].map((c) => [c.cylinderId, c]))
  return [...known.values()]
}
