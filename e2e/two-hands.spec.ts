// Double clicks, two tabs, reloads, lost signal: every gram once.
import type { Page } from '@playwright/test'
import { cylinderOf, inShop, movements } from '#db'
import { aRunningJob } from './arrange'
import type { AShop } from '../testing/a-shop'
import { expect, expectNoTrouble, open, ready, test } from './shop'

const settled = (page: Page) =>
  expect(page.locator('.tape').getByText('waiting', { exact: true })).toHaveCount(0)

/** A recovery that runs, and its page. */
async function running(page: Page, shop: AShop) {
  const job = await aRunningJob(shop)
  await open(page, job.path)
  return job
}

const weigh = async (page: Page, weight: string) => {
  await page.getByLabel('The scale shows').fill(weight)
  await page.getByRole('button', { name: 'Note weight' }).click()
}

test('a double click notes once and books once', async ({ as, shop }) => {
  const page = await as('metric')
  const { cylinderId, tape } = await running(page, shop)
  await page.getByLabel('The scale shows').fill('13 kg')
  await page.getByRole('button', { name: 'Note weight' }).dblclick()
  await page.getByRole('button', { name: 'Finish …' }).click()
  await page.getByLabel('Final weight on the scale').fill('13.5 kg')
  await page.getByRole('button', { name: 'End this transfer' }).dblclick()
  await expect(page.getByText('End the recovery').first()).toBeVisible()
  await settled(page)
  const kinds = (await tape()).map((e) => e.kind)
  expect(kinds.filter((k) => k === 'weight-noted')).toHaveLength(1)
  expect(kinds.filter((k) => k === 'run-ended')).toHaveLength(1)
  expect(await inShop(shop.shopId, (tx) => movements(tx, { cylinderId }, 10))).toHaveLength(1)

  // A voucher sent twice books once, too.
  await open(page, `/cylinders/${cylinderId}`)
  await page.getByText('Re-weigh', { exact: true }).first().click()
  await page.getByLabel('The scale shows (gross)').fill('13.44 kg')
  await page.getByRole('button', { name: 'Re-weigh' }).dblclick()
  await expect(page.getByText('Unexplained', { exact: true })).toBeVisible()
  expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId)))!.balanceMg).toBe(1_440_000)
  expect(await inShop(shop.shopId, (tx) => movements(tx, { cylinderId }, 10))).toHaveLength(2)
  expectNoTrouble(page)
})

test('two tabs and two people on one job see the same, at once', async ({ as, shop }) => {
  const first = await as('metric')
  const { jobId, tape } = await running(first, shop)
  const second = await as('metric', first.context())
  const other = await as('us')
  for (const page of [second, other]) await open(page, `/jobs/${jobId}`)
  await weigh(first, '13 kg')
  await expect(second.locator('.hero').first()).toHaveText('1.000 kg')
  await expect(other.locator('.hero').first()).toHaveText('2 lb 3.25 oz')
  await weigh(second, '14 kg')
  await expect(first.locator('.hero').first()).toHaveText('2.000 kg')
  await weigh(other, '33 lb')
  for (const page of [first, second]) await expect(page.locator('.hero').first()).toHaveText('2.970 kg')
  const seqs = (await tape()).map((e) => e.seq!)
  expect(seqs).toEqual(seqs.map((_, i) => i + 1))
  for (const page of [first, second, other]) expectNoTrouble(page)
})

test('what is noted while a page is on its way is not missed', async ({ as, shop }) => {
  const [here, away] = [await as('metric'), await as('us')]
  const { jobId, tape } = await running(here, shop)
  const before = (await tape()).length
  await away.route(`**/jobs/${jobId}`, async (route) => {
    const response = await route.fetch()
    await weigh(here, '13 kg')
    await expect.poll(async () => (await tape()).length).toBe(before + 1)
    await route.fulfill({ response })
  })
  await away.goto(`/jobs/${jobId}`)
  await expect(away.locator('.hero').first()).toHaveText('2 lb 3.25 oz')
  for (const page of [here, away]) expectNoTrouble(page)
})

test('a reload in mid-stage, the back button and leaving lose nothing', async ({ as, shop }) => {
  const page = await as('metric')
  await running(page, shop)
  await weigh(page, '13 kg')
  await page.reload()
  await expect(page.locator('.hero').first()).toHaveText('1.000 kg')
  await ready(page)
  await weigh(page, '14 kg')
  await page.getByRole('link', { name: 'Bench' }).first().click()
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await page.goBack()
  await expect(page.locator('.hero').first()).toHaveText('2.000 kg')
  expectNoTrouble(page)
})

test('without signal entries wait on the device, and are sent in order, once each', async ({ as, shop }) => {
  const page = await as('metric')
  const { jobId, tape } = await running(page, shop)
  await settled(page)
  const before = (await tape()).length

  await page.context().setOffline(true)
  await weigh(page, '13 kg')
  await expect(page.locator('.hero').first()).toHaveText('1.000 kg')
  await expect(page.getByText(/No connection: 1 entry waits/)).toBeVisible()
  await weigh(page, '14 kg')
  await weigh(page, '15 kg')
  await expect(page.getByText(/No connection: 3 entries wait/)).toBeVisible()
  await expect(page.locator('.tape').getByText('waiting', { exact: true })).toHaveCount(3)
  expect(await tape()).toHaveLength(before)

  // The server is reached again only after the page was opened anew: what waited is still there.
  await page.route('**/jobs/*/tape', (route) => route.abort())
  await page.context().setOffline(false)
  await page.reload()
  await expect(page.locator('.hero').first()).toHaveText('3.000 kg')
  await expect(page.locator('.tape').getByText('waiting', { exact: true })).toHaveCount(3)
  expect(await tape()).toHaveLength(before)

  await page.unroute('**/jobs/*/tape')
  await settled(page)
  const weights = (await tape()).slice(before).map((e) => (e.body as { weightMg: number }).weightMg)
  expect(weights).toEqual([13_000_000, 14_000_000, 15_000_000])
  await expect(page.getByText('No connection')).toHaveCount(0)
  await open(page, `/jobs/${jobId}`)
  await expect(page.locator('.hero').first()).toHaveText('3.000 kg')
})

test('a correction moves books and total, and what was written stays on the tape', async ({ as, shop }) => {
  const page = await as('metric')
  const { cylinderId } = await running(page, shop)
  await page.getByRole('button', { name: 'Finish …' }).click()
  await page.getByLabel('Final weight on the scale').fill('15.3 kg')
  await page.getByRole('button', { name: 'End this transfer' }).click()
  await expect(page.locator('.hero').first()).toHaveText('3.300 kg')
  await page.getByRole('button', { name: /Correct: Transfer ended/ }).click()
  await page.getByLabel('It was').fill('13.5 kg')
  await page.getByLabel('Why').fill('read the wrong line')
  await page.getByRole('button', { name: 'Correct', exact: true }).last().click()
  await expect(page.locator('.hero').first()).toHaveText('1.500 kg')
  await expect(page.getByText('was: Transfer ended at 15.300 kg')).toBeVisible()
  await settled(page)
  expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId)))!.balanceMg).toBe(1_500_000)
  const list = await inShop(shop.shopId, (tx) => movements(tx, { cylinderId }, 10))
  expect(list.map((m) => m.massMg)).toEqual([1_800_000, 3_300_000])
  expectNoTrouble(page)
})

test('another scale in mid-job can follow', async ({ alone }) => {
  // No kit, and a browser that remembers none.
  const { page, shop } = await alone()
  await running(page, shop)
  await weigh(page, '13 kg')
  await page.getByRole('button', { name: 'Other scale …' }).click()
  await page.getByLabel('Which scale').fill('Old one')
  await page.getByLabel('It shows').selectOption('net')
  await page.getByRole('button', { name: 'Go on with this scale' }).click()
  await weigh(page, '0.7 kg')
  await expect(page.locator('.hero').first()).toHaveText('1.700 kg')
  expectNoTrouble(page)
})
