import Joi from 'joi'
import { changeShop, inShop, type Shop } from '#db'
import { readForm, text } from '~/form/read.server'
import { manager } from '~/session/signed-in.server'
import type { Route } from './+types/settings'
import type { Result } from './result'

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
})

export async function changeTheShop({ request, context }: Route.ActionArgs): Promise<Result> {
  const { shop } = manager(context)
  const form = await readForm(request, schema)
  if (form.refused) return form.refused
  await inShop(shop.shopId, (tx) => changeShop(tx, form.value))
  return { done: 'The shop is saved.' }
}
