import { announce, keepState } from '#db'
import { deviceCall } from '~/samples/device.server'
import { log } from '~/base/session/log.server'
import { requestFacts } from '~/base/session/request-facts'
import { problem } from '~/api/problem.server'
import type { Route } from './+types/state'

const LARGEST = 4_000

/** How a stand-in's knobs stand: a small object of its own making. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { address, reference } = context.get(requestFacts)
  try {
    if (request.method !== 'PUT') return onlyPut()
    const device = await deviceCall(request.headers.get('authorization'), address, params.deviceId)
    if (device instanceof Response) return device
    const { deviceId } = device
    const text = await request.text()
    const state = text.length <= LARGEST && !text.includes('\\u0000') ? parsed(text) : undefined
    if (!state)
      return problem(422, 'This is no state', `Send a JSON object of at most ${LARGEST} characters.`)
    return await device.within(async (tx) => {
      await keepState(tx, deviceId, state)
      await announce(tx, { kind: 'device', id: deviceId })
      return new Response(null, { status: 204 })
    })
  } catch (error) {
    log.error({ err: error, reference }, 'the state of a device was not kept')
    return problem(503, 'Not now', 'Send it again in a few seconds.', {
      reference,
      headers: { 'retry-after': '3' },
    })
  }
}

export const loader = onlyPut

function onlyPut() {
  return problem(405, 'Only PUT', 'A state is sent with PUT.', { headers: { allow: 'PUT' } })
}

function parsed(text: string): object | undefined {
  try {
    const value: unknown = JSON.parse(text)
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return undefined
    // Half a character is no text that a database keeps; whole ones are written out, so that only halves are left as escapes.
    return /\\ud[89a-f]/i.test(JSON.stringify(value)) ? undefined : value
  } catch {
    return undefined
  }
}
