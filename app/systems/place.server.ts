import { randomUUID } from 'node:crypto'
import { changeAltitude, customerNamed, type ShopTx, siteNamed } from '#db'
import type { ReadSystem } from './fields'

/** Finds or makes customer and site, and notes how high it lies where that was typed. @returns the site's id */
export async function placeOf(
  tx: ShopTx,
  { customer, site, altitudeM }: ReadSystem,
  at: Date,
): Promise<string> {
  const customerId = await customerNamed(tx, { customerId: randomUUID(), name: customer, at })
  const siteId = await siteNamed(tx, {
    siteId: randomUUID(),
    customerId,
    name: site,
    altitudeM: altitudeM ?? 0,
    at,
  })
  if (altitudeM !== undefined) await changeAltitude(tx, siteId, altitudeM)
  return siteId
}
