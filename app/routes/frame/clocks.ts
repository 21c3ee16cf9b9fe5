import { inShop, jobsWithClocks } from '#db'
import { now } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/clocks'

/** What runs against the clock in the jobs of the shop, and what time it is here. */
export async function loader({ context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  return Response.json({ now: now().getTime(), jobs: await inShop(shop.shopId, (tx) => jobsWithClocks(tx)) })
}
