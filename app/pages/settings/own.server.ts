import Joi from 'joi'
import { changePassword, changePreferences, hashOf, inShop, lockedPerson, passwordHashOf } from '#db'
import { found } from '~/base/form/ids.server'
import { checkForm, refuse, text, version } from '~/base/form/read.server'
import { staleForm } from '~/base/form/stale'
import { sessionToken } from '~/base/session/cookie.server'
import { hashPassword, LEAST_PASSWORD_LENGTH, passwordFits } from '~/base/session/password.server'
import { type Preferences, preferencesOf } from '~/base/session/preferences'
import { overLimit } from '~/base/session/rate.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Result, Sent } from './result'

const unitsSchema = Joi.object({
  weight: Joi.string().valid('kg', 'lb-oz').required(),
  pressure: Joi.string().valid('bar', 'psi').required(),
  vacuum: Joi.string().valid('micron', 'Pa').required(),
  temperature: Joi.string().valid('C', 'F').required(),
  length: Joi.string().valid('m', 'ft').required(),
  oil: Joi.string().valid('mL', 'fl oz').required(),
  theme: Joi.string().valid('auto', 'light', 'dark').required(),
  van: text('your van', 120).default(''),
  notify: Joi.string().valid('outside', 'page').default('outside'),
  version,
}).messages({ '*': 'Choose from the list.' })

export async function changeOwnUnits({ typed, context }: Sent): Promise<Result> {
  const { shop, person } = signedIn(context)
  const form = checkForm(typed, unitsSchema)
  if (form.refused) return form.refused
  const {
    theme,
    van,
    notify,
    version: opened,
    ...units
  } = form.value as Preferences['units'] &
    Pick<Preferences, 'theme' | 'van'> & { notify: 'outside' | 'page'; version: number }
  const stale = await inShop(shop.shopId, async (tx) => {
    const now = found(await lockedPerson(tx, person.userId), 'person')
    const known = preferencesOf(now.preferences)
    const stale =
      opened !== now.version &&
      staleForm(
        typed,
        { ...units, theme, van, notify },
        {
          ...known.units,
          theme: known.theme,
          van: known.van,
          notify: known.notify ? 'outside' : 'page',
        },
        now.version,
      )
    if (stale) return stale
    await changePreferences(tx, person.userId, { units, theme, van, notify: notify === 'outside' })
    return undefined
  })
  if (stale) return stale
  return { done: 'Your units and your look are saved.' }
}

export const newPassword = Joi.string()
  .min(LEAST_PASSWORD_LENGTH)
  .max(500)
  .empty('')
  .required()
  .messages({
    'any.required': 'Enter a new password.',
    '*': `Choose a password of at least ${LEAST_PASSWORD_LENGTH} characters.`,
  })

const passwordSchema = Joi.object<{ oldPassword: string; newPassword: string }>({
  oldPassword: Joi.string()
    .max(500)
    .empty('')
    .required()
    .messages({ '*': 'Enter the password you have now.' }),
  newPassword,
})

export async function changeOwnPassword({ typed, context, request }: Sent): Promise<Result> {
  const { shop, person } = signedIn(context)
  const form = checkForm(typed, passwordSchema)
  if (form.refused) return form.refused
  const wait = await overLimit('SIGN_IN', `password of ${person.userId}`)
  if (wait) return refuse({}, { oldPassword: wait })
  const known = await inShop(shop.shopId, (tx) => passwordHashOf(tx, person.userId))
  if (!(await passwordFits(form.value.oldPassword, known)))
    return refuse({}, { oldPassword: 'This is not the password you have now: type it again.' })
  const hash = await hashPassword(form.value.newPassword)
  const token = await sessionToken(request)
  await inShop(shop.shopId, (tx) => changePassword(tx, person.userId, hash, token ? hashOf(token) : null))
  return { done: 'Your password is changed. You are signed out everywhere else.' }
}
