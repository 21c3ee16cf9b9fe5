import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import {
  addPerson,
  changePassword,
  changePerson,
  inShop,
  lockedPerson,
  passTokens,
  personOf,
  type Role,
  SignInTakenError,
} from '#db'
import { found } from '~/base/form/ids.server'
import { checkForm, id, optionalId, refuse, text, version } from '~/base/form/read.server'
import { staleForm } from '~/base/form/stale'
import { now } from '~/base/session/clock.server'
import { hashPassword } from '~/base/session/password.server'
import { manager } from '~/base/session/signed-in.server'
import { ROLE_WORDS } from '~/words/en'
import { newPassword } from './own.server'
import type { Result, Sent } from './result'

const role = Joi.string()
  .valid('manager', 'technician', 'trainee')
  .required()
  .messages({ '*': 'Choose a role from the list.' })

const addSchema = Joi.object<{ name: string; signIn: string; role: Role; newPassword: string }>({
  name: text('a name', 200).required(),
  signIn: text('a sign-in name', 200).required(),
  role,
  newPassword,
})

export async function addSomeone({ typed, context }: Sent): Promise<Result> {
  const { shop, person } = manager(context)
  const form = checkForm(typed, addSchema)
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
  ).catch((error: unknown) => {
    // Two asked for the name at the same moment.
    if (error instanceof SignInTakenError) return false
    throw error
  })
  if (!added)
    return refuse(
      { name, signIn, role },
      { signIn: 'Somebody has this sign-in name already: choose another.' },
    )
  return { done: `${name} can sign in as ${signIn}.` }
}

interface Change {
  userId: string
  role: Role
  access: 'open' | 'disabled'
  version: number
  /** To whom their tokens go when they manage the shop no more; none: they end. */
  tokensTo?: string
}

const changeSchema = Joi.object<Change>({
  userId: id,
  role,
  access: Joi.string().valid('open', 'disabled').required(),
  version,
  tokensTo: optionalId,
})

export async function changeSomeone({ typed, context }: Sent): Promise<Result> {
  const { shop } = manager(context)
  const form = checkForm(typed, changeSchema)
  if (form.refused) return form.refused
  const { userId, role, access, tokensTo } = form.value
  return inShop(shop.shopId, async (tx): Promise<Result> => {
    const before = found(await lockedPerson(tx, userId), 'person')
    const was = { role: before.role, access: before.disabled ? 'disabled' : 'open' }
    const stale =
      form.value.version !== before.version &&
      staleForm(typed, { role, access }, was, before.version, inWords)
    if (stale) return stale
    const stillManages = role === 'manager' && access === 'open'
    const heir = tokensTo === undefined ? undefined : await personOf(tx, tokensTo)
    if (tokensTo !== undefined && (heir?.role !== 'manager' || heir.disabled || tokensTo === userId))
      return refuse(typed, { tokensTo: 'Choose another manager from the list.' })
    const changed = await changePerson(tx, userId, {
      role,
      ...(access !== was.access ? { disabledAt: access === 'disabled' ? now() : null } : {}),
    })
    if (!changed)
      return refuse(typed, {
        role: 'That would leave the shop without a manager: make somebody else one first.',
      })
    const passed = stillManages ? 0 : await passTokens(tx, userId, heir?.userId ?? null, now())
    const tokens = passed === 1 ? 'Their token' : `Their ${passed} tokens`
    if (passed === 0) return { done: 'Saved.' }
    return {
      done: heir ? `Saved. ${tokens} passed to ${heir.name}.` : `Saved. ${tokens} ended with it.`,
    }
  })
}

const inWords = (name: string, value: string): string =>
  name === 'role' ? ROLE_WORDS[value as Role] : value === 'open' ? 'may sign in' : 'disabled'

const resetSchema = Joi.object<{ userId: string; newPassword: string }>({ userId: id, newPassword })

export async function resetSomeone({ typed, context }: Sent): Promise<Result> {
  const { shop } = manager(context)
  const form = checkForm(typed, resetSchema)
  if (form.refused) return form.refused
  const hash = await hashPassword(form.value.newPassword)
  await inShop(shop.shopId, async (tx) => {
    found(await personOf(tx, form.value.userId), 'person')
    await changePassword(tx, form.value.userId, hash, null)
  })
  return { done: 'The new password is set, and the person is signed out everywhere.' }
}
