import type { ShopTx } from './connection'

export interface Shop {
  shopId: string
  name: string
  /** Printed at the top of labels and reports. */
  heading: string
  timeZone: string
  /** Taken off every fill limit, percent. */
  fillMarginPct: number
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
    select shop_id, name, heading, time_zone, fill_margin_pct from shop where shop_id = current_shop()`
  return shop!
}

export async function changeShop(tx: ShopTx, change: Omit<Shop, 'shopId'>): Promise<void> {
  await tx`update shop set ${tx(change, 'name', 'heading', 'timeZone', 'fillMarginPct')} where shop_id = current_shop()`
}
