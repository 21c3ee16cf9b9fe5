// One picture of each main view, from the demo data. Used by ./keg screenshots.
import { mkdir } from 'node:fs/promises'
import { type Browser, chromium, type Page } from '@playwright/test'

const origin = `http://127.0.0.1:${process.env.KEG_PORT}`
const folder = 'docs/screenshots'
const DESK = { width: 1280, height: 800 }
const PHONE = { width: 390, height: 844 }

await mkdir(folder, { recursive: true })
const browser = await chromium.launch({ executablePath: process.env.KEG_CHROMIUM!, args: ['--no-sandbox'] })
const mara = await signIn(browser, 'mara')
await shoot(mara, 'bench', '/')
await shoot(mara, 'rack', '/cylinders')
await shoot(mara, 'cylinder', '/cylinders', 'Gull 5')
await shoot(mara, 'system', '/systems', 'Bakery retarder')
await shoot(mara, 'new-job', '/jobs/new')
await shoot(mara, 'slide-rule', '/slide-rule')
await shoot(
  mara,
  'slide-rule-saturation',
  '/slide-rule/saturation?refrigerant=R-407C&t=31+C&also_1_refrigerant=R-410A&also_2_refrigerant=R-134a',
)
await shoot(mara, 'job-verdict', '/jobs', 'Yearly check', async (page) => stage(page, 'Recover'))
await shoot(
  mara,
  'conservation',
  `/ledger/conservation?from=${process.env.KEG_NOW!.slice(0, 4)}-01-01&to=${process.env.KEG_NOW!.slice(0, 10)}`,
)
await shoot(mara, 'job-readings', '/jobs', 'Expansion valve hunting', async (page) =>
  stage(page, 'Check readings'),
)
await shoot(mara, 'charge-label', '/jobs', 'Yearly check', async (page) => openFromJob(page, 'Charge label'))
await shoot(mara, 'job-report', '/jobs', 'Yearly check', async (page) => openFromJob(page, 'Job report'))
await shoot(mara, 'kit', '/kit')
await shoot(mara, 'job-bay', '/jobs', 'Cab stays warm', async (page) => {
  await page.getByRole('button', { name: 'Run it on a station' }).click()
  await page.getByRole('button', { name: /^Begin on/ }).waitFor()
})
await shoot(mara, 'job-charge', '/jobs', 'Compressor 2 seized', async (page) => {
  await page.getByRole('button', { name: 'Go on with it' }).first().click()
  await stage(page, 'Charge')
  await page.getByRole('button', { name: 'Take it' }).first().click()
  await page.getByRole('region', { name: 'How it goes in' }).scrollIntoViewIfNeeded()
})
const ines = await signIn(browser, 'ines')
await shoot(ines, 'job-recovering', '/', 'Bridge hot')
await shoot(await signIn(browser, 'teo'), 'job-vacuum', '/', 'Evaporator coil')
const night = await signIn(browser, 'ines', 'dark', PHONE)
await shoot(night, 'job-phone-dark', '/', 'Bridge hot')
await shoot(night, 'bench-phone-dark', '/')
await browser.close()

async function signIn(
  browser: Browser,
  name: string,
  colorScheme: 'light' | 'dark' = 'light',
  viewport = DESK,
) {
  const page = await (await browser.newContext({ viewport, colorScheme })).newPage()
  await page.clock.setFixedTime(process.env.KEG_NOW!)
  await page.goto(`${origin}/sign-in`)
  await page.getByLabel('Sign-in name').fill(name)
  await page.getByLabel('Password').fill('keep-it-cold')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('heading', { name: 'Bench' }).waitFor()
  return page
}

async function shoot(
  page: Page,
  name: string,
  path: string,
  link?: string,
  then?: (page: Page) => Promise<void>,
) {
  await page.goto(origin + path)
  if (link) {
    await page
      .getByRole('link', { name: new RegExp(link) })
      .first()
      .click()
    await page.waitForURL((url) => url.pathname !== path)
  }
  await page.waitForLoadState('networkidle').catch(() => {})
  await then?.(page)
  // The chart draws itself a moment after its place is there.
  const chart = page.locator('.strip-chart, .tool-chart, .where-chart').filter({ visible: true }).first()
  const box = (await chart.count()) > 0 ? await chart.boundingBox() : null
  if (box && box.y < page.viewportSize()!.height)
    await page
      .locator(':is(.strip-chart canvas, .tool-chart svg path, .where-chart svg path)')
      .first()
      .waitFor({ state: 'attached' })
  await page.evaluate(() => document.fonts.ready.then(() => undefined))
  await page.screenshot({ path: `${folder}/${name}.png` })
}

async function stage(page: Page, name: string) {
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click()
}

async function openFromJob(page: Page, name: string) {
  await page.getByRole('button', { name: 'Job', exact: true }).click()
  await page.getByRole('link', { name }).first().click()
  await page.getByRole('heading', { name }).waitFor()
}
