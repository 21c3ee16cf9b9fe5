import { data } from 'react-router'
import { inShop, jobHead, keepPhoto, line, lines } from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { PhotoError, smallerPhoto } from '~/photos/smaller.server'
import { now } from '~/base/session/clock.server'
import { overLimit } from '~/base/session/rate.server'
import { signedIn, writer } from '~/base/session/signed-in.server'
import type { Route } from './+types/photos-resource'

/** A photo comes as slowly as its signal is: so many are on their way in at once, two of a person; what waits is unread. */
const arriving = line({ atOnce: 12, most: 120, ms: 120_000 })
const arrivingOf = lines({ atOnce: 2, most: 60, ms: 120_000 })

/** Takes one photo in; the tape says afterwards what is on it. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = signedIn(context)
  // Whoever was demoted meanwhile may have taken it before: whether its note is taken decides.
  if (!person.wroteUntil) writer(context)
  const jobId = idOf(params.jobId)
  const over = await overLimit('PHOTO', person.userId)
  if (over) throw data(over, { status: 429, headers: { 'retry-after': '60' } })
  await inShop(shop.shopId, async (tx) => found(await jobHead(tx, jobId), 'job'))
  return arrivingOf(person.userId, () =>
    arriving(() => take(request, { shopId: shop.shopId, userId: person.userId, jobId })),
  )
}

async function take(
  request: Request,
  { shopId, userId, jobId }: { shopId: string; userId: string; jobId: string },
) {
  const form = await request.formData().catch(() => undefined)
  // Of whoever was here before: it waits for them. A page of an older Keg does not say.
  const by = form?.get('userId')
  if (typeof by === 'string' && by !== userId)
    throw data('Somebody else has signed in on this device: this photo waits for whoever took it.', {
      status: 409,
    })
  const file = form?.get('photo')
  const photoId = form?.get('photoId')
  if (!(file instanceof File) || typeof photoId !== 'string')
    throw data('No photo came: choose one, or take one.', { status: 400 })
  const id = idOf(photoId)
  try {
    const smaller = await smallerPhoto(file)
    const kept = await inShop(shopId, (tx) =>
      keepPhoto(tx, { photoId: id, jobId, userId, at: now(), ...smaller }),
    )
    if (!kept) throw data('This photo is in another job already.', { status: 422 })
    return Response.json({ photoId: id, width: smaller.width, height: smaller.height })
  } catch (error) {
    if (error instanceof PhotoError) throw data(error.message, { status: 422 })
    throw error
  }
}
