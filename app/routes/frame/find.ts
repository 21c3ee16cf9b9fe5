import { findCylinders, findJobs, findKit, inShop, systems } from '#db'
import { asked } from '~/base/form/search'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/find'
import { type Found, foundRows, OF_EACH, pageIn, toolsLike } from '~/pages/frame/found'

/** Tools, cylinders, systems and jobs by a few letters. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = asked(new URL(request.url).searchParams, 'q', 200)
  const tools = toolsLike(search)
  const page = pageIn(search)
  if (page) return Response.json({ search, found: [page] })
  if (search === '') return Response.json({ search, found: tools })
  const found = await inShop(shop.shopId, async (tx): Promise<Found[]> => {
    const [cylinders, kit, plants, jobs] = await Promise.all([
      findCylinders(tx, search),
      findKit(tx, search, OF_EACH),
      systems(tx, search, OF_EACH),
      findJobs(tx, search, OF_EACH),
    ])
    return foundRows({ cylinders: cylinders.slice(0, OF_EACH), kit, systems: plants, jobs })
  })
  return Response.json({ search, found: [...tools.slice(0, OF_EACH), ...found] })
}
