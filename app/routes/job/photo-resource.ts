import { inShop, photoOf } from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/photo-resource'

/** One photo of a job, for whoever may see the job; one that is hidden, for a manager. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const photoId = idOf(params.photoId)
  const jpeg = await inShop(shop.shopId, async (tx) =>
    found(await photoOf(tx, idOf(params.jobId), photoId, { hidden: person.role === 'manager' }), 'photo'),
  )
  // It never changes, but whether it may be seen does: that is asked each time.
  const headers = { etag: `"${photoId}"`, 'cache-control': 'private, no-cache' }
  if (request.headers.get('if-none-match') === headers.etag)
    return new Response(null, { status: 304, headers })
  return new Response(new Uint8Array(jpeg), {
    headers: { ...headers, 'content-type': 'image/jpeg', 'content-disposition': 'inline' },
  })
}
