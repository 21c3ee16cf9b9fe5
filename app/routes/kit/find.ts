import { findKit, inShop, kitAtPlace } from '#db'
import { asked } from '~/base/form/search'
import { jobKit } from '~/kit/as-job-kit'
import { todayIn } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/find'

const FOUND = 12

/** Kit in one place, or whose label has something in it, as a job offers it. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = new URL(request.url).searchParams
  const place = asked(search, 'place', 120)
  const rows = await inShop(shop.shopId, (tx) =>
    place ? kitAtPlace(tx, place) : findKit(tx, asked(search, 'label', 80), FOUND),
  )
  const today = todayIn(shop.timeZone)
  return Response.json({ kit: rows.map((row) => jobKit(row, today)) })
}
