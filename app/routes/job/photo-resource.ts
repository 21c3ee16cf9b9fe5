import { inShop, photoOf } from '#db'
import { found, idOf } from '~/form/ids.server'
import { signedIn } from '~/session/signed-in.server'
import type { Route } from './+types/photo-resource'

/** One photo of a job, for whoever may see the job. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const jpeg = await inShop(shop.shopId, async (tx) =>
    found(await photoOf(tx, idOf(params.jobId), idOf(params.photoId)), 'photo'),
  )
  return new Response(new Uint8Array(jpeg), {
    headers: {
      'content-type': 'image/jpeg',
      'content-disposition': 'inline',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  })
}
