import { inShop, systems } from '#db'
import { signedIn } from '~/base/session/signed-in.server'
import { choiceOf, SYSTEMS_SHOWN } from '~/systems/choice'
import { asked } from '~/base/form/search'
import type { Route } from './+types/find'

/** Systems by a part of their name, site or customer. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = asked(new URL(request.url).searchParams, 'search')
  const list = await inShop(shop.shopId, (tx) => systems(tx, search, SYSTEMS_SHOWN))
  return Response.json({ systems: list.map(choiceOf) })
}
