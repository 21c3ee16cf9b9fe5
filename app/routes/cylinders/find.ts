import { findCylinders, inShop } from '#db'
import { tileOf } from '~/cylinders/tile'
import { isId } from '~/base/form/ids.server'
import { todayIn } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import { asked } from '~/base/form/search'
import type { Route } from './+types/find'

/** Cylinders whose label is like what was typed, as a job sees them, or as tiles to tap. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = new URL(request.url).searchParams
  const job = search.get('job') ?? undefined
  const cylinders = await inShop(shop.shopId, (tx) =>
    findCylinders(tx, asked(search, 'label', 80), isId(job) ? job : null),
  )
  if (search.get('as') !== 'tiles')
    return Response.json({ cylinders: cylinders.map((c) => ({ ...c, beforeMg: c.balanceMg })) })
  const today = todayIn(shop.timeZone)
  return Response.json({
    tiles: cylinders
      .filter((c) => c.kind === 'recovery' || c.kind === 'station')
      .map((c) => tileOf(c, today, shop.fillMarginPct)),
  })
}
