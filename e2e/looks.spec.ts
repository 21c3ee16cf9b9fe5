// Every main screen, its stages and its dialogs, light and dark, at a desk and on a phone: nothing serious for axe,
// nothing wider than the screen, nothing that jumps about.
import { randomUUID } from 'node:crypto'
import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { addKit, inShop, writeAct } from '#db'
import { aCylinder, aSystem, expect, expectNoTrouble, type Harbour, open, test } from './shop'
import { aJob, anEntry, note } from '../testing/a-shop'

const DESK = { width: 1280, height: 800 }
const PHONE = { width: 390, height: 844 }
/** All rules once; where only colours or sizes differ, only what depends on them. */
const BY_SIGHT = ['color-contrast', 'target-size']
const LOOKS = [
  { name: 'light at a desk', colorScheme: 'light', viewport: DESK, rules: undefined },
  { name: 'dark on a phone', colorScheme: 'dark', viewport: PHONE, rules: BY_SIGHT },
] as const
type Look = (typeof LOOKS)[number]

const STAGES = [
  'Prepare',
  'Recover',
  'Repair',
  'Leak test',
  'Evacuate',
  'Oil',
  'Charge',
  'Check readings',
  'Close',
]

const SCREENS = {
  lists: () => [
    '/',
    '/cylinders',
    '/systems',
    '/jobs',
    '/ledger',
    '/ledger/month',
    '/ledger/conservation',
    '/ledger/oil',
    '/settings',
  ],
  forms: ({ cylinder, system }: Arranged) => [
    '/cylinders/new',
    `/cylinders/${cylinder}`,
    `/cylinders/${cylinder}/change`,
    `/cylinders/${cylinder}/decant`,
    '/systems/new',
    `/systems/${system}`,
    '/jobs/new',
  ],
  kit: ({ scale }: Arranged) => [
    '/kit',
    '/kit/devices',
    '/kit/new',
    '/kit/new?kind=machine',
    `/kit/${scale}`,
    `/kit/${scale}/change`,
    '/due',
    '/needs-signal',
    '/labels?what=kit',
    '/exchange',
    '/cylinders?as=list',
  ],
  paper: ({ job, parked }: Arranged) => [`/jobs/${job}/label`, `/jobs/${job}/report`, `/jobs/${parked}`],
  'slide rule': () => [
    '/slide-rule',
    '/slide-rule/vacuum-hold',
    '/slide-rule/saturation?refrigerant=R-407C&t=31+C&also_1_refrigerant=R-410A',
    '/slide-rule/identify?p=9.5+bar&t=25+C&expected=R-22',
    '/slide-rule/fill?refrigerant=R-290&wc=21.6+kg&tare=11.3+kg&gross=25+kg',
    '/slide-rule/evacuation-time?volume=10+L&set_1_length=1.5+m',
    '/slide-rule/leak-rate?refrigerant=warm&full=18+kg&add_1_mass=2.4+kg',
  ],
}

interface Arranged {
  /** One that failed its check, and what it has weighed. */
  scale: string
  cylinder: string
  system: string
  job: string
  /** One that waits, with a clock that is due. */
  parked: string
}

/** A job with a transfer running and verdicts given, and what it is about. */
async function arrange(shop: Harbour): Promise<Arranged> {
  const [cylinder, system, job, parked] = await Promise.all([
    aCylinder(shop),
    aSystem(shop),
    aJob(shop),
    aJob(shop),
  ])
  const runId = randomUUID()
  const verdict = (about: 'recovery' | 'hold', outcome: 'good' | 'bad', code: string) =>
    anEntry('verdict-given', {
      about,
      verdict: {
        outcome,
        code,
        reasons: [],
        numbers: [{ name: 'recovered', value: 2.95, unit: 'kg' }],
        rule: { code: 'patterns' },
      },
      engine: 1,
      tables: 1,
    })
  await note(
    shop,
    job,
    anEntry('job-described', { systemId: system, refrigerant: 'R-410A', title: 'Axe' }),
    anEntry('cylinder-chosen', { cylinderId: cylinder, use: 'recover', massMg: 3_000_000 }),
    verdict('recovery', 'good', 'as-expected'),
    verdict('hold', 'bad', 'hold-failed'),
    anEntry('run-started', {
      runId,
      use: 'recover',
      cylinderId: cylinder,
      scale: 'S',
      mode: 'gross',
      weightMg: 12e6,
    }),
    anEntry('weight-noted', { runId, weightMg: 13_000_000 }),
  )
  await note(
    shop,
    parked,
    anEntry('job-described', { refrigerant: 'R-410A', title: 'Parked' }),
    anEntry(
      'watch-started',
      { watchId: randomUUID(), what: 'nitrogen', forS: 600 },
      { at: Date.now() - 3_600_000, backdated: true },
    ),
    anEntry('job-waiting', { what: 'a compressor' }),
  )
  const scale = randomUUID()
  await inShop(shop.shopId, async (tx) => {
    await addKit(
      tx,
      scale,
      {
        kind: 'scale',
        label: `Scale ${scale}`,
        keepsAt: 'Van 1',
        facts: { divisionMg: 5_000 },
        state: 'in-use',
      },
      new Date(),
    )
    await writeAct(tx, {
      actId: randomUUID(),
      kitId: scale,
      what: 'scale-check',
      at: new Date(),
      now: new Date(),
      userId: shop.userId,
      passed: false,
      body: { known: 10_000_000, read: 10_060_000 },
    })
  })
  return { cylinder, system, job, parked, scale }
}

for (const look of LOOKS) {
  const context = { colorScheme: look.colorScheme, viewport: look.viewport, reducedMotion: 'reduce' } as const

  for (const [group, paths] of Object.entries(SCREENS))
    test(`the ${group}, ${look.name}`, async ({ as, browser, shop }) => {
      const arranged = await arrange(shop)
      const page = await as('metric', await browser.newContext(context))
      for (const path of paths(arranged)) {
        await open(page, path)
        await check(page, look, path)
      }
      expectNoTrouble(page)
      await page.context().close()
    })

  test(`a job, its stages and dialogs, ${look.name}`, async ({ as, browser, shop }) => {
    const { job } = await arrange(shop)
    const page = await as('metric', await browser.newContext(context))
    await open(page, `/jobs/${job}`)
    const whole = page.getByRole('button', { name: 'Whole job' })
    if (await whole.isVisible()) {
      await check(page, look, 'the scale face')
      await whole.click()
    }
    for (const stage of STAGES) {
      await page
        .getByRole('navigation', { name: 'Stages' })
        .getByRole('button', { name: new RegExp(`^${stage}`) })
        .click()
      await check(page, look, `stage ${stage}`)
    }
    const dialog = page.getByRole('dialog')
    const leave = async () => {
      await page.keyboard.press('Escape')
      await expect(dialog).toHaveCount(0)
    }
    await page.getByRole('button', { name: /^Correct: Weight/ }).click()
    await expect(dialog).toBeVisible()
    await check(page, look, 'correction')
    await leave()
    await page.getByRole('button', { name: 'Job', exact: true }).click()
    await page.getByRole('button', { name: 'Let it wait' }).click()
    await check(page, look, 'waiting')
    await leave()
    await page.getByRole('button', { name: 'Find' }).click()
    await check(page, look, 'finder')
    await leave()
    await page.keyboard.press('?')
    await expect(dialog).toBeVisible()
    await check(page, look, 'keys')
    expectNoTrouble(page)
    await page.context().close()
  })
}

/** On a phone whose network is slow what is read stays where it is while the rest arrives. */
test('no page moves about while it loads on a phone', async ({ as, browser, shop }) => {
  const arranged = await arrange(shop)
  const page = await as('metric', await browser.newContext({ viewport: PHONE }))
  const network = await page.context().newCDPSession(page)
  await network.send('Network.enable')
  await network.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 150,
    downloadThroughput: 200_000,
    uploadThroughput: 90_000,
  })
  await page.addInitScript(() => {
    const seen = { shift: 0 }
    Object.assign(window, { seen })
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & {
        value: number
        hadRecentInput: boolean
      })[])
        if (!entry.hadRecentInput) seen.shift += entry.value
    }).observe({ type: 'layout-shift', buffered: true })
  })
  for (const path of ['/', '/cylinders', '/jobs/new', '/ledger', `/jobs/${arranged.job}`, '/slide-rule']) {
    await network.send('Network.clearBrowserCache')
    await open(page, path)
    await page.evaluate(() => document.fonts.ready.then(() => undefined))
    const shift = await page.evaluate(() => (window as unknown as { seen: { shift: number } }).seen.shift)
    expect(shift, path).toBeLessThan(0.05)
  }
  await page.context().close()
})

test('pages say what they are, and paint from one small sheet', async ({ as, request }) => {
  const page = await as('metric')
  await open(page, '/')
  await expect(page.locator('meta[name=description]')).toHaveAttribute('content', /weighed logbook/)
  const sheets = await page
    .locator('head link[rel=stylesheet]')
    .evaluateAll((links) => links.map((l) => l.getAttribute('href')!))
  expect(sheets).toHaveLength(1)
  const first = await request.get(sheets[0]!)
  expect((await first.body()).length).toBeLessThan(90_000)
  await expect(page.locator('head link[rel=preload][as=font]')).toHaveCount(1)
})

async function check(page: Page, look: Look, where: string) {
  // Without a page of its own for each analysis.
  const axe = new AxeBuilder({ page }).setLegacyMode()
  const { violations } = await (
    look.rules ? axe.withRules([...look.rules]) : axe.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
  ).analyze()
  const serious = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical')
  expect(
    serious.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
    where,
  ).toEqual([])
  const wide = await page.evaluate(() => document.documentElement.scrollWidth)
  expect(wide, `width of ${where}`).toBeLessThanOrEqual(look.viewport.width)
}
