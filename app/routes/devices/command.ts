import { data } from 'react-router'
import Joi from 'joi'
import { announce, command, inShop, standIns } from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { typedIn } from '~/base/form/read.server'
import { now } from '~/base/session/clock.server'
import { writer } from '~/base/session/signed-in.server'
import type { Route } from './+types/command'

/** What may be asked of a stand-in: a control set, another speed, from the start. The stand-in looks at the rest. */
const ASKED = Joi.object({
  set: Joi.object()
    .pattern(
      Joi.string().pattern(/^[A-Za-z]{1,20}$/),
      Joi.alternatives(
        Joi.boolean().strict(),
        Joi.string()
          .max(20)
          .pattern(/^[a-z-]*$/),
        Joi.number().min(200).max(400),
        Joi.valid(null),
      ),
    )
    .max(12),
  speed: Joi.number().min(1).max(60),
  restart: Joi.boolean().valid(true).strict(),
})
  .xor('set', 'speed', 'restart')
  .required()

/** A hand on a knob of a stand-in. Real instruments have none. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const deviceId = idOf(params.deviceId)
  const typed = await typedIn(request)
  const { value, error } = ASKED.validate(parsed(typed.command))
  if (error) return data({ error: 'The stand-in does not know that: reload the page.' }, { status: 400 })
  await inShop(shop.shopId, async (tx) => {
    found((await standIns(tx, [deviceId]))[0], 'stand-in')
    await command(tx, deviceId, value as object, person.userId, now())
    await announce(tx, { kind: 'device', id: deviceId })
  })
  return { error: undefined }
}

function parsed(text: string | undefined): unknown {
  try {
    return JSON.parse(text ?? '') as unknown
  } catch {
    return undefined
  }
}
