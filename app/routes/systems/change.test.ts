import { afterAll, expect, it } from 'vitest'
import { closeDatabase, inShop, systemOf } from '#db'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { aShop, aSystem } from '../../../testing/a-shop'
import { action, loader } from './change'

afterAll(closeDatabase)

async function aForm() {
  const shop = await aShop()
  const systemId = await aSystem(shop)
  const args = { context: await letIn(shop, 'technician'), params: { systemId } }
  const { start, hidden } = await loader({ ...args, request: new Request('http://keg.test/') } as never)
  const send = (fields: Record<string, string>) =>
    answered(action({ ...args, request: sendForm({ ...start, ...hidden, ...fields }) } as never))
  return { send, read: () => inShop(shop.shopId, (tx) => systemOf(tx, systemId)) }
}

it('the height of a site that is known already is noted when it is typed, and stays when it is left open', async () => {
  const { send, read } = await aForm()
  expect((await send({ altitude: '1200' })).status).toBe(302)
  expect((await read())!.altitudeM).toBe(1200)
  expect((await send({ altitude: '' })).status).toBe(302)
  expect((await read())!.altitudeM).toBe(1200)
})

it('a form opened before somebody else saved is refused with both values, lists in words', async () => {
  const { send, read } = await aForm()
  const drier = JSON.stringify([{ name: 'Drier', mass: '340 g' }])
  expect((await send({ accessories: drier, plateText: 'theirs' })).status).toBe(302)
  const { status, body } = await send({ plateText: 'mine' })
  expect(status).toBe(400)
  expect(body).toMatchObject({
    errors: {
      plateText: expect.stringContaining('There now: theirs. Yours: mine.') as string,
      accessories: expect.stringMatching(/There now: Drier, .*Yours: nothing/) as string,
    },
    typed: { plateText: 'mine' },
  })
  expect((await read())!.plateText).toBe('theirs')
})
