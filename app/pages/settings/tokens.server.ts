import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { addApiToken, freshToken, inShop, revokeApiToken, type Scope } from '#db'
import { id, checkForm, text, ticked } from '~/base/form/read.server'
import { now } from '~/base/session/clock.server'
import { manager } from '~/base/session/signed-in.server'
import type { Result, Sent } from './result'

const addSchema = Joi.object<{ tokenName: string; cylinders: boolean }>({
  tokenName: text('what the token is for, such as van display', 100).required(),
  cylinders: ticked,
})

/** The token is shown this once: only a hash of it is kept. */
export async function makeToken({ typed, context }: Sent): Promise<Result> {
  const { shop, person } = manager(context)
  const form = checkForm(typed, addSchema)
  if (form.refused) return form.refused
  const { tokenName: name, cylinders } = form.value
  const scopes: Scope[] = cylinders ? ['calc', 'cylinders'] : ['calc']
  const token = freshToken()
  await inShop(shop.shopId, (tx) =>
    addApiToken(tx, token, { tokenId: randomUUID(), name, scopes, madeBy: person.userId, at: now() }),
  )
  return { done: `The token “${name}” is made. Copy it now: it is not shown again.`, token }
}

const revokeSchema = Joi.object<{ tokenId: string }>({ tokenId: id })

export async function revokeToken({ typed, context }: Sent): Promise<Result> {
  const { shop } = manager(context)
  const form = checkForm(typed, revokeSchema)
  if (form.refused) return form.refused
  const revoked = await inShop(shop.shopId, (tx) => revokeApiToken(tx, form.value.tokenId, now()))
  return {
    done: revoked ? 'The token is revoked: it opens nothing any more.' : 'That token was revoked already.',
  }
}
