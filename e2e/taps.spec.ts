// How many taps it takes, counted: in gloves every one of them is felt.
import type { Locator, Page } from '@playwright/test'
import { cylinderOf, inShop, tapeOf } from '#db'
import { aJob, anEntry, note } from '../testing/a-shop'
import { aRunningJob } from './arrange'
import { aCylinder, expect, expectNoTrouble, open, test } from './shop'

const PHONE = { width: 390, height: 844 }

/** Taps are counted; the digits of a weight are another matter. */
function counting(page: Page) {
  let taps = 0
  return {
    tap: async (what: Locator) => {
      taps++
      await what.tap()
    },
    digits: async (keys: string) => {
      for (const key of keys.split(' '))
        await page.getByRole('group', { name: 'Keys' }).getByRole('button', { name: key, exact: true }).tap()
    },
    /** How many since it was asked last. */
    since: () => {
      const count = taps
      taps = 0
      return count
    },
  }
}

test('3 taps to the first weight, 1 for each further one, 4 from there to the verdict', async ({ alone }) => {
  const { page, shop } = await alone({ hasTouch: true, viewport: PHONE, timezoneId: 'UTC' })
  const label = `Tap ${crypto.randomUUID().slice(0, 8)}`
  const cylinderId = await aCylinder(shop, { label })
  const { tap, digits, since } = counting(page)
  await open(page, '/')

  await tap(page.getByRole('link', { name: 'New job' }))
  await tap(page.getByRole('radio', { name: new RegExp(label) }))
  // By tare and books it should show 12 kg, and does.
  await expect(page.getByLabel('Start weight')).toHaveValue('12.000 kg')
  await tap(page.getByRole('button', { name: 'Go', exact: true }))
  await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()
  expect(since()).toBe(3)

  // Focus is where the next number goes; no phone's keyboard comes up for it.
  const field = page.getByLabel('The scale shows')
  await expect(field).toBeFocused()
  await expect(field).toHaveAttribute('inputmode', 'none')
  await digits('1 3 point 2')
  await tap(page.getByRole('button', { name: 'Note weight' }))
  await expect(page.locator('.hero').first()).toHaveText('1.200 kg')
  await expect(field).toBeFocused()
  await digits('1 4 point 1 kg')
  await tap(page.getByRole('button', { name: 'Note weight' }))
  await expect(page.locator('.hero').first()).toHaveText('2.100 kg')
  expect(since()).toBe(2)

  await tap(page.getByRole('button', { name: 'Finish …' }))
  await expect(page.getByLabel('Final weight on the scale')).toBeFocused()
  await tap(page.getByRole('button', { name: 'It still shows 14.100 kg' }))
  await tap(page.getByLabel(/has self-purged/))
  await tap(page.getByRole('button', { name: 'Empty: down to level' }))
  await expect(page.locator('.verdict').first()).toContainText('Recovered 2.100 kg')
  expect(since()).toBe(4)
  await expect
    .poll(async () => (await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId)))!.balanceMg)
    .toBe(2.1e6)
  expectNoTrouble(page)
})

test('the face fits between the bars; an alarm too; nothing needs scrolling', async ({
  as,
  browser,
  shop,
}) => {
  const label = `Fit ${crypto.randomUUID().slice(0, 8)}`
  await aCylinder(shop, { label })
  const page = await as(
    'us',
    await browser.newContext({ hasTouch: true, viewport: PHONE, timezoneId: 'UTC' }),
  )
  await open(page, '/jobs/new')
  await page.getByRole('radio', { name: new RegExp(label) }).tap()
  await page.getByRole('button', { name: 'Go', exact: true }).tap()
  const fits = async () => {
    await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()
    const places = page.locator('.bottombar')
    const bar = (await places.isVisible()) ? await places.boundingBox() : undefined
    const last = await page.getByRole('button', { name: 'Finish …' }).boundingBox()
    // Where somebody's clock runs it takes the place of the bar.
    expect(last!.y + last!.height).toBeLessThanOrEqual(bar?.y ?? PHONE.height)
    const keys = await page.locator('.scale-face button:visible').evaluateAll((all) =>
      all
        .filter((each) => !each.matches('.face-leave .btn, .face-echo .btn'))
        .map((each) => [each.textContent, Math.round(each.getBoundingClientRect().height)] as const)
        .filter(([, height]) => height < 56),
    )
    expect(keys).toEqual([])
  }
  await fits()
  // 1 lb, then two readings at a tap.
  const field = page.getByRole('textbox', { name: 'The scale shows' })
  await field.fill('27 lb 8 oz')
  await field.press('Enter')
  await page.getByRole('button', { name: /^Low side/ }).tap()
  await page.getByRole('textbox', { name: 'Low side' }).fill('118')
  await page.getByRole('button', { name: 'Note the reading' }).tap()
  await expect(page.getByRole('button', { name: 'Low side: 118 psig' })).toBeVisible()
  await expect(field).toBeFocused()
  await fits()

  // Ten times too large: asked while it is typed, put right in one tap, and the keys have not moved.
  const key = page.getByRole('group', { name: 'Keys' }).getByRole('button', { name: '7', exact: true })
  const before = await key.boundingBox()
  await field.fill('292')
  await expect(page.getByText('Past the limit: really so much?')).toBeVisible()
  expect(await key.boundingBox()).toEqual(before)
  await page.getByRole('button', { name: '29 lb 3.25 oz?' }).tap()
  await expect(page.locator('.hero').first()).toHaveText('2 lb 12 oz')

  // Undone in one tap, and the number comes back to be put right.
  await page.getByRole('button', { name: 'Undo: Weight 29 lb 3.25 oz' }).tap()
  await expect(page.locator('.hero').first()).toHaveText('1 lb 0.75 oz')
  await expect(field).toHaveValue('29 lb 3.2 oz')

  // What was typed and not noted survives a reload, and another job in between.
  await page.reload()
  await expect(field).toHaveValue('29 lb 3.2 oz')
  const path = new URL(page.url()).pathname
  await open(page, '/')
  await open(page, path)
  await expect(field).toHaveValue('29 lb 3.2 oz')

  // Near the limit the alarm stands above the keys, with the next cylinder beside it.
  await field.fill('63 lb')
  await field.press('Enter')
  await page.getByRole('button', { name: 'It is right' }).tap()
  const alarm = page.locator('.face-alarm')
  await expect(alarm).toContainText('Near the limit')
  expect((await alarm.boundingBox())!.y).toBeLessThan((await key.boundingBox())!.y)
  await fits()
  await alarm.getByRole('button', { name: 'Next cylinder' }).tap()
  await page.getByRole('button', { name: /^It still shows/ }).tap()
  await expect(page.getByRole('heading', { name: 'Cylinder to recover into' })).toBeVisible()

  expectNoTrouble(page)
  await page.context().close()
})

test('the charging face fits between the bars too, hose and stop weight with it', async ({
  as,
  browser,
  shop,
}) => {
  const [cylinderId, jobId] = await Promise.all([aCylinder(shop, { kind: 'virgin' }), aJob(shop)])
  const runId = crypto.randomUUID()
  // Minutes ago: what has happened is not refused.
  const ago = (minutes: number) => ({ at: Date.now() - minutes * 60_000, backdated: true })
  const start = { runId, use: 'charge', cylinderId, scale: '', mode: 'gross' } as const
  await note(
    shop,
    jobId,
    anEntry('job-described', { refrigerant: 'R-410A' }, ago(60)),
    anEntry('recovery-ended', { how: 'lost' }, ago(50)),
    anEntry('target-set', { massMg: 3e6, toleranceMg: 30_000, basis: 'typed' }, ago(40)),
    anEntry('run-started', { ...start, weightMg: 21e6, hoseMg: 50_000 }, ago(9)),
    anEntry('weight-noted', { runId, weightMg: 20.2e6 }, ago(6)),
    anEntry('weight-noted', { runId, weightMg: 19.4e6 }, ago(3)),
  )
  const page = await as('us', await browser.newContext({ viewport: PHONE, timezoneId: 'UTC' }))
  await open(page, `/jobs/${jobId}`)
  await expect(page.getByText('Close the valve when the scale shows')).toBeVisible()
  const places = page.locator('.bottombar')
  const bar = (await places.isVisible()) ? await places.boundingBox() : undefined
  const last = await page.getByRole('button', { name: 'Finish …' }).boundingBox()
  expect(last!.y + last!.height).toBeLessThanOrEqual(bar?.y ?? PHONE.height)
  expectNoTrouble(page)
  await page.context().close()
})

test('a tap or a swipe leads to the whole job, and back', async ({ as, browser, shop }) => {
  const { path } = await aRunningJob(shop)
  const page = await as(
    'us',
    await browser.newContext({ hasTouch: true, viewport: PHONE, timezoneId: 'UTC' }),
  )
  await open(page, path)
  const tape = page.getByRole('region', { name: 'Tape' })
  const back = page.getByRole('button', { name: 'Back to the scale' })
  await expect(tape).toBeHidden()
  await page.getByRole('button', { name: 'Whole job' }).tap()
  await expect(tape).toBeVisible()
  await expect(page.getByText('Recover, 2 of 9')).toBeVisible()
  await back.tap()
  await expect(tape).toBeHidden()
  const swipe = (dx: number, dy: number) =>
    page.locator('.scale-face').evaluate(
      (face, [x, y]) => {
        const at = (clientX: number, clientY: number) =>
          new Touch({ identifier: 1, target: face, clientX, clientY })
        face.dispatchEvent(new TouchEvent('touchstart', { touches: [at(200, 200)], bubbles: true }))
        face.dispatchEvent(
          new TouchEvent('touchend', { changedTouches: [at(200 + x!, 200 + y!)], bubbles: true }),
        )
      },
      [dx, dy],
    )
  // A slip of the thumb, or scrolling, is none.
  await swipe(40, 0)
  await swipe(120, 100)
  await expect(tape).toBeHidden()
  await swipe(-150, 10)
  await expect(tape).toBeVisible()
  expectNoTrouble(page)
  await page.context().close()
})

test('Go counts without a signal: the job opens by itself when it returns', async ({ as, browser, shop }) => {
  const label = `Deaf ${crypto.randomUUID().slice(0, 8)}`
  await aCylinder(shop, { label })
  const page = await as('metric', await browser.newContext({ viewport: PHONE, timezoneId: 'UTC' }))
  await open(page, '/jobs/new')
  await page.getByRole('radio', { name: new RegExp(label) }).check()
  await page.context().setOffline(true)
  await page.getByRole('button', { name: 'Go', exact: true }).click()
  await expect(page.getByText('No signal: the job and its start weight are noted')).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()
  const jobId = page.url().split('/').at(-1)!
  const kinds = (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).map((entry) => entry.kind)
  expect(kinds).toEqual(['job-described', 'cylinder-chosen', 'run-started'])
  expectNoTrouble(page)
  await page.context().close()
})
