import type { ShopTx } from './connection'

export interface Locks {
  /** The shop's row stands for what the whole shop counts or decides: job numbers, who manages it. */
  shop?: boolean
  jobId?: string
  systemIds?: Iterable<string>
  cylinderIds?: Iterable<string>
  kitIds?: Iterable<string>
}

/**
 * The one place where rows are locked, in one order for everybody: the shop, the job, systems, cylinders, kit, each by id.
 * Whoever needs more than one takes them in this order, so that nobody waits in a circle. No stronger than needed: rows
 * that only refer to a locked one are written meanwhile.
 * @returns which of the systems, cylinders and pieces of kit there are
 */
export async function lock(
  tx: ShopTx,
  { shop, jobId, systemIds, cylinderIds, kitIds }: Locks,
): Promise<Set<string>> {
  const there = new Set<string>()
  if (shop) await tx`select 1 from shop where shop_id = current_shop() for no key update`
  if (jobId) await tx`select 1 from job where job_id = ${jobId} for no key update`
  const systems = [...new Set(systemIds)]
  if (systems.length > 0)
    for (const { id } of await tx<{ id: string }[]>`
      select system_id as id from system where system_id in ${tx(systems)} order by system_id for no key update`)
      there.add(id)
  const cylinders = [...new Set(cylinderIds)]
  if (cylinders.length > 0)
    for (const { id } of await tx<{ id: string }[]>`
      select cylinder_id as id from cylinder where cylinder_id in ${tx(cylinders)} order by cylinder_id for no key update`)
      there.add(id)
  const kit = [...new Set(kitIds)]
  if (kit.length > 0)
    for (const { id } of await tx<{ id: string }[]>`
      select kit_id as id from kit where kit_id in ${tx(kit)} order by kit_id for no key update`)
      there.add(id)
  return there
}
