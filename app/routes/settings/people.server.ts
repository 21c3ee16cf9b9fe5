import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { addPerson, changePassword, changePerson, inShop, type Role } from '#db'
import { id, readForm, refuse, text } from '~/form/read.server'
import { now } from '~/session/clock.server'
import { hashPassword } from '~/session/password.server'
import { manager } from '~/session/signed-in.server'
import type { Route } from './+types/settings'
import { newPassword } from './own.server'
import type { Result } from './result'

const role = Joi.string().valid('manager', 'technician', 'trainee').required()

const addSchema = Joi.object<{ name: string; signIn: string; role: Role; newPassword: string }>({
  name: text('a name', 200).required(),
  signIn: text('a sign-in name', 200).required(),
  role,
  newPassword,
})

export async function addSomeone({ request, context }: Route.ActionArgs): Promise<Result> {
  const { shop, person } = manager(context)
  const form = await readForm(request, addSchema)
  if (form.refused) return form.refused
  const { name, signIn, role } = form.value
  const passwordHash = await hashPassword(form.value.newPassword)
  const added = await inShop(shop.shopId, (tx) =>
    addPerson(tx, {
      userId: randomUUID(),
      signIn,
      name,
      role,
      passwordHash,
      preferences: { units: person.preferences.units },
      at: now(),
    }),
  )
  if (!added)
    return refuse(
      { name, signIn, role },
      { signIn: 'Somebody has this sign-in name already: choose another.' },
    )
  return { done: `${name} can sign in as ${signIn}.` }
}

const changeSchema = Joi.object<{ userId: string; role: Role; access: 'open' | 'disabled' }>({
  userId: id,
  role,
  access: Joi.string().valid('open', 'disabled').required(),
})

export async function changeSomeone({ request, context }: Route.ActionArgs): Promise<Result> {
  const { shop } = manager(context)
  const form = await readForm(request, changeSchema)
  if (form.refused) return form.refused
  const { userId, role, access } = form.value
  const changed = await inShop(shop.shopId, (tx) =>
    changePerson(tx, userId, { role, disabledAt: access === 'disabled' ? now() : null }),
  )
  if (!changed)
    return refuse(form.value as never, {
      role: 'That would leave the shop without a manager: make somebody else one first.',
    })
  return { done: 'Saved.' }
}

const resetSchema = Joi.object<{ userId: string; newPassword: string }>({ userId: id, newPassword })

export async function resetSomeone({ request, context }: Route.ActionArgs): Promise<Result> {
  const { shop } = manager(context)
  const form = await readForm(request, resetSchema)
  if (form.refused) return form.refused
  const hash = await hashPassword(form.value.newPassword)
  await inShop(shop.shopId, (tx) => changePassword(tx, form.value.userId, hash, null))
  return { done: 'The new password is set, and the person is signed out everywhere.' }
}
