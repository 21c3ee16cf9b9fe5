import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bookArrival, closeDatabase, cylinderOf, inShop } from '#db'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { aCylinder, type AShop, aShop } from '../../../testing/a-shop'
import { action, loader } from './change'

let shop: AShop
let technician: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  technician = await letIn(shop, 'technician')
})
afterAll(closeDatabase)

const read = (id: string) => inShop(shop.shopId, (tx) => cylinderOf(tx, id)).then((c) => c!)

/** Opens the form of a cylinder and sends it back with some fields changed. */
async function change(cylinderId: string, fields: Record<string, string>) {
  const args = { context: technician, params: { cylinderId } }
  const { start, version } = await loader({ ...args, request: new Request('http://keg.test/') } as never)
  return answered(action({ ...args, request: sendForm({ ...start, version, ...fields }) } as never))
}

describe("a cylinder's data", () => {
  it('keep their exact values where nothing was changed', async () => {
    const id = await aCylinder(shop, {
      tareMg: 12_003_217,
      waterCapacityMg: 21_598_111,
      servicePressurePa: 2_859_003,
    })
    const before = await read(id)
    expect((await change(id, {})).status).toBe(302)
    expect(await read(id)).toEqual(before)
    await change(id, { tare: '12.5 kg', keepsAt: 'Van 1' })
    expect(await read(id)).toEqual({
      ...before,
      version: before.version + 1,
      tareMg: 12_500_000,
      keepsAt: 'Van 1',
    })
  })
  it('may name another gas only while nothing was ever booked', async () => {
    const id = await aCylinder(shop)
    expect((await change(id, { refrigerant: 'R-134a' })).status).toBe(302)
    await inShop(shop.shopId, (tx) =>
      bookArrival(tx, {
        kind: 'opening',
        voucherId: randomUUID(),
        cylinderId: id,
        massMg: 1_000_000,
        at: new Date(),
        now: new Date(),
        userId: shop.userId,
        text: '',
      }),
    )
    const { status, body } = await change(id, { refrigerant: 'R-22', keepsAt: 'kept' })
    expect(status).toBe(400)
    expect(body).toMatchObject({
      errors: { refrigerant: expect.stringContaining('It has held R-134a') as string },
      typed: { keepsAt: 'kept', refrigerant: 'R-22' },
    })
    expect((await read(id)).refrigerant).toBe('R-134a')
  })
  it('cannot take a label that another has, nor reach into another shop', async () => {
    const [one, two] = [await aCylinder(shop, { label: 'One' }), await aCylinder(shop, { label: 'Two' })]
    expect((await change(two, { label: 'one' })).body).toMatchObject({
      errors: { label: expect.stringContaining('has this label already') as string },
    })
    expect((await read(one)).label).toBe('One')
    const theirs = await aCylinder(await aShop())
    const args = { context: technician, params: { cylinderId: theirs }, request: sendForm({ label: 'x' }) }
    expect((await answered(loader(args as never))).status).toBe(404)
  })
})
