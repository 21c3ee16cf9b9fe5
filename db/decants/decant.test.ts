import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { aCylinder, type AShop, aShop, NOW } from '../../testing/a-shop'
import { closeDatabase, cylinderOf, inShop } from '..'
import { bookDecant, decantedInto, DecantRefused } from './decant'
import { bookArrival, bookPreparation, lastPreparation, VoucherError } from '../ledger/vouchers'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const cylinder = (cylinderId: string) => inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId))
const anEmpty = (over: Parameters<typeof aCylinder>[1] = {}) =>
  aCylinder(shop, {
    kind: 'one-way',
    refrigerant: 'R-134a',
    condition: 'used',
    waterCapacityMg: null,
    ...over,
  })
const aTaker = (over: Parameters<typeof aCylinder>[1] = {}) =>
  aCylinder(shop, { refrigerant: 'R-134a', condition: 'used', ...over })
const decant = (
  giverId: string,
  takerId: string,
  massMg: number,
  over: { scrapped?: boolean; exercise?: boolean; voucherId?: string; at?: Date } = {},
) =>
  inShop(shop.shopId, (tx) =>
    bookDecant(tx, {
      voucherId: randomUUID(),
      giverId,
      takerId,
      massMg,
      scrapped: false,
      at: NOW,
      now: NOW,
      today: '2026-06-01',
      userId: shop.userId,
      text: '',
      ...over,
    }),
  )

it('a batch of empties, one after another: each its yield, the sum in the taker, and scrapped', async () => {
  const taker = await aTaker()
  const [first, second] = await Promise.all([anEmpty(), anEmpty()])
  const voucherId = randomUUID()
  await decant(first, taker, 410_000, { scrapped: true, voucherId })
  // Sent twice it is booked once.
  await decant(first, taker, 410_000, { scrapped: true, voucherId })
  await decant(second, taker, 290_000)
  expect((await cylinder(taker))!.balanceMg).toBe(700_000)
  expect(await cylinder(first)).toMatchObject({ balanceMg: 0, retired: true })
  expect(await cylinder(second)).toMatchObject({ balanceMg: 0, retired: false })
  const taken = await inShop(shop.shopId, (tx) => decantedInto(tx, taker, new Date(NOW.getTime() - 1)))
  expect(taken.map((each) => [each.massMg, each.scrapped]).sort()).toEqual([
    [290_000, false],
    [410_000, true],
  ])
})

it('what the books had in a scrapped one beyond what came out is lost, and said so', async () => {
  const [taker, giver] = await Promise.all([aTaker(), anEmpty()])
  await inShop(shop.shopId, (tx) =>
    bookArrival(tx, {
      kind: 'opening',
      voucherId: randomUUID(),
      cylinderId: giver,
      massMg: 900_000,
      at: NOW,
      now: NOW,
      userId: shop.userId,
      text: '',
    }),
  )
  await decant(giver, taker, 600_000, { scrapped: true })
  expect((await cylinder(taker))!.balanceMg).toBe(600_000)
  expect((await cylinder(giver))!.balanceMg).toBe(0)
})

it('refuses what would spoil or burst, and changes nothing then', async () => {
  const [taker, giver, other] = await Promise.all([
    aTaker(),
    anEmpty({ condition: 'doubtful' }),
    anEmpty({ refrigerant: 'R-410A' }),
  ])
  const good = await anEmpty()
  await decant(good, taker, 500_000)
  await expect(decant(giver, taker, 300_000)).rejects.toThrow(DecantRefused)
  await expect(decant(other, taker, 300_000)).rejects.toThrow(DecantRefused)
  await expect(decant(good, taker, 90_000_000)).rejects.toThrow(DecantRefused)
  await expect(decant(good, taker, 0)).rejects.toThrow(VoucherError)
  await expect(decant(taker, await aTaker(), 100_000, { scrapped: true })).rejects.toThrow(/one-way/)
  await expect(decant(await aTaker(), taker, 100_000, { exercise: true })).rejects.toThrow(/trainee/)
  expect((await cylinder(taker))!.balanceMg).toBe(500_000)
})

it('another shop’s cylinder is not there', async () => {
  const theirs = await aShop()
  const giver = await aCylinder(theirs, { kind: 'one-way', refrigerant: 'R-134a' })
  await expect(decant(giver, await aTaker(), 100_000)).rejects.toThrow(VoucherError)
})

it('a cylinder that was prepared says so until gas goes in', async () => {
  const [ready, full] = await Promise.all([aTaker({ refrigerant: null, condition: 'clean' }), aTaker()])
  const prepare = (cylinderId: string) =>
    inShop(shop.shopId, (tx) =>
      bookPreparation(tx, {
        voucherId: randomUUID(),
        cylinderId,
        at: NOW,
        now: NOW,
        userId: shop.userId,
        text: '',
        provedPa: 20,
        pulledPa: 50,
        weighedMg: 12_000_000,
        left: 'vacuum',
      }),
    )
  await prepare(ready)
  const last = () => inShop(shop.shopId, (tx) => lastPreparation(tx, ready))
  expect(await last()).toMatchObject({ left: 'vacuum', weighedMg: 12_000_000, pulledPa: 50 })
  await decant(await anEmpty(), ready, 400_000, { at: new Date(NOW.getTime() + 1_000) })
  expect(await last()).toBeUndefined()
  await decant(await anEmpty(), full, 400_000)
  await expect(prepare(full)).rejects.toThrow(/still have gas/)
})
