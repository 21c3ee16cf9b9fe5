import { findSession, NotListeningError } from '#db'
import { changeStream } from '~/device/news/change-stream.server'
import { sessionToken } from '~/base/session/cookie.server'
import { isId } from '~/base/form/id'
import { requestFacts } from '~/base/session/request-facts'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/events'

const HEARTBEAT_MS = 25_000

/** One stream of changes for a browser. The session is looked at again at each heartbeat. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const token = await sessionToken(request)
  try {
    const stream = await changeStream({
      shopId: shop.shopId,
      userId: person.userId,
      devices: devicesIn(request),
      stillMay: async () => token !== undefined && (await findSession(token)) !== undefined,
      heartbeatMs: HEARTBEAT_MS,
      build: context.get(requestFacts).build,
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

/** One screen shows few instruments; a browser's tabs together some more. */
const MOST_DEVICES = 24

/** `?devices=ID:BATCH,ID`: a stream that the browser itself opens again says how far it came in a header. */
function devicesIn(request: Request): Map<string, number | undefined> {
  const asked = new URL(request.url).searchParams.get('devices') ?? ''
  const devices = new Map(read(asked))
  for (const [deviceId, batch] of read(request.headers.get('last-event-id') ?? ''))
    if (devices.has(deviceId)) devices.set(deviceId, batch)
  return devices
}

function read(text: string): [string, number | undefined][] {
  return text
    .split(',')
    .slice(0, MOST_DEVICES)
    .flatMap((each): [string, number | undefined][] => {
      const [deviceId, batch] = each.split(':')
      if (!isId(deviceId)) return []
      const number = Number(batch ?? NaN)
      return [[deviceId, Number.isSafeInteger(number) && number >= 0 ? number : undefined]]
    })
}
