import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bookArrival, closeDatabase, cylinderOf, inShop, lastJudgement } from '#db'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { aCylinder, type AShop, aShop } from '../../../testing/a-shop'
import { action, loader } from './change'
import { action as page } from './cylinder'

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
  it('are refused when somebody else has changed them since, with both values and nothing lost', async () => {
    const id = await aCylinder(shop, { keepsAt: 'Van 1' })
    const args = { context: technician, params: { cylinderId: id } }
    const { start, version } = await loader({ ...args, request: new Request('http://keg.test/') } as never)
    await change(id, { keepsAt: 'Van 2' })
    const stale = { ...start, version, keepsAt: 'Shed' }
    const { status, body } = await answered(action({ ...args, request: sendForm(stale) } as never))
    expect(status).toBe(400)
    expect(body).toMatchObject({
      errors: { keepsAt: expect.stringContaining('There now: Van 2. Yours: Shed.') as string },
      typed: { keepsAt: 'Shed' },
    })
    expect((await read(id)).keepsAt).toBe('Van 2')
    const { typed } = body as { typed: Record<string, string> }
    expect((await answered(action({ ...args, request: sendForm(typed) } as never))).status).toBe(302)
    expect((await read(id)).keepsAt).toBe('Shed')
  })
  it('never mark what it holds better than it was marked, whenever the form was opened', async () => {
    const id = await aCylinder(shop, { condition: 'used' })
    for (const condition of ['clean', 'used', 'doubtful', 'mixed'] as const) {
      const { status } = await change(id, { condition })
      expect(status, condition).toBe(condition === 'clean' ? 400 : 302)
    }
    expect((await change(id, { condition: 'used' })).body).toMatchObject({
      errors: { condition: expect.stringContaining('Judge what it holds') as string },
    })
    expect((await read(id)).condition).toBe('mixed')
    // Marked by a job while the form was open: what was typed does not undo it.
    const other = await aCylinder(shop, { condition: 'clean' })
    const args = { context: technician, params: { cylinderId: other } }
    const { start, version } = await loader({ ...args, request: new Request('http://keg.test/') } as never)
    await change(other, { condition: 'mixed' })
    const late = await answered(
      action({ ...args, request: sendForm({ ...start, version, keepsAt: 'Van' }) } as never),
    )
    expect(late.body).toMatchObject({
      errors: { condition: expect.stringContaining('There now: Mixed') as string },
    })
  })
  it('become better by an act of its own, with its reason', async () => {
    const id = await aCylinder(shop, { condition: 'doubtful' })
    const judge = (text: string, version = 1) => {
      const fields = {
        kind: 'judge',
        voucherId: randomUUID(),
        version: String(version),
        condition: 'clean',
        text,
      }
      return answered(
        page({ request: sendForm(fields), context: technician, params: { cylinderId: id } } as never),
      )
    }
    expect((await judge(' ')).body).toMatchObject({ errors: { judge: 'Enter how it was found out.' } })
    expect((await read(id)).condition).toBe('doubtful')
    expect((await judge('Laboratory sheet 1142')).status).toBe(302)
    expect((await read(id)).condition).toBe('clean')
    expect(await inShop(shop.shopId, (tx) => lastJudgement(tx, id))).toMatchObject({
      condition: 'clean',
      text: 'Laboratory sheet 1142',
    })
    // Marked by somebody else after the page was opened: not undone by a press on the old page.
    await change(id, { condition: 'mixed' })
    expect((await judge('Read on the old page', 2)).body).toMatchObject({
      errors: { judge: expect.stringContaining('Somebody changed this cylinder') as string },
      typed: { text: 'Read on the old page' },
    })
    expect((await read(id)).condition).toBe('mixed')
  })
  it('name days that have been, and owners that there are', async () => {
    const id = await aCylinder(shop)
    expect((await change(id, { testedOn: '2100-01-01' })).body).toMatchObject({
      errors: { testedOn: expect.stringContaining('has not been yet') as string },
    })
    expect((await change(id, { ownerCustomerId: randomUUID() })).body).toMatchObject({
      errors: { ownerCustomerId: expect.stringContaining('from the list') as string },
    })
    const stranger = await aShop()
    expect((await change(id, { ownerCustomerId: stranger.customerId })).status).toBe(400)
  })
})

describe('gas that is bought in a cylinder, and one that is weighed empty', () => {
  const send = (id: string, kind: string, weight: string, more: Record<string, string> = {}) => {
    const fields = { kind, voucherId: randomUUID(), version: '1', weight, ...more }
    return answered(
      page({ request: sendForm(fields), context: technician, params: { cylinderId: id } } as never),
    )
  }
  it('is asked about past its limit, and booked when it is so', async () => {
    const id = await aCylinder(shop, {
      kind: 'virgin',
      refrigerant: 'R-134a',
      tareMg: 6_500_000,
      waterCapacityMg: 11_900_000,
    })
    expect((await send(id, 'purchase', '90 kg')).body).toMatchObject({
      asked: { code: 'beyond-limit', insteadMg: [9_000_000] },
      errors: { purchase: expect.stringContaining('past its limit') as string },
    })
    expect((await send(id, 'purchase', '90 kg', { meant: '9000000' })).status).toBe(302)
    expect((await read(id)).balanceMg).toBe(9_000_000)
  })
  it('prepared: 65 kg for 6.5 asks', async () => {
    const id = await aCylinder(shop, { refrigerant: null, tareMg: 6_500_000, waterCapacityMg: 11_900_000 })
    const vacuum = { proved: '300 micron', pulled: '300 micron', left: 'vacuum' }
    expect((await send(id, 'prepare', '65 kg', vacuum)).body).toMatchObject({
      asked: { insteadMg: [6_500_000] },
    })
    expect((await send(id, 'prepare', '6.51 kg', vacuum)).status).toBe(302)
  })
})

describe('a cylinder that is weighed again', () => {
  it('is asked about where the weight can hardly be, and never booked beyond its brim', async () => {
    const tareMg = 6_500_000
    const id = await aCylinder(shop, { refrigerant: 'R-134a', tareMg, waterCapacityMg: 11_900_000 })
    const send = (weight: string, more: Record<string, string> = {}) => {
      const fields = { kind: 'reweigh', voucherId: randomUUID(), version: '1', weight, ...more }
      return answered(
        page({ request: sendForm(fields), context: technician, params: { cylinderId: id } } as never),
      )
    }
    const contents = async () => (await read(id)).balanceMg
    // 0.2 kg more than the books: believed.
    expect((await send('6.7 kg')).status).toBe(302)
    const asked = await send('115 kg')
    expect(asked.status).toBe(400)
    expect(asked.body).toMatchObject({
      asked: { code: 'beyond-limit', weightMg: 115_000_000, insteadMg: [] },
      typed: { weight: '115 kg' },
    })
    // Whoever says so: 11.9 kg of water capacity hold no 108 kg.
    const never = await send('115 kg', { sure: '115000000' })
    expect(never.body).toMatchObject({ errors: { reweigh: expect.stringMatching(/brim/) as string } })
    expect(await contents()).toBe(200_000)
    expect((await send('11.6 kg')).body).toMatchObject({ asked: { code: 'far-from-books' } })
    // Sure of another weight is sure of none.
    expect((await send('11.6 kg', { sure: '11500000' })).status).toBe(400)
    expect((await send('11.6 kg', { sure: '11600000' })).status).toBe(302)
    expect(await contents()).toBe(5_100_000)
    expect((await send('115 kg')).body).toMatchObject({ asked: { insteadMg: [11_500_000] } })
    expect((await send('115 kg', { meant: '11500000' })).status).toBe(302)
    expect(await contents()).toBe(5_000_000)
  })
})
