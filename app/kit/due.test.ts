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
