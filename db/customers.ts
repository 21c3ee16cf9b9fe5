import type { ShopTx } from './connection'

export interface Site {
  siteId: string
  customerId: string
  customer: string
  name: string
  address: string
  altitudeM: number
}

/** Sites with the customers they belong to, by name. */
export async function sites(tx: ShopTx, limit = 2000): Promise<Site[]> {
  return tx<Site[]>`
    select s.site_id, s.customer_id, c.name as customer, s.name, s.address, s.altitude_m
    from site s join customer c using (shop_id, customer_id)
    order by lower(c.name), lower(s.name) limit ${limit}`
}

export async function customers(tx: ShopTx): Promise<{ customerId: string; name: string }[]> {
  return tx<{ customerId: string; name: string }[]>`
    select customer_id, name from customer order by lower(name) limit 2000`
}

/** How high a site lies above the sea. */
export async function changeAltitude(tx: ShopTx, siteId: string, altitudeM: number): Promise<void> {
  await tx`update site set altitude_m = ${altitudeM} where site_id = ${siteId} and altitude_m <> ${altitudeM}`
}

/** How a site is called, and where it is. */
export async function changeSite(
  tx: ShopTx,
  siteId: string,
  { name, address }: Pick<Site, 'name' | 'address'>,
): Promise<void> {
  await tx`update site set name = ${name}, address = ${address} where site_id = ${siteId}`
}

/** Does the shop have this customer? */
export async function isCustomer(tx: ShopTx, customerId: string): Promise<boolean> {
  return (await tx`select 1 from customer where customer_id = ${customerId}`).length > 0
}

/** A customer by name, made when there is none yet. @returns its id */
export async function customerNamed(
  tx: ShopTx,
  customer: { customerId: string; name: string; at: Date },
): Promise<string> {
  // Whoever comes second waits for the first, then finds what it made.
  await tx`
    insert into customer (shop_id, customer_id, name, created_at)
    values (current_shop(), ${customer.customerId}, ${customer.name}, ${customer.at})
    on conflict do nothing`
  const [named] = await tx<{ customerId: string }[]>`
    select customer_id from customer where lower(name) = lower(${customer.name})`
  return named!.customerId
}

/** A customer's site by name, made when there is none yet. @returns its id */
export async function siteNamed(
  tx: ShopTx,
  site: Omit<Site, 'customer' | 'address'> & { address?: string; at: Date },
): Promise<string> {
  await tx`
    insert into site (shop_id, site_id, customer_id, name, address, altitude_m, created_at)
    values (current_shop(), ${site.siteId}, ${site.customerId}, ${site.name}, ${site.address ?? ''}, ${site.altitudeM}, ${site.at})
    on conflict do nothing`
  const [named] = await tx<{ siteId: string }[]>`
    select site_id from site where customer_id = ${site.customerId} and lower(name) = lower(${site.name})`
  return named!.siteId
}
