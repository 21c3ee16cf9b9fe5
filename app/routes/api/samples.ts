import { countRefused, inShop, type RefusedSample, takeSamples } from '#db'
import { deviceCall, noDevice } from '~/samples/device.server'
import { now } from '~/session/clock.server'
import { log } from '~/session/log.server'
import { requestFacts } from '~/session/request-facts'
import { problem } from '~/slide-rule/problem.server'
import { SAMPLE_PROBLEM_WORDS } from '~/wording/en/samples'
import type { Route } from './+types/samples'

const MOST = 1_000

/** A batch of samples of one device: `{"samples": [{"channel": "weight", "seq": 1, "at": "…Z", "value": 12.105}, …]}`. */
export async function action({ request, context }: Route.ActionArgs) {
  const { address, reference } = context.get(requestFacts)
  try {
    if (request.method !== 'POST') return onlyPost()
    const device = await deviceCall(request, address)
    if (device instanceof Response) return device
    const { shopId, deviceId } = device
    const samples = await samplesIn(request)
    if (typeof samples === 'string') {
      const counted = await inShop(shopId, (tx) => countRefused(tx, deviceId, samples, now()))
      return counted ? problem(422, 'This is no batch', samples) : noDevice()
    }
    const taken = await takeSamples(shopId, deviceId, samples, now())
    if (!taken) return noDevice()
    const { accepted, known, refused } = taken
    if (refused.length === 0)
      return Response.json({ accepted, known }, { headers: { 'cache-control': 'no-store' } })
    return notAll(accepted, known, refused, samples.length)
  } catch (error) {
    log.error({ err: error, reference }, 'a batch of samples was not taken')
    return problem(
      503,
      'Not now',
      'Nothing of this batch was taken. Send the same batch again in a few seconds.',
      {
        reference,
        headers: { 'retry-after': '3' },
      },
    )
  }
}

export const loader = onlyPost

function onlyPost() {
  return problem(405, 'Only POST', 'Samples are sent with POST.', { headers: { allow: 'POST' } })
}

/** Item by item; the good ones are kept. Those named here need not be sent again. */
function notAll(accepted: number, known: number, refused: RefusedSample[], sent: number): Response {
  const errors = refused.map(({ index, problem: code }) => ({
    index,
    code,
    sentence: SAMPLE_PROBLEM_WORDS[code],
  }))
  const none = refused.length === sent
  return Response.json(
    {
      type: 'about:blank',
      title: none ? 'None of these samples can be taken' : 'Some of these samples cannot be taken',
      status: none ? 422 : 207,
      detail: errors[0]!.sentence,
      accepted,
      known,
      errors,
    },
    { status: none ? 422 : 207, headers: { 'content-type': 'application/problem+json' } },
  )
}

/** @returns the samples, or a sentence */
async function samplesIn(request: Request): Promise<unknown[] | string> {
  let body: unknown
  try {
    body = await request.json()
  } catch {
    return 'The body is not JSON.'
  }
  const samples = typeof body === 'object' && body !== null && 'samples' in body ? body.samples : undefined
  if (!Array.isArray(samples)) return 'The body is an object with a list: {"samples": [ … ]}.'
  if (samples.length > MOST) return `A batch has at most ${MOST} samples; this one has ${samples.length}.`
  return samples
}
