import { callingIn } from '~/alarms/read.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/alarms'

/** What calls in the jobs of the shop. */
export async function loader({ context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  return Response.json({ alarms: await callingIn(shop.shopId, person.userId) })
}
