import type { ShopTx } from './connection'
import { lock } from './locks'

export interface Shop {
  shopId: string
  /** Rises with every change: a form that was opened with an older one is out of date. */
  version: number
  name: string
  /** Printed at the top of labels and reports. */
  heading: string
  timeZone: string
  /** Taken off every fill limit, percent. */
  fillMarginPct: number
  /** What live instruments said is kept whole for so many days, 1 to 3650; with a job for ever. */
  sampleDays: number
}

/** The first rows of a new shop. */
export async function foundShop(
  tx: ShopTx,
  shop: Pick<Shop, 'shopId' | 'name' | 'timeZone'> & { at: Date },
): Promise<void> {
  await tx`
    insert into shop (shop_id, name, heading, time_zone, created_at)
    values (${shop.shopId}, ${shop.name}, ${shop.name}, ${shop.timeZone}, ${shop.at})`
}

/** The shop of this transaction. */
export async function readShop(tx: ShopTx): Promise<Shop> {
  const [shop] = await tx<Shop[]>`
    select shop_id, version, name, heading, time_zone, fill_margin_pct, sample_days from shop where shop_id = current_shop()`
  return shop!
}

/** @returns the shop as it is now, and stays until this transaction ends */
export async function lockedShop(tx: ShopTx): Promise<Shop> {
  await lock(tx, { shop: true })
  return readShop(tx)
}

/** The caller holds the shop's lock. */
export async function changeShop(tx: ShopTx, change: Omit<Shop, 'shopId' | 'version'>): Promise<void> {
  await tx`update shop set ${tx(change, 'name', 'heading', 'timeZone', 'fillMarginPct', 'sampleDays')} where shop_id = current_shop()`
}
