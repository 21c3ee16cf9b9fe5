import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { METRIC_UNITS } from '#core/units'
import { closeDatabase, cylinderOf, findCylinders, inShop, movements, openSession, systemOf } from '#db'
import { answered, letIn, sendJson, through } from '../../../testing/a-request'
import { aCylinder, type AShop, aShop } from '../../../testing/a-shop'
import { action } from './made'

let shop: AShop
let context: Awaited<ReturnType<typeof through>>
beforeAll(async () => {
  shop = await aShop()
  context = await through(await openSession(shop.shopId, shop.userId), '/')
})
afterAll(closeDatabase)

const CYLINDER = {
  kind: 'recovery',
  tare: '12 kg',
  waterCapacity: '11.9 kg',
  servicePressure: '40 bar',
  testedOn: '05/25',
  testYears: '5',
  condition: 'clean',
}
const SYSTEM = {
  name: 'Ice hall',
  customer: 'Cold quay',
  site: 'Hall 9',
  trade: 'stationary',
  metering: 'valve',
  refrigerant: 'R-449A',
  plate: '3 kg',
}
const cylinder = (label: string, over: Record<string, string> = {}, id = randomUUID()) => ({
  kind: 'cylinder',
  id,
  units: METRIC_UNITS,
  typed: { ...CYLINDER, label, cylinderId: id, voucherId: randomUUID(), ...over },
})
const send = (makings: unknown, { userId = shop.userId, as = context, over = {} } = {}) =>
  answered(action({ request: sendJson({ userId, makings, ...over }), context: as, params: {} } as never))

describe('what was made on a device', () => {
  it('is made once, however often it is sent, with what is in it', async () => {
    const label = `Roof ${randomUUID()}`.slice(0, 20)
    const making = cylinder(label, { refrigerant: 'R-134a', contents: '3 kg' })
    for (let times = 0; times < 2; times++)
      expect((await send([making])).body).toEqual({ made: [{ id: making.id, became: 'made' }] })
    await inShop(shop.shopId, async (tx) => {
      expect(await cylinderOf(tx, making.id)).toMatchObject({ label, balanceMg: 3e6, tareMg: 12e6 })
      expect(await movements(tx, { cylinderId: making.id }, 10)).toHaveLength(1)
    })
  })
  it('was there when it was made, by the server’s clock, whatever the device’s own says', async () => {
    const label = `Then ${randomUUID()}`.slice(0, 20)
    const HOUR = 3_600_000
    const making = { ...cylinder(label, { refrigerant: 'R-134a', contents: '3 kg' }), at: 7 * HOUR }
    const before = Date.now()
    // That device lives in 1970, and was three hours without signal.
    await send([making], { over: { sentAt: 10 * HOUR } })
    const [arrival] = await inShop(shop.shopId, (tx) => movements(tx, { cylinderId: making.id }, 10))
    expect(arrival!.at.getTime()).toBeGreaterThanOrEqual(before - 3 * HOUR)
    expect(arrival!.at.getTime()).toBeLessThanOrEqual(Date.now() - 3 * HOUR)
  })
  it('gets another label where its own was taken meanwhile, and says so each time', async () => {
    const label = `Taken ${randomUUID()}`.slice(0, 20)
    await aCylinder(shop, { label })
    const [one, two] = [cylinder(label), cylinder(label)]
    const made = [
      { id: one.id, became: 'renamed', label: `${label} (2)` },
      { id: two.id, became: 'renamed', label: `${label} (3)` },
    ]
    expect((await send([one, two])).body).toEqual({ made })
    expect((await send([one, two])).body).toEqual({ made })
    expect(await inShop(shop.shopId, (tx) => findCylinders(tx, label))).toHaveLength(3)
  })
  it('that cannot be is refused with a sentence, and holds up no other', async () => {
    const [bad, good] = [cylinder('Bad', { tare: 'heavy' }), cylinder(`Good ${randomUUID()}`.slice(0, 20))]
    const { body } = await send([bad, good])
    expect(body).toMatchObject({
      made: [
        { id: bad.id, became: 'refused', sentence: expect.stringMatching(/heavy/) as string },
        { id: good.id, became: 'made' },
      ],
    })
  })
  it('as a system brings its customer and its site', async () => {
    const id = randomUUID()
    const making = { kind: 'system', id, units: METRIC_UNITS, typed: { ...SYSTEM, systemId: id } }
    for (let times = 0; times < 2; times++)
      expect((await send([making])).body).toEqual({ made: [{ id, became: 'made' }] })
    const row = await inShop(shop.shopId, (tx) => systemOf(tx, id))
    expect(row).toMatchObject({ customer: 'Cold quay', site: 'Hall 9', plateMg: 3e6, plateText: '3 kg' })
  })
  it('of somebody else waits for them; whoever only reads makes nothing; and nonsense is none', async () => {
    expect((await send([cylinder('x')], { userId: randomUUID() })).status).toBe(409)
    const trainee = await letIn(shop, 'trainee')
    expect((await send([cylinder('x')], { as: trainee })).status).toBe(403)
    for (const nonsense of [[], 'x', [{ kind: 'car', id: randomUUID(), typed: {}, units: {} }], [{}]])
      expect((await send(nonsense)).status).toBe(400)
  })
})
