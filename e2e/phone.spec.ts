// One hand, a phone of 390 pixels, and the paths that are not the usual order.
import type { Page } from '@playwright/test'
import { cylinderOf, inShop, tapeOf } from '#db'
import { aJob, anEntry, note } from '../testing/a-shop'
import { aRunningJob } from './arrange'
import {
  aCylinder,
  aSystem,
  expect,
  expectNoTrouble,
  type Harbour,
  open,
  showAllCylinders,
  test,
} from './shop'

const PHONE = { width: 390, height: 844 }
const stage = async (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click()
const tape = (page: Page) => page.getByRole('region', { name: 'Tape' })

/** A job on a system of its own, opened. */
async function openJob(page: Page, shop: Harbour, over: Parameters<typeof aSystem>[1] = {}) {
  const name = `Paths ${crypto.randomUUID().slice(0, 8)}`
  const [systemId, jobId] = await Promise.all([aSystem(shop, { name, ...over }), aJob(shop)])
  await note(shop, jobId, anEntry('job-described', { title: '', systemId, refrigerant: 'R-410A' }))
  await open(page, `/jobs/${jobId}`)
  return name
}

test('on a phone: from the roof to the verdict, every target large enough for a glove', async ({
  as,
  shop,
}) => {
  const label = `Pocket ${crypto.randomUUID().slice(0, 8)}`
  await aCylinder(shop, { label })
  const page = await as('us')
  await page.setViewportSize(PHONE)
  await open(page, '/jobs/new')
  await page.getByLabel('Refrigerant').selectOption('R-410A')
  await page.getByLabel('Label of the cylinder on the scale').fill(label)
  await page.getByLabel('Start weight').fill('26 lb 8 oz')
  await page.getByRole('button', { name: 'Go', exact: true }).click()
  await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()
  await page.getByLabel('The scale shows').fill('29 lb')
  await page.getByRole('button', { name: 'Note weight' }).click()
  await expect(page.locator('.hero').first()).toHaveText('2 lb 8 oz')
  const note = await page.getByRole('button', { name: 'Note weight' }).boundingBox()
  expect(note!.y + note!.height).toBeLessThan(PHONE.height)

  const small = await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('main button, main select, main input, nav a')]
      .filter((e) => e.offsetParent !== null && !e.classList.contains('form-check-input'))
      .map((e) => [e.textContent || e.id, e.getBoundingClientRect().height] as const)
      .filter(([, height]) => height < 44),
  )
  expect(small).toEqual([])

  await page.getByRole('button', { name: 'Finish …' }).click()
  await page.getByLabel('Final weight on the scale').fill('29 lb 4 oz')
  await page.getByRole('button', { name: 'End this transfer' }).click()
  await page.getByLabel(/self-purged/).check()
  await page.getByRole('button', { name: 'Stop here: not empty yet' }).click()
  await expect(page.getByRole('heading', { name: 'Not emptied: this cannot be judged' })).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width)
  expectNoTrouble(page)
})

test('a leak found, searched again, and a verdict overruled with its reason', async ({ as, shop }) => {
  const page = await as('metric')
  await openJob(page, shop)
  await stage(page, 'Leak test')
  await page.getByLabel('Method').selectOption('Electronic detector')
  await page.getByLabel(/Where, at what pressure/).fill('flare at the valve')
  await page.getByRole('button', { name: 'Leak found', exact: true }).click()
  await expect(tape(page).getByText('Electronic detector: leak found, flare at the valve')).toBeVisible()
  await stage(page, 'Repair')
  await page.getByLabel('New filter-drier').check()
  await page.getByLabel('What was done').fill('New flare and drier')
  await page.getByRole('button', { name: 'Note it' }).click()
  await page.getByLabel('Repair done').check()
  await stage(page, 'Leak test')
  await page.getByRole('button', { name: 'None found', exact: true }).click()

  await stage(page, 'Evacuate')
  await page.getByLabel('The gauge reads').fill('420')
  await page.getByRole('button', { name: /start a hold/ }).click()
  await page.getByLabel('The gauge reads').fill('430')
  await page.getByRole('button', { name: 'End the hold with this' }).click()
  await expect(page.getByRole('heading', { name: 'Too soon to tell' })).toBeVisible()
  await page.getByRole('button', { name: 'I judge it otherwise …' }).click()
  await page.getByLabel('How do you judge it, and why?').fill('Held over lunch, read by eye')
  await page.getByRole('button', { name: 'Overrule' }).click()
  await expect(page.getByText('Overruled: Held over lunch, read by eye', { exact: true })).toBeVisible()
  await expect(tape(page).getByText('Cannot tell: Too soon to tell')).toBeVisible()
  expectNoTrouble(page)
})

test('stages in any order: charge first, then a chosen cylinder released again', async ({ as, shop }) => {
  const page = await as('metric')
  await openJob(page, shop, { plateMg: null })
  await stage(page, 'Charge')
  await page.getByLabel('Your own figure').fill('1.2 kg')
  await page.getByRole('button', { name: 'Set' }).click()
  await expect(tape(page).getByText('Target 1.200 kg ± 15 g, from your own figure')).toBeVisible()
  await stage(page, 'Prepare')
  const label = `Loose ${crypto.randomUUID().slice(0, 8)}`
  const cylinder = await aCylinder(shop, { label })
  await page.getByLabel('Label of another cylinder').fill(label)
  await page.getByRole('button', { name: 'Choose by label' }).click()
  await expect(page.getByText(`${label} is chosen`)).toBeVisible()
  await page.getByRole('button', { name: 'Release' }).click()
  await expect(page.getByText(`${label} is chosen`)).toHaveCount(0)
  await expect(tape(page).getByText(`${label} released`)).toBeVisible()
  expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinder)))!.reservedMg).toBe(0)
  expectNoTrouble(page)
})

test('a system added in the middle of a job comes back to it with its plate', async ({ as, shop }) => {
  const page = await as('us')
  const name = `Found later ${crypto.randomUUID().slice(0, 8)}`
  await open(page, '/jobs/new')
  await page.getByLabel(/What the job is/).fill('Ferry galley')
  await page.getByRole('button', { name: 'Open the job' }).click()
  await page.getByRole('heading', { name: 'Ferry galley' }).waitFor()
  await page.getByRole('link', { name: 'Add it' }).click()
  await page.getByRole('heading', { name: 'Add a system' }).waitFor()
  await page.getByLabel('System', { exact: true }).fill(name)
  await page.getByLabel('Customer').fill('Cold quay')
  await page.getByLabel('Site, or vehicle').fill('Hall 1')
  await page.getByLabel('Refrigerant').selectOption('R-134a')
  await page.getByLabel('Charge on the plate').fill('2 lb 2 oz')
  await page.getByRole('button', { name: 'Add the system' }).click()
  await expect(page.getByRole('link', { name })).toBeVisible()
  await expect(page.locator('.hero').first()).toHaveText('2 lb 2 oz')
  expectNoTrouble(page)
  void shop
})

test('the quick-entry line: help, times gone by, and what it cannot read', async ({ as, shop }) => {
  const page = await as('metric')
  await openJob(page, shop)
  const line = page.getByLabel('Quick entry')
  await page.getByRole('button', { name: 'Help' }).click()
  await expect(page.getByText('any of these, as it was at 10:42 today')).toBeVisible()
  await line.fill('w 12')
  await expect(page.getByText('No transfer is running')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Note', exact: true })).toBeDisabled()
  await line.fill('@00:00 t 12')
  await line.press('Enter')
  await expect(tape(page).getByText('Ambient 12 °C')).toBeVisible()
  await expect(line).toHaveValue('')
  await line.fill('p high 20 bar')
  await line.press('Enter')
  await line.fill('oil out 30')
  await line.press('Enter')
  for (const text of ['High side 20.00 bar g', 'Oil out 30 mL'])
    await expect(tape(page).getByText(text)).toBeVisible()
  await expect(tape(page).getByText('waiting', { exact: true })).toHaveCount(0)
  const jobId = page.url().split('/').at(-1)!
  const entries = await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))
  const ambient = entries.find((e) => e.kind === 'temperature-noted')!
  expect(new Date(ambient.at).toISOString()).toMatch(/T00:00:00/)
  expectNoTrouble(page)
})

test('keys lead to the places, and can be switched off', async ({ as, browser, shop }) => {
  // The browser remembers it: one of its own.
  const page = await as('metric', await browser.newContext())
  await open(page, '/')
  for (const [key, heading] of [
    ['c', 'Cylinders'],
    ['s', 'Systems'],
    ['l', 'Ledger'],
    ['n', 'New job'],
    ['b', 'Bench'],
  ] as const) {
    await page.keyboard.press(key)
    await expect(page.getByRole('heading', { name: heading, level: 1 })).toBeVisible()
  }
  await page.keyboard.press('?')
  await page.getByLabel('Single keys work').uncheck()
  await page.getByRole('button', { name: 'Done', exact: true }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.keyboard.press('c')
  // Whatever it led to would have begun by the second frame.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
  await expect(page.getByRole('progressbar')).toHaveCount(0)
  await expect(page).toHaveURL(/\/$/)
  expectNoTrouble(page)
  await page.context().close()
  void shop
})

test('a wrong gas that went in marks the cylinder as mixed, and it is offered to nobody again', async ({
  as,
  shop,
}) => {
  const label = `Spoilt ${crypto.randomUUID().slice(0, 8)}`
  const { cylinderId: cylinder, path } = await aRunningJob(shop, { label })
  const page = await as('metric')
  await open(page, path)
  await page.getByLabel('The scale shows').fill('13 kg')
  await page.getByRole('button', { name: 'Note weight' }).click()
  await page.getByRole('button', { name: 'Finish …' }).click()
  await page.getByLabel('Final weight on the scale').fill('13.2 kg')
  await page.getByRole('button', { name: 'End this transfer' }).click()
  await stage(page, 'Close')
  await page.getByLabel(`The gas in ${label}: what is it fit for?`).selectOption('mixed')
  await expect(tape(page).getByText(`Gas in ${label}: Mixed: reclaim`)).toBeVisible()
  await expect(tape(page).getByText('waiting', { exact: true })).toHaveCount(0)
  expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinder)))!.condition).toBe('mixed')

  await openJob(page, shop)
  await showAllCylinders(page)
  await expect(page.locator('.choice', { hasText: label })).toContainText('It holds mixed gas')
  expectNoTrouble(page)
})
