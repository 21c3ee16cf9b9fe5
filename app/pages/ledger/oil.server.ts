import { inShop, oilLines, type SignedIn } from '#db'
import { todayIn } from '~/base/session/clock.server'
import { spanOf } from './filter.server'

const MOST = 2_000

/** The moves of oil in a span of days, this month without one. */
export async function loadOil({ shop }: SignedIn, search: URLSearchParams) {
  const { from, to, firstDay, lastDay, wrong } = spanOf(search, shop.timeZone, todayIn(shop.timeZone))
  const lines = wrong ? [] : await inShop(shop.shopId, (tx) => oilLines(tx, from, to, MOST))
  return { wrong, firstDay, lastDay, lines, most: MOST, timeZone: shop.timeZone }
}
