// Hours without signal: three jobs from quick start to verdict on a phone, with a reload and a restart of the browser in
// the middle; a browser that is killed while it sends; what others did meanwhile; and two people on one device.
import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type BrowserContext, chromium, type Page } from '@playwright/test'
import sharp from 'sharp'
import { addKit, cylinderOf, findCylinders, inShop, jobHead, openSession, tapeOf } from '#db'
import { METRIC_UNITS } from '#core/units'
import { sessionOf } from '../testing/a-session'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, note } from '../testing/a-shop'
import { aRunningJob } from './arrange'
import { packs, programKept, rowsOf, takenAlong } from './on-device'
import { expect, open, ready, test } from './shop'

const PHONE = { width: 390, height: 844 }
const HOUR = 3_600_000
const executablePath = process.env.KEG_CHROMIUM ?? '/usr/bin/chromium'

test.use({ serviceWorkers: 'allow' })

/** A phone of its own, which keeps what it has when its browser is closed. */
async function aPhone(shop: AShop, baseURL: string) {
  const folder = mkdtempSync(join(tmpdir(), 'keg-phone-'))
  let context: BrowserContext | undefined
  const start = async ({ offline = false } = {}): Promise<Page> => {
    context = await chromium.launchPersistentContext(folder, {
      executablePath,
      args: ['--no-sandbox'],
      viewport: PHONE,
      hasTouch: true,
      timezoneId: 'UTC',
      reducedMotion: 'reduce',
      baseURL,
      offline,
    })
    return context.pages()[0] ?? (await context.newPage())
  }
  const page = await start()
  // As the server gives it: it outlives the browser.
  const cookie = sessionOf(await openSession(shop.shopId, shop.userId), baseURL)
  await page.context().addCookies([{ ...cookie, expires: Date.now() / 1000 + 86_400 }])
  return {
    page,
    restart: async (how: { offline: boolean }) => {
      await context?.close()
      return start(how)
    },
    forget: async () => {
      await context?.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

const kindsOf = async (shop: AShop, jobId: string) =>
  (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).map((entry) => entry.kind)
const idIn = (page: Page) => new URL(page.url()).pathname.split('/').at(-1)!

/** From a tap on the cylinder to the word on the recovery. */
async function quickJob(
  page: Page,
  label: string,
  grams: [first: string, last: string],
  midway: () => void = () => {},
) {
  await page.getByRole('link', { name: 'New job' }).tap()
  await page.getByRole('radio', { name: new RegExp(label) }).check()
  await page.getByRole('button', { name: 'Go', exact: true }).tap()
  await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()
  const jobId = idIn(page)
  await page.getByLabel('The scale shows').fill(grams[0])
  await page.getByRole('button', { name: 'Note weight' }).tap()
  midway()
  await page.getByRole('button', { name: 'Finish …' }).tap()
  await page.getByLabel('Final weight on the scale').fill(grams[1])
  await page.getByRole('button', { name: 'End this transfer' }).tap()
  await page.getByLabel(/self-purged/).check()
  await page.getByRole('button', { name: 'Stop here: not empty yet' }).tap()
  await expect(page.getByRole('heading', { name: 'Not emptied: this cannot be judged' })).toBeVisible()
  return jobId
}

test('eight hours without signal: three jobs from quick start to verdict, a reload and a restart between them', async ({
  baseURL,
}) => {
  const shop = await aShop('no password', undefined, { units: METRIC_UNITS })
  const labels = ['Tern 1', 'Tern 2', 'Tern 3']
  const cylinders = await Promise.all(labels.map((label) => aCylinder(shop, { label })))
  const phone = await aPhone(shop, baseURL!)
  try {
    let page = phone.page
    const start = Date.now()
    await page.clock.install({ time: start })
    await open(page, '/')
    await takenAlong(page)
    await page.context().setOffline(true)

    const jobs = [await quickJob(page, labels[0]!, ['12.4 kg', '13 kg'])]
    await page.clock.fastForward(3 * HOUR)
    await page.reload()
    await ready(page)
    await expect(page.getByRole('heading', { name: 'Not emptied: this cannot be judged' })).toBeVisible()
    await expect(page.getByText(/^From this device, as it was/)).toBeVisible()
    jobs.push(await quickJob(page, labels[1]!, ['12.2 kg', '12.9 kg']))

    page = await phone.restart({ offline: true })
    await page.clock.install({ time: start + 6 * HOUR })
    await open(page, '/')
    // What was done is there, and marked: in the list, on the rack.
    await expect(page.locator('.job-card').filter({ hasText: 'New job, no number yet' })).toHaveCount(2)
    await page.getByRole('link', { name: 'Cylinders' }).first().tap()
    const tern = page.getByRole('link', { name: /Tern 2/ })
    await expect(tern).toContainText('900 g')
    await expect(tern).toContainText('not sent yet')
    jobs.push(await quickJob(page, labels[2]!, ['12.5 kg', '13.1 kg']))
    await page.clock.fastForward(2 * HOUR)
    // Nothing of it is on the server.
    expect(await Promise.all(jobs.map((jobId) => inShop(shop.shopId, (tx) => jobHead(tx, jobId))))).toEqual([
      undefined,
      undefined,
      undefined,
    ])

    await page.context().setOffline(false)
    await page.clock.fastForward(60_000)
    const numbers = async () =>
      Promise.all(jobs.map(async (jobId) => (await inShop(shop.shopId, (tx) => jobHead(tx, jobId)))?.number))
    await expect.poll(async () => (await numbers()).filter(Boolean).length).toBe(3)
    for (const jobId of jobs)
      await expect
        .poll(() => kindsOf(shop, jobId))
        .toEqual([
          'job-described',
          'cylinder-chosen',
          'run-started',
          'weight-noted',
          'run-ended',
          'step-done',
          'recovery-ended',
          'verdict-given',
        ])
    // 1 000, 900 and 1 100 g over the empty 12 kg, each once.
    const held = await Promise.all(
      cylinders.map(async (id) => (await inShop(shop.shopId, (tx) => cylinderOf(tx, id)))!.balanceMg),
    )
    expect(held).toEqual([1_000_000, 900_000, 1_100_000])
    await expect(page.getByText(/No connection/)).toHaveCount(0)
    await expect(page.getByText(/^Job \d+$/).first()).toBeVisible()
  } finally {
    await phone.forget()
  }
})

test('cylinders and systems that are made without signal are sent before what names them', async ({
  baseURL,
}) => {
  const shop = await aShop('no password', undefined, { units: METRIC_UNITS })
  await aCylinder(shop, { label: 'Skua 1' })
  const phone = await aPhone(shop, baseURL!)
  const { page } = phone
  try {
    await open(page, '/')
    await takenAlong(page)
    await page.context().setOffline(true)
    await page.getByRole('link', { name: 'Cylinders' }).first().tap()
    await page.getByRole('link', { name: 'Add a cylinder' }).tap()
    await page.getByLabel('Label', { exact: true }).fill('Skua 9')
    await page.getByLabel(/^Tare weight/).fill('11 kg')
    await page.getByLabel(/^Water capacity/).fill('11.9 kg')
    await page.getByLabel('Service pressure').fill('40 bar')
    await page.getByLabel('Last pressure test, month and year').fill('05/25')
    await page.getByRole('button', { name: 'Add the cylinder' }).tap()
    await expect(page.getByRole('heading', { name: 'Skua 9' })).toBeVisible()
    await expect(page.getByText('not sent yet')).toBeVisible()
    const cylinderId = idIn(page)
    // Meanwhile somebody in the shop gives another one this label.
    await aCylinder(shop, { label: 'Skua 9' })
    const jobId = await quickJobOn(page, 'Skua 9')
    // Another one is added from its collar, where the job begins.
    await page.getByRole('button', { name: 'Whole job' }).tap()
    await page.getByRole('link', { name: 'New job' }).tap()
    await page.getByLabel('Label of the cylinder on the scale').fill('Skua 12')
    await page.getByLabel('Refrigerant').selectOption('R-134a')
    await page.getByRole('button', { name: 'Go', exact: true }).tap()
    await expect(page.getByText(/has the label "Skua 12": look at the label/)).toBeVisible()
    await page.getByLabel(/^Tare weight/).fill('9 kg')
    await page.getByLabel(/^Water capacity/).fill('11.9 kg')
    await page.getByLabel('Tested, month and year').fill('05/25')
    await page.getByLabel('Service pressure').fill('40 bar')
    await page.getByLabel('Start weight').fill('9 kg')
    await page.getByRole('button', { name: 'Go', exact: true }).tap()
    await expect(page.getByRole('heading', { name: 'R-134a into Skua 12' })).toBeVisible()
    const second = idIn(page)
    await page.context().setOffline(false)
    await expect.poll(() => kindsOf(shop, second)).toContain('run-started')
    expect(await inShop(shop.shopId, (tx) => findCylinders(tx, 'Skua 12'))).toMatchObject([
      { tareMg: 9_000_000, waterCapacityMg: 11_900_000, testYears: 5 },
    ])
    await expect.poll(() => kindsOf(shop, jobId)).toContain('run-started')
    const told = page.getByText(/was taken meanwhile: it is Skua 9 \(2\) now/)
    await expect(told).toBeVisible()
    // Whoever has not read it yet finds it on the next page, too.
    await open(page, '/cylinders')
    await expect(told).toBeVisible()
    await page.getByRole('button', { name: 'Done' }).tap()
    await expect(told).toHaveCount(0)
    const row = await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId))
    expect(row).toMatchObject({ label: 'Skua 9 (2)', tareMg: 11_000_000 })
    expect(await inShop(shop.shopId, (tx) => findCylinders(tx, 'Skua 9'))).toHaveLength(2)
  } finally {
    await phone.forget()
  }
})

/** One that has no gas yet is given one. */
async function quickJobOn(page: Page, label: string): Promise<string> {
  await page.getByRole('link', { name: 'New job' }).tap()
  await page.getByRole('radio', { name: new RegExp(label) }).check()
  await page.getByLabel('Refrigerant').selectOption('R-410A')
  await page.getByRole('button', { name: 'Go', exact: true }).tap()
  await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()
  return idIn(page)
}

test('photos that are taken without signal stay on the device, and are sent and noted when it is back', async ({
  baseURL,
}) => {
  const shop = await aShop('no password', undefined, { units: METRIC_UNITS })
  const jobId = await aJob(shop)
  await note(shop, jobId, anEntry('job-described', { refrigerant: 'R-404A', title: 'Store at the quay' }))
  const phone = await aPhone(shop, baseURL!)
  let { page } = phone
  const photos = () => page.getByRole('region', { name: 'Photos' })
  const taken = () => photos().getByRole('img', { name: /^After/ })
  const seen = () => taken().evaluate((image: HTMLImageElement) => [image.naturalWidth, image.naturalHeight])
  const repair = () =>
    page
      .getByRole('navigation', { name: 'Stages' })
      .getByRole('button', { name: /^Repair/ })
      .tap()
  const noted = async () => (await kindsOf(shop, jobId)).filter((kind) => kind === 'photo-noted')
  try {
    await open(page, '/')
    await takenAlong(page)
    await page.context().setOffline(true)
    await page.locator('.job-card').tap()
    await repair()
    await photos().getByRole('button', { name: 'After' }).tap()
    // As a phone held upright writes it: lying on its side, with a word on how to turn it.
    const buffer = await sharp({ create: { width: 3200, height: 2400, channels: 3, background: '#8a5a3c' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer()
    await photos()
      .locator('input[type=file]')
      .setInputFiles({ name: 'x.jpg', mimeType: 'image/jpeg', buffer })
    await expect(photos()).toContainText('not sent yet')
    expect(await seen()).toEqual([1200, 1600])
    await expect(page.getByText('1 entry waits on this device')).toBeVisible()
    // One that is not wanted goes with two presses.
    await photos()
      .locator('input[type=file]')
      .setInputFiles({ name: 'y.jpg', mimeType: 'image/jpeg', buffer })
    await expect(taken()).toHaveCount(2)
    await photos().getByRole('button', { name: 'Throw it away …' }).last().tap()
    await photos().getByRole('button', { name: 'Throw it away', exact: true }).tap()
    await expect(taken()).toHaveCount(1)

    page = await phone.restart({ offline: true })
    await open(page, `/jobs/${jobId}`)
    await repair()
    await expect(photos()).toContainText('not sent yet')
    expect(await seen()).toEqual([1200, 1600])
    expect(await noted()).toEqual([])

    await page.context().setOffline(false)
    await expect.poll(noted).toEqual(['photo-noted'])
    await expect(photos()).not.toContainText('not sent yet')
    await expect(taken()).toHaveCount(1)
    expect(await seen()).toEqual([1200, 1600])
    // Gone from here, there for everybody; and without signal the page says where it is.
    expect(await page.evaluate(rowsOf, 'photos')).toBe(0)
  } finally {
    await phone.forget()
  }
})

test('a machine that pulled here without signal says which gas it holds', async ({ as, browser, shop }) => {
  const { jobId, cylinderId, path } = await aRunningJob(shop)
  const [kitId, label] = [randomUUID(), `Roof machine ${cylinderId.slice(0, 4)}`]
  const row = { kind: 'machine', label, facts: {} } as const
  await inShop(shop.shopId, (tx) => addKit(tx, kitId, { ...row, keepsAt: '', state: 'in-use' }, new Date()))
  await note(shop, jobId, anEntry('kit-used', { ...row, kitId }))
  const page = await as(
    'metric',
    await browser.newContext({ viewport: PHONE, timezoneId: 'UTC', hasTouch: true }),
  )
  await open(page, path)
  await takenAlong(page)
  await page.context().setOffline(true)
  await page.getByRole('button', { name: 'Finish …' }).tap()
  await page.getByLabel('Final weight on the scale').fill('13 kg')
  await page.getByRole('button', { name: 'End this transfer' }).tap()
  await expect(page.getByText('1 entry waits on this device')).toBeVisible()
  await open(page, '/kit')
  await expect(page.getByRole('row').filter({ hasText: label })).toContainText('not sent yet')
  await page.getByRole('link', { name: label }).tap()
  await expect(page.getByText('R-410A went through it last, and it was not purged since')).toBeVisible()
  await expect(page.getByText('not sent yet')).toBeVisible()
  await expect(page.getByText(/the server has the list/)).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByRole('heading', { name: 'Used last' })).toBeVisible({ timeout: 40_000 })
  await expect(page.getByText('not sent yet')).toHaveCount(0)
  await page.context().close()
})

test('somebody else used the cylinder meanwhile: told at once, with what to do, until somebody says how it was', async ({
  baseURL,
}) => {
  const shop = await aShop('no password', undefined, { units: METRIC_UNITS })
  const cylinderId = await aCylinder(shop, { label: 'Auk 3' })
  const phone = await aPhone(shop, baseURL!)
  const { page } = phone
  try {
    await page.clock.install({ time: Date.now() })
    await open(page, '/')
    await takenAlong(page)
    await page.context().setOffline(true)
    let between = 0
    const jobId = await quickJob(page, 'Auk 3', ['12.4 kg', '13 kg'], () => (between = Date.now() - HOUR))
    // In the middle of it, by the server's clock, another job recovers into what it calls Auk 3.
    const tape = () => inShop(shop.shopId, (tx) => tapeOf(tx, jobId))
    const other = await aJob(shop)
    const runId = randomUUID()
    await page.clock.fastForward(HOUR)
    await page.getByRole('link', { name: 'Bench' }).first().tap()
    await note(
      shop,
      other,
      anEntry('job-described', { refrigerant: 'R-410A' }, { at: between - 60_000 }),
      anEntry(
        'run-started',
        { runId, use: 'recover', cylinderId, scale: '', mode: 'gross', weightMg: 12e6 },
        { at: between - 50_000 },
      ),
      anEntry('run-ended', { runId, weightMg: 12_500_000, hoseMg: 0 }, { at: between }),
    )
    await page.context().setOffline(false)
    await expect.poll(async () => (await tape()).length).toBeGreaterThan(5)
    const line = page.getByText('What you did without signal does not go together with the books')
    await expect(line).toBeVisible()
    await page.getByRole('link', { name: 'Look at the job' }).tap()
    const card = page
      .getByRole('alert')
      .filter({ hasText: 'Done without signal, and against the books: Auk 3' })
    await expect(card).toContainText('compare the labels')
    await card.getByRole('textbox').fill('The other job had Auk 8: put right there')
    await card.getByRole('button', { name: 'It is settled' }).tap()
    await expect(card).toHaveCount(0)
    await expect.poll(() => kindsOf(shop, jobId)).toContain('against-settled')
  } finally {
    await phone.forget()
  }
})

test('with a slow signal a page opens from the device, and is brought up to date in its place', async ({
  browser,
  as,
  shop,
}) => {
  const { cylinderId } = await aRunningJob(shop)
  const page = await as('metric', await browser.newContext({ viewport: PHONE, timezoneId: 'UTC' }))
  await open(page, '/cylinders')
  await takenAlong(page)
  let answer = () => {}
  const held = new Promise<void>((resolve) => (answer = resolve))
  await page.route(/\.data/, async (route) => {
    await held
    await route.continue()
  })
  await page.evaluate((to) => {
    history.pushState(null, '', to)
    dispatchEvent(new PopStateEvent('popstate'))
  }, `/cylinders/${cylinderId}`)
  await expect(page.getByText(/^From this device, as it was at/)).toBeVisible()
  await expect(page.getByText('Every gram that went in or out: the server has the list.')).toBeVisible()
  answer()
  await expect(page.getByText(/^From this device/)).toHaveCount(0)
  await expect(page.getByText('the server has the list')).toHaveCount(0)
  await page.context().close()
})

test('a sign-out with unsent notes asks, and leaves nothing of the person but what waits', async ({
  alone,
}) => {
  const { page, shop } = await alone({ timezoneId: 'UTC' })
  const context = page.context()
  const { jobId, tape } = await aRunningJob(shop)
  await open(page, `/jobs/${jobId}`)
  await takenAlong(page)
  const before = (await tape()).length
  const otherTab = await context.newPage()
  await open(otherTab, '/cylinders')
  await context.setOffline(true)
  await page.getByLabel('The scale shows').fill('13 kg')
  await page.getByRole('button', { name: 'Note weight' }).click()
  await page.getByRole('button', { name: 'Sign out' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('1 note is not sent yet')
  await dialog.getByRole('button', { name: 'Stay' }).click()
  await expect(dialog).toHaveCount(0)
  await page.getByRole('button', { name: 'Sign out' }).click()
  await dialog.getByRole('button', { name: 'Sign out all the same' }).click()
  await page.waitForURL('/sign-in')
  expect(await page.evaluate(packs)).toBe(0)
  expect(await page.evaluate(() => localStorage.getItem('keg-signed-in'))).toBeNull()
  // What waits is there, and can be read by nobody.
  expect(await page.evaluate(rowsOf, 'waiting')).toBe(0)
  expect(await page.evaluate(rowsOf, 'locked')).toBe(1)
  // Another tab does not go on showing what was theirs. Nobody opens anything without signal now.
  await expect(otherTab.getByRole('heading', { name: 'No connection' })).toBeVisible()
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'No connection' })).toBeVisible()
  // With signal the server hears of it first: whoever opens Keg now is asked who they are.
  await context.setOffline(false)
  await page.goto('/')
  await page.waitForURL(/\/sign-in/)
  expect((await tape()).length).toBe(before)
  await context.addCookies([
    sessionOf(await openSession(shop.shopId, shop.userId), new URL(page.url()).origin),
  ])
  await open(page, '/')
  await expect.poll(async () => (await tape()).length).toBe(before + 1)
})

test('a sign-out that the server has not heard holds: nothing opens in the name of whoever left, no list is fetched', async ({
  alone,
}) => {
  const { page } = await alone({ timezoneId: 'UTC' })
  const context = page.context()
  await open(page, '/')
  await takenAlong(page)
  const list = () =>
    page.evaluate(() =>
      fetch('/ledger.csv').then(
        ({ status }) => status,
        () => 'none',
      ),
    )
  expect(await list()).toBe(200)
  // Everything gets through but that somebody leaves.
  await context.route('**/sign-out', (route) => route.abort())
  await page.getByRole('button', { name: 'Sign out' }).click()
  await page.waitForURL('/sign-in')
  expect(await list()).toBe('none')
  await page.goto('/cylinders')
  await expect(page.getByRole('heading', { name: 'No connection' })).toBeVisible()
  expect(await list()).toBe('none')
  // It is told first, and then whoever comes is asked who they are.
  await context.unroute('**/sign-out')
  await page.goto('/cylinders')
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible()
})

test('a sign-out with signal ends every tab of the browser', async ({ alone }) => {
  const { page } = await alone({ timezoneId: 'UTC' })
  await open(page, '/')
  await takenAlong(page)
  const otherTab = await page.context().newPage()
  await open(otherTab, '/cylinders')
  await page.getByRole('button', { name: 'Sign out' }).click()
  for (const each of [page, otherTab]) await each.waitForURL(/\/sign-in/)
  expect(await page.evaluate(packs)).toBe(0)
})

test('a page of an older Keg says that there is a newer one, and loads it when it is told to', async ({
  browser,
  as,
}) => {
  const context = await browser.newContext({ serviceWorkers: 'block', timezoneId: 'UTC' })
  const page = await as('metric', context)
  const build = page.locator('meta[name=keg-build]')
  await page.route(
    '/',
    async (route) => {
      const response = await route.fetch()
      const body = (await response.text()).replace(/(keg-build" content=")[^"]+/, '$1older')
      await route.fulfill({ response, body })
    },
    { times: 1 },
  )
  await open(page, '/')
  await expect(build).toHaveAttribute('content', 'older')
  await expect(page.getByText('There is a newer Keg. What waits here stays.')).toBeVisible()
  await page.getByRole('button', { name: 'Load it' }).click()
  await expect(build).not.toHaveAttribute('content', 'older')
  await expect(page.getByText('There is a newer Keg')).toHaveCount(0)
  await context.close()
})

for (const [what, broken] of [
  [
    'is full',
    () => {
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('full', 'QuotaExceededError')
      }
      const set = Storage.prototype.setItem
      Storage.prototype.setItem = function (key, value) {
        if (key.startsWith('keg-waiting')) throw new DOMException('full', 'QuotaExceededError')
        set.call(this, key, value)
      }
    },
  ],
  [
    'has no store',
    () => {
      indexedDB.open = () => {
        throw new DOMException('none', 'SecurityError')
      }
    },
  ],
] as const)
  test(`a browser that ${what} says so at once, and the open page goes on with what waits`, async ({
    browser,
    as,
    shop,
  }) => {
    const { jobId, tape } = await aRunningJob(shop)
    const context = await browser.newContext({ timezoneId: 'UTC' })
    await context.addInitScript(broken)
    const page = await as('metric', context)
    await open(page, `/jobs/${jobId}`)
    await expect(page.getByText(/^This browser keeps nothing \(a private window/)).toBeVisible()
    await programKept(page)
    const before = (await tape()).length
    await context.setOffline(true)
    await page.getByLabel('The scale shows').fill('13 kg')
    await page.getByRole('button', { name: 'Note weight' }).click()
    await expect(page.getByText('leave this page open until it is sent')).toBeVisible()
    // What the shop has is in the page's memory: other pages open from there, and it comes back with its note.
    await page.getByRole('link', { name: 'Cylinders' }).first().click()
    await expect(page.getByText(/^From this device, as it was/)).toBeVisible()
    await page.goBack()
    await expect(page.locator('.hero').first()).toHaveText('1.000 kg')
    await context.setOffline(false)
    await expect.poll(async () => (await tape()).length).toBe(before + 1)
    await context.close()
  })

test('a PDF without signal says so in Keg, and leads back to the report', async ({ alone }) => {
  const { page, shop } = await alone({ timezoneId: 'UTC' })
  const { jobId } = await aRunningJob(shop)
  await open(page, `/jobs/${jobId}/report`)
  await takenAlong(page)
  await page.context().setOffline(true)
  await page.getByRole('link', { name: /^PDF/ }).first().click()
  await expect(page.getByRole('heading', { name: 'No connection' })).toBeVisible()
  await expect(page.getByText('The server makes PDF, CSV and calendar files')).toBeVisible()
  await page.getByRole('button', { name: 'Back' }).click()
  await page.waitForURL(`/jobs/${jobId}/report`)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
})

test('a form that loses its line stands as it was typed, says so, and is sent by a press', async ({
  as,
  shop,
}) => {
  const cylinderId = await aCylinder(shop, { label: `Form ${randomUUID().slice(0, 8)}` })
  const page = await as('metric')
  await open(page, `/cylinders/${cylinderId}/change`)
  await page.getByLabel('Where it is kept').fill('Shelf 7')
  await page.context().setOffline(true)
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText(/^No connection: the form was not sent/)).toBeVisible()
  await expect(page.getByLabel('Where it is kept')).toHaveValue('Shelf 7')
  await page.context().setOffline(false)
  await page.getByRole('button', { name: 'Save' }).click()
  await page.waitForURL(new RegExp(`/cylinders/${cylinderId}$`))
  expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId)))!.keepsAt).toBe('Shelf 7')
})

const ROUNDS = 50
const NOTES = 3

test('a browser that is killed while it sends, fifty times: nothing is lost, and nothing doubled', async ({
  baseURL,
}) => {
  test.setTimeout(400_000)
  const shop = await aShop('no password', undefined, { units: METRIC_UNITS })
  const { jobId, tape } = await aRunningJob(shop)
  await aSystem(shop)
  const folder = mkdtempSync(join(tmpdir(), 'keg-killed-'))
  const cookie = sessionOf(await openSession(shop.shopId, shop.userId), baseURL!)
  let killed: ChildProcess | undefined
  try {
    for (let round = 0; round < ROUNDS; round++) {
      const { child, page, context } = await aBrowser(folder, baseURL!)
      killed = child
      // A killed browser has not written its cookies down yet.
      await context.addCookies([cookie])
      if (round === 0) {
        await open(page, `/jobs/${jobId}`)
        await takenAlong(page)
      }
      await context.setOffline(true)
      await open(page, `/jobs/${jobId}`)
      const waits = await page.evaluate(waitingInRoom)
      for (let n = 0; n < NOTES; n++) await noteLine(page, `round ${round} note ${n}`)
      // On the device: from here on it counts.
      await expect.poll(() => page.evaluate(waitingInRoom)).toBe(waits + NOTES)
      await context.setOffline(false)
      await page.evaluate(() => dispatchEvent(new Event('online')))
      await new Promise((resolve) => setTimeout(resolve, (round * 37) % 160))
      await kill(child)
    }
    const { child, page, context } = await aBrowser(folder, baseURL!)
    killed = child
    await context.addCookies([cookie])
    await open(page, `/jobs/${jobId}`)
    const texts = async () =>
      (await tape()).flatMap((entry) => (entry.kind === 'note' ? [entry.body.text] : []))
    const wanted = Array.from(
      { length: ROUNDS * NOTES },
      (_, i) => `round ${Math.floor(i / NOTES)} note ${i % NOTES}`,
    )
    await expect.poll(async () => (await texts()).length).toBe(wanted.length)
    expect((await texts()).toSorted()).toEqual(wanted.toSorted())
    await expect.poll(() => page.evaluate(waitingInRoom)).toBe(0)
  } finally {
    if (killed) await kill(killed)
    rmSync(folder, { recursive: true, force: true })
  }
})

/** A browser of our own that can be killed as a phone kills one. */
async function aBrowser(folder: string, baseURL: string) {
  const child = spawn(
    executablePath,
    ['--headless', '--no-sandbox', '--remote-debugging-port=0', `--user-data-dir=${folder}`, 'about:blank'],
    { stdio: ['ignore', 'ignore', 'pipe'], detached: true },
  )
  const address = await new Promise<string>((resolve, reject) => {
    let said = ''
    child.stderr!.on('data', (chunk: Buffer) => {
      said += String(chunk)
      const found = /DevTools listening on (ws:\S+)/.exec(said)
      if (found) resolve(found[1]!)
    })
    child.once('exit', () => reject(new Error(said)))
  })
  const browser = await chromium.connectOverCDP(address)
  const context = browser.contexts()[0]!
  const page = context.pages()[0] ?? (await context.newPage())
  await page.setViewportSize({ width: 1280, height: 800 })
  const there = page.goto.bind(page)
  page.goto = (path, options) => there(new URL(path, baseURL).href, options)
  return { child, page, context }
}

/** All of it, by its own process group. */
async function kill(child: ChildProcess) {
  if (child.exitCode !== null || child.signalCode !== null) return
  const gone = new Promise((resolve) => child.once('exit', resolve))
  process.kill(-child.pid!, 'SIGKILL')
  await gone
}

async function noteLine(page: Page, text: string) {
  const line = page.getByLabel('Quick entry')
  await line.fill(`note ${text}`)
  await line.press('Enter')
  await expect(page.getByText(text).first()).toBeVisible()
}

/** How many entries wait in the device's own store: run in the page. */
function waitingInRoom(): Promise<number> {
  return new Promise((resolve, reject) => {
    const opening = indexedDB.open('keg')
    opening.onerror = () => reject(new Error('no store'))
    opening.onsuccess = () => {
      if (!opening.result.objectStoreNames.contains('waiting')) {
        opening.result.close()
        return resolve(0)
      }
      const asked = opening.result.transaction('waiting').objectStore('waiting').count()
      asked.onsuccess = () => {
        resolve(asked.result)
        opening.result.close()
      }
    }
  })
}
