import { countRefused, type RefusedSample, takeSamples } from '#db'
import { now } from '~/base/session/clock.server'
import { log } from '~/base/session/log.server'
import { problem } from '~/api/problem.server'
import { SAMPLE_PROBLEM_WORDS } from '~/words/en'
import { deviceCall, noDevice } from './device.server'

const MOST = 1_000

/** As it came over the wire. */
interface Posted {
  authorization: string | null
  address: string
  /** Names the request in the log. */
  reference: string
  /** The body as text: `{"samples": [{"channel": "weight", "seq": 1, "at": "…Z", "value": 12.105}, …]}`. */
  text: string
}

/** Takes a batch of samples of one device. @returns what was taken when all of it was, else the answer in full */
export async function answerBatch(posted: Posted): Promise<{ accepted: number; known: number } | Response> {
  const { authorization, address, reference } = posted
  try {
    const device = await deviceCall(authorization, address)
    if (device instanceof Response) return device
    const { shopId, deviceId } = device
    const samples = samplesIn(posted.text)
    if (typeof samples === 'string') {
      return await device.within(async (tx) => {
        await countRefused(tx, deviceId, samples, now())
        return problem(422, 'This is no batch', samples)
      })
    }
    // It looks whether the device is in force under the lock that numbers its batches.
    const taken = await takeSamples(shopId, deviceId, samples, now())
    if (!taken) return noDevice()
    const { accepted, known, refused } = taken
    return refused.length === 0 ? { accepted, known } : notAll(accepted, known, refused, samples.length)
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

export const onlyPost = () =>
  problem(405, 'Only POST', 'Samples are sent with POST.', { headers: { allow: 'POST' } })

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
function samplesIn(text: string): unknown[] | string {
  let body: unknown
  try {
    body = JSON.parse(text)
  } catch {
    return 'The body is not JSON.'
  }
  const samples = typeof body === 'object' && body !== null && 'samples' in body ? body.samples : undefined
  if (!Array.isArray(samples)) return 'The body is an object with a list: {"samples": [ … ]}.'
  if (samples.length > MOST) return `A batch has at most ${MOST} samples; this one has ${samples.length}.`
  return samples
}
