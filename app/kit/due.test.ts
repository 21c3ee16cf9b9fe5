import { afterAll, beforeAll, expect, it } from 'vitest'
import { closeDatabase, inShop } from '#db'
import { anEntry } from '../../testing/an-entry'
import { aJob, type AShop, aShop, aSystem, note } from '../../testing/a-shop'
import { dueItems } from './due.server'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const due = (today: string, days: number) => inShop(shop.shopId, (tx) => dueItems(tx, today, days))

it('a system with a slow leak is due on the day that its job set, until somebody comes to it', async () => {
  const [systemId, jobId] = [await aSystem(shop, { name: 'Kipper store' }), await aJob(shop)]
  const described = { systemId, refrigerant: 'R-404A', title: '' }
  await note(
    shop,
    jobId,
    anEntry('job-described', described),
    anEntry('recheck-set', { on: '2026-07-10', reason: '' }),
  )
  expect(await due('2026-07-01', 3)).toEqual([])
  expect(await due('2026-07-01', 14)).toMatchObject([
    { label: 'Kipper store', to: `/jobs/${jobId}`, on: '2026-07-10', overdue: false },
  ])
  expect(await due('2026-07-11', 14)).toMatchObject([{ overdue: true }])
  const later = await aJob(shop)
  await note(shop, later, anEntry('job-described', described))
  expect(await due('2026-07-11', 14)).toEqual([])
})

const at = (day: string) => ({ at: Date.parse(`${day}T10:00:00Z`), backdated: true })
const found = async (today: string, days: number, label: string) =>
  (await due(today, days)).filter((each) => each.label === label)

it('a leak check is due by law from when leaks were last looked for, by what the system holds', async () => {
  // 14.5 kg of 0.44 x 3500 + 0.52 x 4470 + 0.04 x 1430 = 3921.6: 56.9 t, every 6 months. No 31 September: the 30th.
  const systemId = await aSystem(shop, { name: 'Blast cell', refrigerant: 'R-404A', plateMg: 14_500_000 })
  const jobId = await aJob(shop)
  await note(
    shop,
    jobId,
    anEntry('job-described', { systemId, refrigerant: 'R-404A' }, at('2026-03-30')),
    anEntry('leak-checked', { method: 'detector', found: false, text: '' }, at('2026-03-31')),
  )
  // Not before the job is closed: it may find one yet.
  expect(await found('2026-09-01', 365, 'Blast cell')).toEqual([])
  await note(shop, jobId, anEntry('job-closed', {}, at('2026-04-01')))
  expect(await found('2026-09-01', 28, 'Blast cell')).toEqual([])
  expect(await found('2026-09-01', 29, 'Blast cell')).toMatchObject([
    { on: '2026-09-30', overdue: false, what: 'Leak check, every 6 months' },
  ])
  expect((await found('2026-10-01', 1, 'Blast cell'))[0]).toMatchObject({
    overdue: true,
    how: [expect.stringContaining('56.9 t CO₂e') as string, expect.stringContaining('31 Mar 2026') as string],
  })
  // 58 g of a hydrocarbon: no law asks for it.
  const small = await aSystem(shop, { name: 'Vaccine box', refrigerant: 'R-600a', plateMg: 58_000 })
  const other = await aJob(shop)
  await note(
    shop,
    other,
    anEntry('job-described', { systemId: small, refrigerant: 'R-600a' }, at('2026-03-30')),
    anEntry('leak-checked', { method: 'bubbles', found: false, text: '' }, at('2026-03-31')),
    anEntry('job-closed', {}, at('2026-04-01')),
  )
  expect(await found('2027-09-01', 365, 'Vaccine box')).toEqual([])
})

it('what was left off stays due until it is back, or another job comes to the system', async () => {
  const systemId = await aSystem(shop, { name: 'Saloon unit', refrigerant: null, plateMg: null })
  const jobId = await aJob(shop)
  const itemId = '00000000-0000-4000-8000-00000000f001'
  await note(
    shop,
    jobId,
    anEntry('job-described', { systemId }, at('2026-05-01')),
    anEntry('taken-off', { itemId, what: 'sensor clip' }, at('2026-05-02')),
    anEntry('left-off', { itemId, reason: 'broken, on order' }, at('2026-05-02')),
  )
  expect(await found('2026-05-03', 0, 'Saloon unit')).toEqual([])
  await note(shop, jobId, anEntry('job-closed', {}, at('2026-05-03')))
  expect(await found('2026-05-03', 0, 'Saloon unit')).toMatchObject([
    { what: 'Left off: sensor clip', on: '2026-05-03', overdue: true, to: `/jobs/${jobId}` },
  ])
  await note(shop, jobId, anEntry('put-back', { itemId }, at('2026-05-10')))
  expect(await found('2026-05-11', 0, 'Saloon unit')).toEqual([])
})
