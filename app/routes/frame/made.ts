import Joi from 'joi'
import { data } from 'react-router'
import type { Units } from '#core/units'
import {
  addCylinder,
  addSystem,
  bookArrival,
  cylinderOf,
  inShop,
  isCustomer,
  LabelTakenError,
  systemOf,
  type SignedIn,
} from '#db'
import { cylinderFrom } from '~/cylinders/fields'
import { ID } from '~/base/form/id'
import { ownText, type Typed, typedOf } from '~/base/form/read.server'
import type { Made } from '~/device/room/making'
import { now, todayIn } from '~/base/session/clock.server'
import { overLimit } from '~/base/session/rate.server'
import { writer } from '~/base/session/signed-in.server'
import { systemFrom } from '~/systems/fields'
import { placeOf } from '~/systems/place.server'
import type { Route } from './+types/made'

interface Sent {
  kind: 'cylinder' | 'system'
  id: string
  typed: Record<string, string>
  units: Units
  at?: number
}

/** Longer ago than anybody is without signal: that clock was set meanwhile. */
const LONGEST_AGO_MS = 60 * 86_400_000
const LONGEST = 20_000
const unit = Joi.string().max(10).required()
const BATCH = Joi.object<{ userId: string; sentAt?: number; makings: Sent[] }>({
  userId: Joi.string().pattern(ID).required(),
  // Both by the device's own clock.
  sentAt: Joi.number(),
  makings: Joi.array()
    .items(
      Joi.object({
        kind: Joi.string().valid('cylinder', 'system').required(),
        id: Joi.string().pattern(ID).required(),
        typed: Joi.object().pattern(Joi.string().max(60), Joi.string().allow('').max(LONGEST)).required(),
        units: Joi.object().pattern(Joi.string().max(20), unit).required(),
        at: Joi.number(),
      }),
    )
    .min(1)
    .max(50)
    .required(),
}).required()

/** Cylinders and systems that were made on a device without signal, in their order. Sent twice, each is made once. */
export async function action({ request, context }: Route.ActionArgs) {
  const who = writer(context)
  const wait = await overLimit('APPEND', who.person.userId)
  if (wait) throw data(wait, { status: 429, headers: { 'retry-after': '30' } })
  const { value, error } = BATCH.validate(await request.json().catch(() => undefined))
  if (error) throw data('This is no list of what was made.', { status: 400 })
  if (value.userId !== who.person.userId)
    throw data('Somebody else has signed in on this device: this waits for whoever made it.', { status: 409 })
  const made: Made[] = []
  for (const sent of value.makings) {
    const agoMs = Math.max(0, (value.sentAt ?? 0) - (sent.at ?? Infinity))
    const at = new Date(now().getTime() - (agoMs < LONGEST_AGO_MS ? agoMs : 0))
    made.push(await (sent.kind === 'cylinder' ? cylinder : system)(sent, at, who))
  }
  return Response.json({ made })
}

/** As a form would bring it. */
function formOf(typed: Record<string, string>): Typed {
  const form = new FormData()
  for (const [name, value] of Object.entries(typed)) form.append(name, value)
  return typedOf(form)
}

const refused = (id: string, errors: Record<string, string>): Made => ({
  id,
  became: 'refused',
  sentence: Object.values(errors).join(' '),
})

/** More of one label than anybody has. */
const MOST_ALIKE = 50

/** @param at when it was made, by the server's clock */
async function cylinder({ id, typed, units }: Sent, at: Date, { shop, person }: SignedIn): Promise<Made> {
  const read = cylinderFrom(formOf(typed), { units }, todayIn(shop.timeZone), shop.fillMarginPct)
  if (read.refused) return refused(id, read.refused.errors)
  const voucherId = ownText(read.typed, 'voucherId')
  if (read.contentsMg > 0 && !ID.test(voucherId))
    return refused(id, { gross: 'Enter once more what is in it.' })
  for (let nr = 1; nr <= MOST_ALIKE; nr++) {
    const label = nr === 1 ? read.data.label : `${read.data.label.slice(0, 70)} (${nr})`
    try {
      return await inShop(shop.shopId, async (tx): Promise<Made> => {
        const known = await cylinderOf(tx, id)
        if (!known) {
          const owner = read.data.ownerCustomerId
          const ownerCustomerId = owner && (await isCustomer(tx, owner)) ? owner : null
          await addCylinder(tx, id, { ...read.data, label, ownerCustomerId }, at)
          if (read.contentsMg > 0)
            await bookArrival(tx, {
              kind: 'opening',
              voucherId,
              cylinderId: id,
              massMg: read.contentsMg,
              at,
              now: now(),
              userId: person.userId,
              text: '',
            })
        }
        const has = known?.label ?? label
        return has === read.data.label ? { id, became: 'made' } : { id, became: 'renamed', label: has }
      })
    } catch (error) {
      if (!(error instanceof LabelTakenError)) throw error
    }
  }
  return refused(id, { label: 'There are too many with this label: give it another one.' })
}

async function system({ id, typed, units }: Sent, at: Date, { shop }: SignedIn): Promise<Made> {
  const read = systemFrom(formOf(typed), { units })
  if (read.refused) return refused(id, read.refused.errors)
  await inShop(shop.shopId, async (tx) => {
    if (await systemOf(tx, id)) return
    const siteId = await placeOf(tx, read.value, at)
    // What was printed is kept beside what it was taken for.
    const printed = read.value.data.plateText || ownText(read.typed, 'plate').trim()
    await addSystem(tx, id, { ...read.value.data, plateText: printed, siteId }, at)
  })
  return { id, became: 'made' }
}
