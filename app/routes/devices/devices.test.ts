import { randomUUID } from 'node:crypto'
import { afterAll, expect, it } from 'vitest'
import { addDevice, closeDatabase, devices, inShop } from '#db'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { aShop } from '../../../testing/a-shop'
import { action } from './devices'

afterAll(closeDatabase)

it('an act that nobody knows is refused in words, whatever it is called', async () => {
  const shop = await aShop()
  const context = await letIn(shop, 'manager')
  for (const act of ['', 'sell', '__proto__', 'constructor', 'toString', 'hasOwnProperty']) {
    const { status } = await answered(
      action({ request: sendForm({ act, deviceId: randomUUID() }), context, params: {} } as never),
    )
    expect(status, act).toBe(400)
  }
})

it('another shop’s device is nobody’s here: it is not renamed, moved or revoked', async () => {
  const [mine, theirs] = [await aShop(), await aShop()]
  const deviceId = randomUUID()
  await inShop(theirs.shopId, (tx) =>
    addDevice(
      tx,
      { deviceId, name: 'Theirs', channels: ['weight'], standIn: false },
      theirs.userId,
      new Date(),
    ),
  )
  const context = await letIn(mine, 'manager')
  for (const act of ['rename', 'move', 'revoke'])
    await answered(
      action({
        request: sendForm({ act, deviceId, name: 'Mine now', channel: 'weight', kitId: '' }),
        context,
        params: {},
      } as never),
    )
  expect(await inShop(theirs.shopId, devices)).toMatchObject([{ deviceId, name: 'Theirs', revokedAt: null }])
})
