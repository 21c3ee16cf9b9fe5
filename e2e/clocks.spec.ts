// What is due at a time calls wherever one is, and is answered there.
import { randomUUID } from 'node:crypto'
import type { Page } from '@playwright/test'
import { inShop, tapeOf } from '#db'
import { aJob, anEntry, note } from '../testing/a-shop'
import { expect, expectNoTrouble, type Harbour, open, test } from './shop'

const MINUTE = 60_000
const strip = (page: Page) => page.getByRole('region', { name: 'What runs' })

/** A job whose vacuum hold, or watch, began so many minutes ago. */
async function aJobThatRuns(shop: Harbour, minutesAgo: number) {
  const jobId = await aJob(shop)
  const at = { at: Date.now() - minutesAgo * MINUTE, backdated: true }
  const holdId = randomUUID()
  const title = `Clock ${jobId.slice(0, 8)}`
  await note(
    shop,
    jobId,
    anEntry('job-described', { title, refrigerant: 'R-410A' }, at),
    anEntry('recovery-ended', { how: 'lost' }, at),
    anEntry('hold-started', { holdId, pressurePa: 60 }, at),
  )
  return { jobId, title }
}

test('a hold that is due calls on every screen, and its number is noted from there', async ({
  as,
  browser,
  shop,
}) => {
  const { jobId, title } = await aJobThatRuns(shop, 11)
  const page = await as('metric', await browser.newContext({ viewport: { width: 390, height: 844 } }))
  await page.addInitScript(() => {
    const calls = ((window as unknown as { calls: unknown[] }).calls = [] as unknown[])
    navigator.vibrate = (pattern) => calls.push(pattern) > 0
  })
  const calls = () => page.evaluate(() => (window as unknown as { calls: unknown[] }).calls.length)
  // Somebody else's job only stands there; once it was opened here, it calls here.
  await open(page, '/cylinders')
  await expect(strip(page).getByText(title)).toBeVisible()
  await expect(strip(page)).toContainText('due since 1 min')
  expect(await calls()).toBe(0)
  await open(page, `/jobs/${jobId}`)
  await expect(strip(page).getByText(/vacuum hold, due since/)).toBeVisible()
  await expect.poll(calls).toBe(1)
  await open(page, '/systems')
  const field = strip(page).getByLabel('The vacuum gauge reads')
  await field.fill('480')
  // What was typed is still there after a reload, and it does not call again.
  await page.reload()
  await expect(field).toHaveValue('480')
  expect(await calls()).toBe(0)

  // Without a signal a press counts, too.
  await page.context().setOffline(true)
  await strip(page).getByRole('button', { name: 'Note it' }).click()
  await expect(strip(page).getByText(title)).toHaveCount(0)
  await expect(page.getByText('1 entry waits on this device')).toBeVisible()
  await page.context().setOffline(false)
  const ends = async () =>
    (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).filter((entry) => entry.kind === 'hold-ended')
  await expect.poll(async () => (await ends()).length).toBe(1)

  // The verdict waits in the job.
  await open(page, `/jobs/${jobId}`)
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: /^Evacuate/ })
    .click()
  await expect(page.getByRole('heading', { name: 'It held: tight and dry' })).toBeVisible()
  await page.getByRole('button', { name: 'Note the verdict' }).click()
  await expect(page.getByRole('button', { name: 'I judge it otherwise …' })).toBeVisible()
  expectNoTrouble(page)
  await page.context().close()
})

test('a watch shows how long still, on another screen and in another tab, and can be stopped', async ({
  as,
  browser,
  shop,
}) => {
  const jobId = await aJob(shop)
  await note(
    shop,
    jobId,
    anEntry('job-described', { title: `Nitrogen ${jobId.slice(0, 8)}`, refrigerant: 'R-410A' }),
  )
  const context = await browser.newContext()
  const page = await as('metric', context)
  await open(page, `/jobs/${jobId}`)
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: /^Leak test/ })
    .click()
  const nitrogen = page.getByRole('region', { name: 'Nitrogen hold' })
  await nitrogen.getByLabel('It stands at').fill('9 bar')
  await nitrogen.getByLabel('Pipe temperature').fill('20 C')
  await nitrogen.getByRole('button', { name: 'Valve shut: start the hold' }).click()
  await page.getByRole('button', { name: 'Watch it for 60 min' }).click()
  await expect(strip(page)).toContainText(/nitrogen hold \d+ s ?59 min \d\d s left/)
  const other = await as('metric', context)
  await open(other, '/ledger')
  await expect(strip(other)).toContainText(/nitrogen hold/)
  await expect
    .poll(async () => (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).map((entry) => entry.kind))
    .toContain('watch-started')
  // Time is up, by a watch of the past.
  await note(
    shop,
    jobId,
    anEntry(
      'watch-started',
      { watchId: randomUUID(), what: 'pull', forS: 600 },
      { at: Date.now() - 12 * MINUTE, backdated: true },
    ),
  )
  await expect(strip(other).getByText(/low side watched, due since/)).toBeVisible()
  await strip(other).getByLabel('The low side reads').fill('0.1 bar')
  await strip(other).getByRole('button', { name: 'Note it' }).click()
  await expect(page.locator('.tape').getByText('Low side 0.10 bar g')).toBeVisible()
  await expect(page.locator('.tape').getByText('Watch ended')).toBeVisible()
  await expect(strip(page)).not.toContainText('low side watched')
  expectNoTrouble(page)
  await context.close()
})
