import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { CHANNELS, type Channel } from '#core/samples'
import { announce, inShop, pairDevice } from '#db'
import { now } from '~/base/session/clock.server'
import { log } from '~/base/session/log.server'
import { addressKey, failed, overLimitOfFailures } from '~/base/session/rate.server'
import { requestFacts } from '~/base/session/request-facts'
import { problem } from '~/api/problem.server'
import type { Route } from './+types/pairings'

const ASKED = Joi.object<{ code: string; name: string; channels: Channel[]; standIn: boolean }>({
  code: Joi.string().trim().min(1).max(40).required(),
  name: Joi.string()
    .trim()
    .min(1)
    .max(80)
    .pattern(/^[^\0]*$/)
    .required(),
  channels: Joi.array()
    .items(Joi.string().valid(...CHANNELS))
    .min(1)
    .max(CHANNELS.length)
    .unique()
    .required(),
  standIn: Joi.boolean().default(false),
}).required()

/** Trades a one-time code for a device and its token. */
export async function action({ request, context }: Route.ActionArgs) {
  const { address, reference } = context.get(requestFacts)
  try {
    if (request.method !== 'POST') return onlyPost()
    const from = addressKey(address)
    const over = await overLimitOfFailures('PAIRING', from)
    if (over) return problem(429, 'Too many at once', over, { headers: { 'retry-after': '60' } })
    const body: unknown = await request.json().catch(() => undefined)
    const { value, error } = ASKED.validate(body)
    if (error)
      return problem(
        422,
        'This is no pairing',
        `Send {"code": "ABCDE-FGHJK", "name": "Van 1", "channels": ["weight", "low", …]}: ${error.message}. Channels are ${CHANNELS.join(', ')}.`,
      )
    const device = {
      deviceId: randomUUID(),
      name: value.name,
      channels: value.channels,
      standIn: value.standIn,
    }
    const paired = await pairDevice(value.code, device, now())
    if (!paired) {
      await failed('PAIRING', from)
      return problem(
        403,
        'This code does not open anything',
        'It is mistyped, was used already, or is older than a quarter of an hour: make a new one under Kit, Live instruments.',
      )
    }
    await inShop(paired.shopId, (tx) => announce(tx, { kind: 'device', id: device.deviceId }))
    return Response.json(
      { deviceId: device.deviceId, token: paired.token, channels: device.channels },
      { status: 201, headers: { 'cache-control': 'no-store' } },
    )
  } catch (error) {
    log.error({ err: error, reference }, 'a device could not be paired')
    return problem(503, 'Not now', 'The code is still good. Try again in a few seconds.', {
      reference,
      headers: { 'retry-after': '3' },
    })
  }
}

export const loader = onlyPost

function onlyPost() {
  return problem(405, 'Only POST', 'A pairing is asked for with POST.', { headers: { allow: 'POST' } })
}
