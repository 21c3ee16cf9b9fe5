import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bookArrival, closeDatabase, cylinderOf, inShop } from '#db'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { aCylinder, type AShop, aShop } from '../../../testing/a-shop'
import { action } from './decant'

const KG = 1_000_000
let shop: AShop
let technician: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  technician = await letIn(shop, 'technician')
})
afterAll(closeDatabase)

/** Tare 6.5 kg, with so much in it. */
async function holding(kg: number, ownerCustomerId: string | null = null): Promise<string> {
  const id = await aCylinder(shop, {
    refrigerant: 'R-134a',
    condition: 'used',
    tareMg: 6.5 * KG,
    waterCapacityMg: 21.6 * KG,
    ownerCustomerId,
  })
  await inShop(shop.shopId, (tx) =>
    bookArrival(tx, {
      kind: 'opening',
      voucherId: randomUUID(),
      cylinderId: id,
      massMg: kg * KG,
      at: new Date(),
      now: new Date(),
      userId: shop.userId,
      text: '',
    }),
  )
  return id
}

describe('from one cylinder into another', () => {
  it('asks one thing after the other, and books what is so', async () => {
    const [giverId, takerId] = [await holding(1, shop.customerId), await holding(3)]
    const send = (before: string, after: string, more: Record<string, string> = {}) => {
      const fields = { voucherId: randomUUID(), giverId, on: 'taker', before, after, ...more }
      return answered(
        action({ request: sendForm(fields), context: technician, params: { cylinderId: takerId } } as never),
      )
    }
    // By the books the taker weighs 9.5 kg, and the giver has 1 kg.
    const first = await send('9.0 kg', '11.0 kg')
    expect(first.body).toMatchObject({ asked: 'before-off-the-books', typed: { before: '9.0 kg' } })
    const second = await send('9.0 kg', '11.0 kg', { sure: 'before-off-the-books' })
    expect(second.body).toMatchObject({ asked: 'owner-onto-shops' })
    const third = await send('9.0 kg', '11.0 kg', { sure: 'before-off-the-books,owner-onto-shops' })
    expect(third.body).toMatchObject({ asked: 'more-than-it-had' })
    // 0.95 for 9.5: past the limit, if it were so; the digits come first.
    expect((await send('0.95 kg', '30 kg')).body).toMatchObject({
      errors: { form: expect.any(String) as string },
    })
    expect((await send('5.5 kg', '30 kg')).body).toMatchObject({ asked: 'before-off-the-books' })
    const balanceOf = async () => (await inShop(shop.shopId, (tx) => cylinderOf(tx, takerId)))!.balanceMg / KG
    expect(await balanceOf()).toBe(3)
    const sure = 'owner-onto-shops,before-off-the-books,more-than-it-had'
    expect((await send('9.0 kg', '11.0 kg', { sure })).status).toBe(302)
    expect(await balanceOf()).toBe(5)
    expect((await send('11.5 kg', '11.6 kg', { sure: 'constructor' })).body).toMatchObject({
      asked: 'owner-onto-shops',
    })
  })
})
