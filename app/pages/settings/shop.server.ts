import Joi from 'joi'
import { changeShop, inShop, lockedShop, type Shop } from '#db'
import { checkForm, text, version } from '~/base/form/read.server'
import { staleForm } from '~/base/form/stale'
import { manager } from '~/base/session/signed-in.server'
import { type Result, type Sent, shopFields } from './result'

const schema = Joi.object<Omit<Shop, 'shopId'>>({
  name: text('the name of the shop', 200).required(),
  heading: text('what stands at the top of labels and reports', 500).default(''),
  timeZone: Joi.string()
    .valid('UTC', ...Intl.supportedValuesOf('timeZone'))
    .required()
    .messages({ '*': 'Choose a time zone from the list, such as Europe/Lisbon.' }),
  fillMarginPct: Joi.number().integer().min(0).max(30).required().messages({
    '*': 'Enter whole percent, 0 to 30.',
  }),
  sampleDays: Joi.number().integer().min(1).max(3650).required().messages({
    '*': 'Enter whole days, 1 to 3650.',
  }),
  version,
})

export async function changeTheShop({ typed, context }: Sent): Promise<Result> {
  const { shop } = manager(context)
  const form = checkForm(typed, schema)
  if (form.refused) return form.refused
  const stale = await inShop(shop.shopId, async (tx) => {
    const now = await lockedShop(tx)
    const stale =
      form.value.version !== now.version &&
      staleForm(typed, shopFields(form.value), shopFields(now), now.version)
    if (stale) return stale
    await changeShop(tx, form.value)
    return undefined
  })
  if (stale) return stale
  return { done: 'The shop is saved.' }
}
