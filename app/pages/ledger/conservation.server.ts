import { refrigerant as factsOf } from '#core/refrigerants'
import { type Conservation, conservationOf } from '#core/ledger'
import { differencesByCause, flows, heldAt, inShop, type SignedIn, unbalanced } from '#db'
import { todayIn } from '~/base/session/clock.server'
import { spanOf } from './filter.server'

export interface ShownGas extends Conservation {
  gwp: number | null
}

/** Start, what came, what went and the end of each gas between two days, counted apart. */
export async function loadConservation({ shop }: SignedIn, search: URLSearchParams) {
  const today = todayIn(shop.timeZone)
  const asked = new URLSearchParams(search)
  // Without days: this year.
  if (!asked.get('from') && !asked.get('to') && !asked.get('month')) {
    asked.set('from', `${today.slice(0, 4)}-01-01`)
    asked.set('to', today)
  }
  const { from, to, firstDay, lastDay, wrong } = spanOf(asked, shop.timeZone, today)
  const [moved, start, end, off, differences] = await inShop(shop.shopId, (tx) =>
    Promise.all([
      flows(tx, from, to),
      heldAt(tx, from),
      heldAt(tx, to),
      unbalanced(tx),
      differencesByCause(tx, from, to),
    ]),
  )
  return {
    wrong,
    firstDay,
    lastDay,
    today,
    gases: conservationOf(moved, start, end).map((line): ShownGas => ({
      ...line,
      gwp: line.refrigerant ? factsOf(line.refrigerant).gwp : null,
    })),
    off,
    differences,
  }
}
