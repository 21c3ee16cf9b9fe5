import Joi from 'joi'
import { CHANNEL_FACTS, type Channel, CHANNELS } from '#core/samples'
import {
  addPairingCode,
  announce,
  devices,
  freshPairingCode,
  inShop,
  letInAgain,
  moveChannel,
  onePiece,
  renameDevice,
  revokeDevice,
  type ShopTx,
} from '#db'
import { checkForm, id, refuse, type Refused, text, type Typed } from '~/base/form/read.server'
import { now } from '~/base/session/clock.server'
import { CHANNEL_WORDS } from '~/words/en'

export interface Sent {
  typed: Typed
  shopId: string
  userId: string
}

export type Result = Refused | { done: string; code?: string; until?: Date }

/** A one-time code, shown this once. */
export async function makeCode({ shopId, userId }: Sent): Promise<Result> {
  const code = freshPairingCode()
  const until = await inShop(shopId, (tx) => addPairingCode(tx, code, userId, now()))
  return { done: 'Type it into the gateway. It opens once, and is not shown again.', code, until }
}

const renameSchema = Joi.object<{ deviceId: string; name: string }>({
  deviceId: id,
  name: text('a name for the device, such as Van 1', 80).required(),
})

export async function rename({ typed, shopId }: Sent): Promise<Result> {
  const form = checkForm(typed, renameSchema)
  if (form.refused) return form.refused
  await changed(shopId, form.value.deviceId, (tx) => renameDevice(tx, form.value.deviceId, form.value.name))
  return { done: `It is called ${form.value.name} now.` }
}

const moveSchema = Joi.object<{ deviceId: string; channel: Channel; kitId: string }>({
  deviceId: id,
  channel: Joi.string()
    .valid(...CHANNELS)
    .required(),
  kitId: id.allow('').optional(),
})

/** A channel is another piece of kit from now on. */
export async function move({ typed, shopId }: Sent): Promise<Result> {
  const form = checkForm(typed, moveSchema)
  if (form.refused) return form.refused
  const { deviceId, channel } = form.value
  const kitId = form.value.kitId || null
  const refused = await inShop(shopId, async (tx): Promise<Refused | undefined> => {
    const device = (await devices(tx)).find((each) => each.deviceId === deviceId && !each.revokedAt)
    if (!device?.channels.some((each) => each.channel === channel))
      return refuse(typed, { kitId: 'This device is not in force any more: reload the page.' })
    const piece = kitId ? await onePiece(tx, kitId) : undefined
    if (kitId && (!piece || piece.state === 'retired' || !CHANNEL_FACTS[channel].kit.includes(piece.kind)))
      return refuse(typed, {
        kitId: `A ${CHANNEL_WORDS[channel]} channel cannot be that: choose another piece.`,
      })
    await moveChannel(tx, { deviceId, channel, kitId }, now())
    await announce(tx, { kind: 'device', id: deviceId })
    return undefined
  })
  return refused ?? { done: 'Moved. What it said before stays where it was.' }
}

const revokeSchema = Joi.object<{ deviceId: string }>({ deviceId: id })

export async function revoke({ typed, shopId }: Sent): Promise<Result> {
  const form = checkForm(typed, revokeSchema)
  if (form.refused) return form.refused
  let was = false
  await changed(shopId, form.value.deviceId, async (tx) => {
    was = await revokeDevice(tx, form.value.deviceId, now())
  })
  return { done: was ? 'It is not let in any more. What it has sent stays.' : 'It was revoked already.' }
}

/** One that a restore holds: somebody has looked, and it may come in. */
export async function letIn({ typed, shopId }: Sent): Promise<Result> {
  const form = checkForm(typed, revokeSchema)
  if (form.refused) return form.refused
  let was = false
  await changed(shopId, form.value.deviceId, async (tx) => {
    was = await letInAgain(tx, form.value.deviceId)
  })
  return { done: was ? 'It is let in again.' : 'It was let in, or revoked, already: reload the page.' }
}

const changed = (shopId: string, deviceId: string, work: (tx: ShopTx) => Promise<void>) =>
  inShop(shopId, async (tx) => {
    await work(tx)
    await announce(tx, { kind: 'device', id: deviceId })
  })
