// A plate that was read in a job: with its system, as long as nobody has entered one, and as it was corrected last.
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { aJob, anEntry, type AShop, aShop, aSystem, note } from '../../testing/a-shop'
import { changeSystem, closeDatabase, inShop, jobsInHand, systemOf, type SystemRow } from '..'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const system = (id: string): Promise<SystemRow> =>
  inShop(shop.shopId, (tx) => systemOf(tx, id)).then((found) => found!)
const plate = (id: string) => system(id).then(({ plateMg, plateText }) => [plateMg, plateText])
const read = (massMg: number, text: string) => anEntry('plate-noted', { massMg, text })

it('is kept with the system, follows its correction, and goes when it is struck', async () => {
  const systemId = await aSystem(shop, { plateMg: null })
  const jobId = await aJob(shop)
  const noted = read(1_632_933, '3.6 lb')
  // Before anybody knew which system it is.
  await note(shop, jobId, noted)
  await note(shop, jobId, anEntry('job-described', { systemId }))
  expect(await plate(systemId)).toEqual([1_632_933, '3.6 lb'])
  const correction = { entryId: noted.entryId, kind: 'plate-noted' as const, reason: '', version: 1 }
  const body = { massMg: 1_530_874, text: '3.6 lb' }
  await note(shop, jobId, anEntry('correction', { ...correction, body }))
  expect(await plate(systemId)).toEqual([1_530_874, '3.6 lb'])
  await note(shop, jobId, anEntry('correction', { ...correction, body: null }))
  expect(await plate(systemId)).toEqual([null, ''])
})

it('goes to the other system when the job was about that one', async () => {
  const [wrong, right] = await Promise.all([
    aSystem(shop, { plateMg: null }),
    aSystem(shop, { plateMg: null }),
  ])
  const jobId = await aJob(shop)
  await note(shop, jobId, anEntry('job-described', { systemId: wrong }), read(2_000_000, '2 kg'))
  await note(shop, jobId, anEntry('job-described', { systemId: right }))
  expect([await plate(wrong), await plate(right)]).toEqual([
    [null, ''],
    [2_000_000, '2 kg'],
  ])
})

it('never takes the place of one that a person has entered', async () => {
  const systemId = await aSystem(shop, { plateMg: 3_000_000, plateText: 'as printed' })
  const jobId = await aJob(shop)
  await note(shop, jobId, anEntry('job-described', { systemId }), read(2_000_000, '2 kg'))
  expect(await plate(systemId)).toEqual([3_000_000, 'as printed'])
  const other = await aSystem(shop, { plateMg: null })
  const again = await aJob(shop)
  await note(shop, again, anEntry('job-described', { systemId: other }), read(2_000_000, '2 kg'))
  const row = await system(other)
  await inShop(shop.shopId, (tx) => changeSystem(tx, other, { ...row, plateMg: 2_500_000 }))
  await note(shop, again, anEntry('note', { text: randomUUID() }))
  expect((await plate(other))[0]).toBe(2_500_000)
})

it('is what a list goes by, where the books know nothing of what should have been in it', async () => {
  // Evacuated before anybody said what became of its gas.
  const evacuated = async (systemId: string) => {
    const job = await aJob(shop)
    await note(
      shop,
      job,
      anEntry('job-described', { systemId, refrigerant: 'R-410A' }),
      anEntry('vacuum-noted', { pressurePa: 60 }),
    )
    const jobs = await inShop(shop.shopId, (tx) => jobsInHand(tx))
    return jobs.find((each) => each.jobId === job)!.next
  }
  expect(await evacuated(await aSystem(shop))).toBe('account-for-gas')
  expect(await evacuated(await aSystem(shop, { plateMg: null }))).toBe('check-leaks')
})
