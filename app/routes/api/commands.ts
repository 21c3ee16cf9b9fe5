import { type Change, commandsAfter, onChange } from '#db'
import { deviceCall } from '~/samples/device.server'
import { log } from '~/base/session/log.server'
import { requestFacts } from '~/base/session/request-facts'
import { problem } from '~/api/problem.server'
import type { Route } from './+types/commands'

/** Longest wait for something to do, seconds; what stands between keeps a connection at least as long. */
const LONGEST_S = 25

/**
 * What a device is asked to do, after the number it has: answered at once when there is something, else when there is, or
 * after the wait with an empty list. So the server never reaches into a shop's network.
 */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { address, reference } = context.get(requestFacts)
  try {
    const device = await deviceCall(request.headers.get('authorization'), address, params.deviceId)
    if (device instanceof Response) return device
    const { shopId, deviceId } = device
    const asked = new URL(request.url).searchParams
    const after = Number(asked.get('after') ?? 0)
    const wait = Number(asked.get('wait') ?? LONGEST_S)
    if (!Number.isSafeInteger(after) || after < 0 || !(wait >= 0))
      return problem(
        422,
        'What is asked is not clear',
        '"after" is the number of the last command, "wait" is in seconds.',
      )
    const look = () => device.within((tx) => commandsAfter(tx, deviceId, after))
    const bell = await ring(shopId, deviceId, request.signal)
    try {
      let found = await look()
      if (Array.isArray(found) && found.length === 0 && wait > 0) {
        await bell.wait(Math.min(wait, LONGEST_S) * 1_000)
        found = await look()
      }
      if (found instanceof Response) return found
      return Response.json({ commands: found }, { headers: { 'cache-control': 'no-store' } })
    } finally {
      bell.stop()
    }
  } catch (error) {
    log.error({ err: error, reference }, 'a device could not be told what to do')
    return problem(503, 'Not now', 'Ask again in a few seconds.', {
      reference,
      headers: { 'retry-after': '3' },
    })
  }
}

export function action() {
  return problem(405, 'Only GET', 'Commands are asked for with GET.', { headers: { allow: 'GET, HEAD' } })
}

/** Listens from before the first look, so that nothing is made between look and wait. */
async function ring(shopId: string, deviceId: string, signal: AbortSignal) {
  let rang = false
  let wake = () => {}
  const stop = await onChange(shopId, (change: Change) => {
    if (change.kind === 'refetch' || (change.kind === 'device' && change.id === deviceId)) {
      rang = true
      wake()
    }
  })
  return {
    stop,
    wait: (ms: number) =>
      rang
        ? Promise.resolve()
        : new Promise<void>((resolve) => {
            const timer = setTimeout(resolve, ms)
            wake = () => {
              clearTimeout(timer)
              resolve()
            }
            signal.addEventListener('abort', () => wake(), { once: true })
          }),
  }
}
