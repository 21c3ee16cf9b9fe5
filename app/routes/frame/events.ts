import { findSession, NotListeningError } from '#db'
import { changeStream } from '~/live/change-stream.server'
import { sessionToken } from '~/session/cookie.server'
import { signedIn } from '~/session/signed-in.server'
import type { Route } from './+types/events'

const HEARTBEAT_MS = 25_000

/** One stream of changes for a browser. The session is looked at again at each heartbeat. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const token = await sessionToken(request)
  try {
    const stream = await changeStream({
      shopId: shop.shopId,
      stillMay: async () => token !== undefined && (await findSession(token)) !== undefined,
      heartbeatMs: HEARTBEAT_MS,
      signal: request.signal,
    })
    return new Response(stream, {
      headers: {
        'content-type': 'text/event-stream',
        'cache-control': 'private, no-store, no-transform',
        'x-accel-buffering': 'no',
      },
    })
  } catch (error) {
    if (!(error instanceof NotListeningError)) throw error
    return new Response(error.message, { status: 503, headers: { 'retry-after': '3' } })
  }
}
