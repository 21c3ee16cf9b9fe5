import { findCylinders, inShop } from '#db'
import { isId } from '~/form/ids.server'
import { signedIn } from '~/session/signed-in.server'
import { asked } from '~/form/search.server'
import type { Route } from './+types/find'

/** Cylinders by a part of their label, as a job sees them. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = new URL(request.url).searchParams
  const job = search.get('job') ?? undefined
  const cylinders = await inShop(shop.shopId, (tx) =>
    findCylinders(tx, asked(search, 'label', 80), isId(job) ? job : null),
  )
  return Response.json({ cylinders: cylinders.map((c) => ({ ...c, beforeMg: c.balanceMg })) })
}
