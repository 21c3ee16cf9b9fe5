// Whose notes they are, what is not taken, and what others change meanwhile.
import { randomUUID } from 'node:crypto'
import type { BrowserContext, Page } from '@playwright/test'
import { addPerson, bookReweigh, changePerson, inShop, openSession } from '#db'
import { METRIC_UNITS } from '#core/units'
import { aJob, anEntry, NOW, note } from '../testing/a-shop'
import { aRunningJob } from './arrange'
import { aCylinder, expect, expectNoTrouble, type Harbour, open, sessionOf, test } from './shop'

/** Somebody of this test alone. */
async function aTechnician(shop: Harbour, name: string) {
  const userId = randomUUID()
  await inShop(shop.shopId, (tx) =>
    addPerson(tx, {
      userId,
      signIn: userId,
      name,
      role: 'technician',
      passwordHash: 'x',
      preferences: { units: METRIC_UNITS },
      at: NOW,
    }),
  )
  return { userId, token: await openSession(shop.shopId, userId) }
}

const weigh = async (page: Page, weight: string) => {
  await page.getByLabel('The scale shows').fill(weight)
  await page.getByRole('button', { name: 'Note weight' }).click()
}
const signIn = (context: BrowserContext, token: string, url: string) =>
  context.addCookies([sessionOf(token, url)])

test('notes of one person wait for them, and are never sent in the name of whoever signs in next', async ({
  browser,
  shop,
  baseURL,
}) => {
  const { jobId, tape } = await aRunningJob(shop)
  const [ann, bob] = [await aTechnician(shop, 'Ann Angler'), await aTechnician(shop, 'Bob Buoy')]
  const context = await browser.newContext()
  await signIn(context, ann.token, baseURL!)
  const first = await context.newPage()
  await open(first, `/jobs/${jobId}`)
  const before = (await tape()).length
  await context.route('**/jobs/*/tape', (route) => route.abort())
  await weigh(first, '13 kg')
  await expect(first.getByText(/1 entry waits/)).toBeVisible()

  // Bob signs in, in another tab: the first begins anew, and is his.
  await signIn(context, bob.token, baseURL!)
  await context.unroute('**/jobs/*/tape')
  const second = await context.newPage()
  await open(second, '/')
  await expect(second.getByText('1 unsent note of Ann Angler kept here')).toBeVisible()
  await expect(first.getByRole('link', { name: 'Settings of Bob Buoy' })).toBeVisible()
  await expect(first.getByText('1 unsent note of Ann Angler kept here')).toBeVisible()
  await weigh(first, '14 kg')
  await expect.poll(async () => (await tape()).length).toBe(before + 1)
  expect((await tape()).at(-1)).toMatchObject({ userId: bob.userId, body: { weightMg: 14e6 } })

  // And Ann again: what she noted is sent as hers.
  await signIn(context, ann.token, baseURL!)
  await open(first, '/')
  await expect.poll(async () => (await tape()).length).toBe(before + 2)
  expect((await tape()).at(-1)).toMatchObject({ userId: ann.userId, body: { weightMg: 13e6 } })
  await context.close()
})

test('what is not taken is kept, read on every page, sent again changed, or thrown away', async ({
  browser,
  shop,
  baseURL,
}) => {
  const { jobId, tape } = await aRunningJob(shop)
  const { userId, token } = await aTechnician(shop, 'Cai Crane')
  const context = await browser.newContext()
  await signIn(context, token, baseURL!)
  const page = await context.newPage()
  await open(page, `/jobs/${jobId}`)
  const before = (await tape()).length
  const role = (role: 'trainee' | 'technician') =>
    inShop(shop.shopId, (tx) => changePerson(tx, userId, { role }))
  await role('trainee')
  await weigh(page, '13 kg')
  await expect(page.getByRole('button', { name: '1 note was not taken' })).toBeVisible()
  await page.getByLabel('Quick entry').fill('note valve leaks')
  await page.getByLabel('Quick entry').press('Enter')
  await expect(page.getByRole('button', { name: '2 notes were not taken' })).toBeVisible()

  await open(page, '/cylinders')
  await page.getByRole('button', { name: '2 notes were not taken' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Not taken: Weight 13.000 kg')
  await expect(dialog).toContainText('You may only read here')
  await role('technician')
  const weight = dialog.getByRole('alert').filter({ hasText: 'Weight 13.000 kg' })
  await weight.getByRole('button', { name: 'Change it …' }).click()
  await weight.getByLabel('It was').fill('13.2 kg')
  await weight.getByRole('button', { name: 'Send it like this' }).click()
  await dialog.getByRole('button', { name: 'Throw it away' }).click()
  await expect(page.getByText('not taken')).toHaveCount(0)
  await expect.poll(async () => (await tape()).length).toBe(before + 1)
  expect((await tape()).at(-1)).toMatchObject({ kind: 'weight-noted', body: { weightMg: 13_200_000 } })
  await context.close()
})

test('a reload in the background that fails leaves the page, with a quiet line', async ({ as, shop }) => {
  const { cylinderId } = await aRunningJob(shop)
  const page = await as('metric')
  // From the first: a reload that was on its way already would bring the new weight.
  let answer: 'none' | 'starting' | 'there' = 'none'
  await page.route(/\.data|\/pack$/, (route) =>
    answer === 'none'
      ? route.abort()
      : answer === 'starting'
        ? route.fulfill({ status: 503, body: 'starting' })
        : route.continue(),
  )
  await open(page, `/cylinders/${cylinderId}`)
  await expect(page.locator('.hero')).toHaveText('0 g')
  const failed = page.waitForEvent('requestfailed')
  await reweigh(shop, cylinderId, 13e6)
  await failed
  await expect(page.getByText(/^From this device, as it was/)).toBeVisible()
  await expect(page.locator('.hero')).toHaveText('0 g')
  answer = 'starting'
  await reweigh(shop, cylinderId, 14e6)
  await page.waitForResponse((response) => response.status() === 503)
  await expect(page.getByText(/^From this device, as it was/)).toBeVisible()
  await expect(page.locator('.hero')).toHaveText('0 g')
  // It comes back by itself, without anything that changes.
  answer = 'there'
  await expect(page.locator('.hero')).toHaveText('2.000 kg')
  await expect(page.getByText(/^From this device, as it was/)).toHaveCount(0)
  expectNoTrouble(page)
})

test('what changes while a page is reloading is caught up after it', async ({ as, shop }) => {
  const { cylinderId } = await aRunningJob(shop)
  const page = await as('metric')
  await open(page, `/cylinders/${cylinderId}`)
  for (let kg = 13; kg < 19; kg++) {
    // The answer is on its way already, with what was so before, when the next change arrives.
    await page.route(
      /\.data/,
      async (route) => {
        const response = await route.fetch()
        await reweigh(shop, cylinderId, (kg + 0.5) * 1e6)
        await route.fulfill({ response })
      },
      { times: 1 },
    )
    await reweigh(shop, cylinderId, kg * 1e6)
    await expect(page.locator('.hero')).toHaveText(`${(kg - 11.5).toFixed(3)} kg`)
  }
  expectNoTrouble(page)
})

test('nothing pressed on the job page needs the network, the line from the slide rule neither', async ({
  as,
  shop,
}) => {
  const { jobId, tape } = await aRunningJob(shop)
  const page = await as('metric')
  await open(page, `/jobs/${jobId}?line=w+13+kg`)
  const before = (await tape()).length
  await page.context().setOffline(true)
  await page.getByRole('button', { name: 'Note', exact: true }).click()
  await expect(page.locator('.hero').first()).toHaveText('1.000 kg')
  await expect(page).toHaveURL(new RegExp(`/jobs/${jobId}$`))
  await expect(page.getByText(/No connection: 1 entry waits/)).toBeVisible()
  await page.context().setOffline(false)
  await expect.poll(async () => (await tape()).length).toBe(before + 1)
  expectNoTrouble(page)
})

test('a form that somebody else has saved meanwhile shows both values, and keeps what was typed', async ({
  as,
  shop,
}) => {
  const id = await aCylinder(shop, { keepsAt: 'Van 1' })
  const [mine, theirs] = [await as('metric'), await as('us')]
  for (const page of [mine, theirs]) await open(page, `/cylinders/${id}/change`)
  await theirs.getByLabel('Where it is kept').fill('Van 2')
  await theirs.getByRole('button', { name: 'Save' }).click()
  await expect(theirs).toHaveURL(new RegExp(`/cylinders/${id}$`))
  await mine.getByLabel('Where it is kept').fill('Shed')
  await mine.getByRole('button', { name: 'Save' }).click()
  await expect(mine.getByText('There now: Van 2. Yours: Shed.')).toBeVisible()
  await expect(mine.getByLabel('Where it is kept')).toHaveValue('Shed')
  await mine.getByRole('button', { name: 'Save' }).click()
  await expect(mine).toHaveURL(new RegExp(`/cylinders/${id}$`))
  await expect(mine.getByText('Shed')).toBeVisible()
  for (const page of [mine, theirs]) expectNoTrouble(page)
})

test('a label that is only like one is never chosen unasked', async ({ as, shop }) => {
  const stamp = randomUUID().slice(0, 6)
  await Promise.all([
    aCylinder(shop, { label: `Tern ${stamp} 10` }),
    aCylinder(shop, { label: `Tern ${stamp} 1` }),
  ])
  const jobId = await aJob(shop)
  await note(shop, jobId, anEntry('job-described', { refrigerant: 'R-410A', title: 'Labels' }))
  const page = await as('metric')
  await open(page, `/jobs/${jobId}`)
  await page.getByLabel('Label of another cylinder').fill(`tern ${stamp}`)
  await page.getByRole('button', { name: 'Choose by label' }).click()
  await expect(page.getByText('Which one is it?')).toBeVisible()
  await expect(page.getByText('is chosen')).toHaveCount(0)
  await page.getByRole('button', { name: `Tern ${stamp} 10` }).click()
  await expect(page.getByText(`Tern ${stamp} 10 is chosen`)).toBeVisible()
  expectNoTrouble(page)
})

const reweigh = (shop: Harbour, cylinderId: string, grossMg: number) =>
  inShop(shop.shopId, (tx) =>
    bookReweigh(tx, {
      voucherId: randomUUID(),
      cylinderId,
      grossMg,
      at: new Date(),
      now: new Date(),
      userId: shop.userId,
      text: '',
    }),
  )
