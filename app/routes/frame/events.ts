import { findSession, onChange } from '#db'
import { sessionToken } from '~/session/cookie.server'
import { signedIn } from '~/session/signed-in.server'
import type { Route } from './+types/events'

const HEARTBEAT_MS = 25_000

/** One stream of changes for a browser: ids only. The session is looked at again at each heartbeat. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const token = await sessionToken(request)
  let end = () => {}
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const bytes = new TextEncoder()
      const send = (text: string) => controller.enqueue(bytes.encode(text))
      const stop = await onChange(shop.shopId, (change) => send(`data: ${JSON.stringify(change)}\n\n`))
      const beat = setInterval(async () => {
        const alive = token && (await findSession(token).catch(() => undefined))
        if (alive) send(': beat\n\n')
        else finish()
      }, HEARTBEAT_MS)
      end = () => {
        clearInterval(beat)
        stop()
        end = () => {}
      }
      const finish = () => {
        end()
        controller.close()
      }
      request.signal.addEventListener('abort', () => end())
      send('retry: 3000\n\n')
    },
    cancel: () => end(),
  })
  return new Response(stream, {
    headers: {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      'x-accel-buffering': 'no',
    },
  })
}
