import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { bookArrival, bookReweigh, closeDatabase, differencesByCause, inShop } from '#db'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, NOW, note } from '../../testing/a-shop'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const KG = 1_000_000
const from = new Date(NOW.getTime() - 86_400_000)
const to = new Date(NOW.getTime() + 86_400_000)

it('what the books did not know is told by its cause: bought and sent away are none', async () => {
  const [cylinderId, systemId, jobId] = [await aCylinder(shop), await aSystem(shop), await aJob(shop)]
  const voucher = { cylinderId, at: NOW, now: NOW, userId: shop.userId, text: '' }
  await inShop(shop.shopId, async (tx) => {
    await tx`update cylinder set refrigerant = 'R-410A' where cylinder_id = ${cylinderId}`
    await bookArrival(tx, { ...voucher, kind: 'purchase', voucherId: randomUUID(), massMg: 2 * KG })
    const { tareMg } = (
      await tx<{ tareMg: number }[]>`select tare_mg from cylinder where cylinder_id = ${cylinderId}`
    )[0]!
    await bookReweigh(tx, { ...voucher, voucherId: randomUUID(), grossMg: tareMg + 2 * KG - 40_000 })
  })
  const runId = randomUUID()
  const gross = { scale: 'S', mode: 'gross' } as const
  await note(
    shop,
    jobId,
    anEntry('job-described', { systemId, refrigerant: 'R-410A' }),
    anEntry('run-started', { runId, use: 'recover', cylinderId, ...gross, weightMg: 12 * KG }),
    anEntry('run-ended', { runId, weightMg: 13 * KG }),
  )
  expect(await inShop(shop.shopId, (tx) => differencesByCause(tx, from, to))).toEqual([
    // Out of a system of which the books knew nothing.
    { refrigerant: 'R-410A', cause: 'before', foundMg: 1 * KG, goneMg: 0, times: 1 },
    { refrigerant: 'R-410A', cause: 'reweigh', foundMg: 0, goneMg: 40_000, times: 1 },
  ])
  expect(await inShop(shop.shopId, (tx) => differencesByCause(tx, to, to))).toEqual([])
})
