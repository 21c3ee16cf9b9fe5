import type { CompressorDrive } from '#core/oil'
import type { SystemPlate } from '#core/systems'
import type { ShopTx } from './connection'
import { knowTheWhole } from './ledger/known'
import { lock } from './locks'

export type Metering = 'fixed' | 'valve' | 'unknown'

export interface SystemData extends SystemPlate {
  name: string
  siteId: string
  plateText: string
  oilType: string
  /** Vehicles: the plate on its bumper, and the kind of compressor. */
  registration: string
  /** Seventeen characters; null: not known, or no vehicle. */
  vin: string | null
  compressor: string
  metering: Metering
  subcoolingTargetK: number | null
  maxTestPressurePa: number | null
}

export interface SystemRow extends SystemData {
  systemId: string
  /** Rises with every change: a form that was opened with an older one is out of date. */
  version: number
  site: string
  customer: string
  customerId: string
  altitudeM: number
  /** The job in which its plate was read; null: a person has entered it, or nobody. */
  plateJob: string | null
  /** What drives its compressor; empty: nobody has said. */
  drive: CompressorDrive | ''
  /** What the books have in it, mg. */
  balanceMg: number
}

const SELECT = (tx: ShopTx) => tx`
  select y.system_id, y.name, y.trade, y.refrigerant, y.plate_mg, y.plate_text, y.panel_total_mg, y.lines,
    y.accessories, y.oil_type, y.metering, y.subcooling_target_k, y.max_test_pressure_pa, y.registration, y.vin, y.compressor, coalesce(y.drive, '') as drive, y.plate_job, y.balance_mg,
    y.version, y.site_id, s.name as site, s.altitude_m, c.customer_id, c.name as customer
  from system y join site s using (shop_id, site_id) join customer c using (shop_id, customer_id)`

export type SystemSort = 'name' | 'site' | 'customer' | 'refrigerant'

const ORDER = {
  name: (tx: ShopTx) => tx`lower(y.name)`,
  site: (tx: ShopTx) => tx`lower(s.name)`,
  customer: (tx: ShopTx) => tx`lower(c.name)`,
  refrigerant: (tx: ShopTx) => tx`y.refrigerant`,
} satisfies Record<SystemSort, (tx: ShopTx) => unknown>

const matching = (tx: ShopTx, search: string) => {
  const like = `%${search.replace(/[\\%_]/g, '\\$&')}%`
  return search
    ? tx`and (y.name ilike ${like} or s.name ilike ${like} or c.name ilike ${like} or y.registration ilike ${like}
        or y.vin ilike ${like})`
    : tx``
}

/** One page of the systems in use whose name, site or customer has this in it, and how many there are. */
export async function systemPage(
  tx: ShopTx,
  search: string,
  page: { number: number; size: number; sort: SystemSort; down: boolean },
): Promise<{ systems: SystemRow[]; count: number }> {
  const [systems, [total]] = await Promise.all([
    tx<SystemRow[]>`
      ${SELECT(tx)} where y.retired_at is null ${matching(tx, search)}
      order by ${ORDER[page.sort](tx)} ${page.down ? tx`desc` : tx`asc`} nulls last, lower(y.name), y.system_id
      limit ${page.size} offset ${(page.number - 1) * page.size}`,
    tx<{ count: number }[]>`
      select count(*) from system y
      ${search ? tx`join site s using (shop_id, site_id) join customer c using (shop_id, customer_id)` : tx``}
      where y.retired_at is null ${matching(tx, search)}`,
  ])
  return { systems, count: total!.count }
}

/** Systems in use whose name, site or customer has this in it, by name. */
export async function systems(tx: ShopTx, search: string, limit = 100): Promise<SystemRow[]> {
  return tx<SystemRow[]>`
    ${SELECT(tx)} where y.retired_at is null ${matching(tx, search)} order by lower(y.name) limit ${limit}`
}

export async function systemOf(tx: ShopTx, systemId: string): Promise<SystemRow | undefined> {
  const [row] = await tx<SystemRow[]>`${SELECT(tx)} where y.system_id = ${systemId}`
  return row
}

export async function systemsOf(tx: ShopTx, systemIds: string[]): Promise<SystemRow[]> {
  if (systemIds.length === 0) return []
  return tx<SystemRow[]>`${SELECT(tx)} where y.system_id in ${tx(systemIds)} order by lower(y.name)`
}

/** What the books know of a system now, beside what is in it. */
export interface SystemPast {
  systemId: string
  /** They know all that is in it: a job has emptied it, and none has topped it up since. */
  whole: boolean
  chargedAt: Date | null
  dyedAt: Date | null
}

/** Of all systems in use. */
export async function systemPasts(tx: ShopTx, limit = 2000): Promise<SystemPast[]> {
  return tx<SystemPast[]>`
    select y.system_id,
      ${knowTheWhole(tx, tx`y.system_id`)} as whole,
      (select max(m.at) from movement m where m.to_system = y.system_id and m.from_cylinder is not null) as charged_at,
      (select max(o.at) from oil_move o where o.system_id = y.system_id and o.what = 'dye') as dyed_at
    from system y where y.retired_at is null limit ${limit}`
}

/** Sending it twice adds one. */
export async function addSystem(tx: ShopTx, systemId: string, data: SystemData, at: Date): Promise<void> {
  await tx`
    insert into system (shop_id, system_id, site_id, name, trade, refrigerant, plate_mg, plate_text, panel_total_mg,
      lines, accessories, oil_type, metering, subcooling_target_k, max_test_pressure_pa, registration, vin, compressor, created_at)
    values (current_shop(), ${systemId}, ${data.siteId}, ${data.name}, ${data.trade}, ${data.refrigerant},
      ${data.plateMg}, ${data.plateText}, ${data.panelTotalMg}, ${tx.json(data.lines as never)},
      ${tx.json(data.accessories as never)}, ${data.oilType}, ${data.metering}, ${data.subcoolingTargetK},
      ${data.maxTestPressurePa}, ${data.registration}, ${data.vin}, ${data.compressor}, ${at})
    on conflict (shop_id, system_id) do nothing`
}

/** @returns the system as it is now, and stays until this transaction ends */
export async function lockedSystem(tx: ShopTx, systemId: string): Promise<SystemRow | undefined> {
  await lock(tx, { systemIds: [systemId] })
  return systemOf(tx, systemId)
}

/** The caller holds the system's lock. */
export async function changeSystem(tx: ShopTx, systemId: string, data: SystemData): Promise<void> {
  await tx`
    update system set name = ${data.name}, trade = ${data.trade}, refrigerant = ${data.refrigerant},
      plate_job = case when plate_mg is not distinct from ${data.plateMg}::bigint then plate_job end,
      plate_mg = ${data.plateMg}, plate_text = ${data.plateText}, panel_total_mg = ${data.panelTotalMg},
      lines = ${tx.json(data.lines as never)}, accessories = ${tx.json(data.accessories as never)},
      oil_type = ${data.oilType}, metering = ${data.metering}, subcooling_target_k = ${data.subcoolingTargetK},
      max_test_pressure_pa = ${data.maxTestPressurePa}, registration = ${data.registration}, vin = ${data.vin},
      compressor = ${data.compressor}
    where system_id = ${systemId}`
}
