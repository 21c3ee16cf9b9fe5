import { refrigerant as factsOf } from '#core/refrigerants'
import { type SheetLine, sheetOf, sheetTotal } from '#core/ledger'
import { inShop, sheetRows, stockAt } from '#db'
import type { SignedIn } from '#db'
import { todayIn } from '~/base/session/clock.server'
import { spanOf } from './filter.server'

/** A line with the factor that makes tonnes of CO2 of its kilograms; null: a gas without one. */
export interface ShownLine extends SheetLine {
  gwp: number | null
}

/** The sheet of a month, or of any days, as an address asks for it. */
export async function loadSheet({ shop }: SignedIn, search: URLSearchParams) {
  const today = todayIn(shop.timeZone)
  const { from, to, firstDay, lastDay, wrong } = spanOf(search, shop.timeZone, today)
  const [rows, start] = await inShop(shop.shopId, (tx) =>
    Promise.all([sheetRows(tx, from, to), stockAt(tx, from)]),
  )
  const lines = sheetOf(rows, start)
  return {
    wrong,
    firstDay,
    lastDay,
    today,
    lines: lines.map((line): ShownLine => ({
      ...line,
      gwp: line.refrigerant ? factsOf(line.refrigerant).gwp : null,
    })),
    total: sheetTotal(lines),
    heading: shop.heading,
    shopName: shop.name,
    timeZone: shop.timeZone,
  }
}
