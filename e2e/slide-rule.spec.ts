// The slide rule in a real browser: typing, links, no scripts, a phone, the finder, a job, a program.
import { inShop, tapeOf } from '#db'
import { TOOLS } from '~/slide-rule/tools'
import { aJob, anEntry, note } from '../testing/a-shop'
import { packed } from './on-device'
import { aCylinder, aSystem, expect, expectNoTrouble, open, ready, test } from './shop'

const hero = '.answer .hero'

for (const who of ['metric', 'us'] as const)
  test(`every tool shows its example, with working, in ${who} units`, async ({ as }) => {
    const page = await as(who)
    expect(TOOLS).toHaveLength(17)
    for (const { name, example } of TOOLS) {
      await open(page, `/slide-rule/${name}?${new URLSearchParams(example)}`)
      await expect(page.locator(hero)).toBeVisible()
      await expect(page.getByRole('heading', { name: 'Working' })).toBeVisible()
      // Weights alone hurt nobody.
      if (name !== 'weights') await expect(page.getByText('licensed practice come first')).toBeVisible()
      expect(await page.locator('main').innerText()).not.toMatch(/NaN|undefined|Infinity/)
    }
    expectNoTrouble(page)
  })

test('a tool that is asked nothing yet leads to its example', async ({ as }) => {
  const page = await as('metric')
  await open(page, '/slide-rule/saturation')
  await page.getByRole('link', { name: 'Show me an example' }).click()
  await expect(page.locator(hero)).toBeVisible()
})

test('the answer follows the typing, and its link says the same to everybody', async ({ as }) => {
  const page = await as('metric')
  await open(page, '/slide-rule/saturation')
  await page.getByLabel('Refrigerant', { exact: true }).selectOption('R-410A')
  await expect(page.locator('.field-error')).toHaveText('Enter a temperature or a pressure.')
  await page.getByRole('textbox', { name: 'Temperature' }).fill('31')
  await expect(page.locator(hero)).toHaveText('18.37 bar g')
  await expect(page.getByRole('textbox', { name: 'Temperature' })).toHaveValue('31')
  await expect(page).toHaveURL(/refrigerant=R-410A&t=31\+C$/)
  await expect(page.locator('.tool-chart svg')).toBeVisible()
  // The keys go where they were typed while the answer changes.
  await page.getByRole('textbox', { name: 'Temperature' }).pressSequentially('.5')
  await expect(page.locator(hero)).toHaveText('18.62 bar g')
  await expect(page.getByRole('textbox', { name: 'Temperature' })).toBeFocused()
  await expect(page.getByRole('textbox', { name: 'Temperature' })).toHaveValue('31.5')
  const link = page.url()
  await page.reload()
  await expect(page.locator(hero)).toHaveText('18.62 bar g')

  const other = await as('us')
  await open(other, link)
  await expect(other.locator(hero)).toHaveText('270 psig')
  await expect(other.getByRole('textbox', { name: 'Temperature' })).toHaveValue('31.5 C')

  // What cannot be read keeps what was typed, with a sentence.
  await page.getByRole('textbox', { name: 'Temperature' }).fill('warm')
  await expect(page.getByText(/"warm" is not a temperature/)).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'Temperature' })).toHaveValue('warm')
  await page.getByRole('textbox', { name: 'Temperature' }).fill('900')
  await expect(page.getByText(/outside −100 to \+300/)).toBeVisible()
  for (const each of [page, other]) expectNoTrouble(each)
})

test('without signal it works on, with its working, and says from when the shop is', async ({ alone }) => {
  const { page } = await alone()
  await open(page, '/slide-rule/saturation?refrigerant=R-410A&t=30+C')
  await expect(page.locator(hero)).toHaveText('17.88 bar g')
  const field = page.getByRole('textbox', { name: 'Temperature' })
  await packed(page)
  await page.context().setOffline(true)
  await field.fill('31')
  await expect(page.locator(hero)).toHaveText('18.37 bar g')
  await expect(page.getByText(/^From this device, as it was/)).toBeVisible()
  await expect(field).toHaveValue('31')
  await field.fill('31 parsecs')
  await expect(page.locator('.field-error')).toContainText('31 parsecs')
  await field.fill('31')
  await page.context().setOffline(false)
  await expect(page.locator(hero)).toHaveText('18.37 bar g')
  await expect(field).toHaveValue('31')
  expectNoTrouble(page)
})

test('names of any length, and a page left in the middle, do no harm', async ({ as, browser, shop }) => {
  const label = `Long ${crypto.randomUUID()} ${'W'.repeat(35)}`
  await aCylinder(shop, { label, refrigerant: 'R-513A' })
  // A clock belongs to the whole browser: one of its own.
  const page = await as('metric', await browser.newContext())
  await page.setViewportSize({ width: 390, height: 844 })
  await page.clock.install()
  await open(page, '/slide-rule/fill?refrigerant=R-513A&charge=4+kg')
  await expect(page.locator(hero)).toHaveText(label)
  const width = () => page.evaluate(() => document.documentElement.scrollWidth)
  expect(await width()).toBeLessThanOrEqual(390)
  // Gone before the pause is over: nothing answers any more, and nothing complains.
  await page.getByLabel('A charge to put away').pressSequentially('7')
  await page.getByRole('link', { name: 'Bench' }).last().click()
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await page.clock.fastForward(2_000)
  await expect(page.getByRole('progressbar')).toHaveCount(0)
  await expect(page).toHaveURL(/\/$/)
  expectNoTrouble(page)
  await page.context().close()
})

test('cylinder and system lead to how their figures come about', async ({ as, shop }) => {
  const cylinder = await aCylinder(shop)
  const system = await aSystem(shop)
  const page = await as('us')
  await open(page, `/cylinders/${cylinder}`)
  const limit = await page
    .getByText(/never past/)
    .locator('strong')
    .nth(1)
    .innerText()
  await page.getByRole('link', { name: 'How the limit comes about' }).click()
  await expect(page.locator('.answer')).toContainText(`never past ${limit} gross`)
  await open(page, `/systems/${system}`)
  const expected = await page.locator('.hero').first().innerText()
  await page.getByRole('link', { name: 'How it comes about' }).click()
  await expect(page.locator(hero)).toHaveText(expected)
  expectNoTrouble(page)
})

test('it works without scripts', async ({ as, browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false })
  const page = await as('metric', context)
  await page.goto('/slide-rule/rebound')
  await page.getByLabel('Refrigerant').selectOption('R-22')
  await page.getByLabel('When it stopped').fill('0')
  await page.getByLabel('Now, after waiting').fill('0,9')
  await page.getByLabel('Inner volume').fill('6')
  await page.getByRole('button', { name: 'Work it out' }).click()
  await expect(page.locator(hero)).toHaveText(/^(19|20) g$/)
  await expect(page.getByText('Go again')).toBeVisible()
  expect(page.url()).toContain('p2=0%2C9+bar')
  await context.close()
})

test('an ambiguous weight is chosen by a tap, lines grow, and what was asked lately is kept', async ({
  as,
}) => {
  const page = await as('us')
  await open(page, '/slide-rule/weights')
  await page.getByLabel('Weight').first().fill('3-9')
  await page.getByRole('button', { name: '3 lb 9 oz' }).click()
  await expect(page.locator(hero)).toHaveText('3 lb 9 oz')
  await expect(page.getByLabel('Weight')).toHaveCount(2)
  // A line with choices keeps the keys where they were typed, too.
  await page.getByLabel('Weight').nth(1).pressSequentially('1 l', { delay: 450 })
  await page.getByLabel('Weight').nth(1).pressSequentially('b')
  await expect(page.getByLabel('Weight').nth(1)).toBeFocused()
  await expect(page.locator(hero)).toHaveText('4 lb 9 oz')
  // It stood there long enough to have been meant.
  await expect.poll(() => page.evaluate(() => JSON.stringify(localStorage))).toContain('w_2_weight=1+lb')
  await page.getByLabel('Weight').nth(1).fill('2 lb')
  await expect(page.locator(hero)).toHaveText('5 lb 9 oz')
  await page.getByRole('link', { name: /3 lb 9 oz · 1 lb/ }).click()
  await expect(page.locator(hero)).toHaveText('4 lb 9 oz')
  await expect(page.getByLabel('Weight').nth(1)).toHaveValue('1 lb')
  await page.goBack()
  await expect(page.locator(hero)).toHaveText('5 lb 9 oz')
  await expect(page.getByLabel('Weight').nth(1)).toHaveValue('2 lb')
  expectNoTrouble(page)
})

test('hose sets are compared on one chart, computed in a worker', async ({ as }) => {
  const page = await as('metric')
  const worker = page.waitForEvent('worker')
  await open(
    page,
    '/slide-rule/evacuation-time?volume=10+L&set_1_length=1.5+m&set_1_core=in&set_2_size=3/8&set_2_length=1.5+m',
  )
  expect((await worker).url()).toContain('evacuation')
  await expect(page.locator('.tool-chart svg')).toBeVisible()
  await expect(page.locator('.tool-chart svg').getByText('3/8 in, 1.5 m, core out')).toBeVisible()
  await expect(page.locator(hero)).toHaveText('13 min')
  expectNoTrouble(page)
})

test('the shop’s cylinders are chosen for a charge, and a job is started with them', async ({ as, shop }) => {
  const label = `Fill ${crypto.randomUUID().slice(0, 8)}`
  await aCylinder(shop, { label, refrigerant: 'R-452A', waterCapacityMg: 26_200_000 })
  const page = await as('metric')
  await open(page, '/slide-rule/fill?refrigerant=R-452A&charge=5+kg')
  await expect(page.locator(hero)).toHaveText(label)
  await page.getByRole('link', { name: 'Start a job with it' }).click()
  await expect(page.getByLabel('Label of the cylinder on the scale')).toHaveValue(label)
  await expect(page.getByLabel('Refrigerant')).toHaveValue('R-452A')
  expectNoTrouble(page)
})

test('an answer is carried into a job, and noted there when it is pressed', async ({ alone }) => {
  // Offered are the newest jobs of the shop: other tests have some, too.
  const { page, shop } = await alone()
  const job = await aJob(shop)
  await note(shop, job, anEntry('job-described', { title: `Carry ${job}`, refrigerant: 'R-407C' }))
  await open(page, '/slide-rule/superheat?refrigerant=R-407C&low=4.2+bar&suction=10+C')
  await page.getByLabel('In which job').selectOption(job)
  await page.getByRole('link', { name: 'Note the low side' }).click()
  await ready(page)
  await expect(page.getByLabel('Quick entry')).toHaveValue('p low 4.20 bar')
  await page.getByRole('button', { name: 'Note', exact: true }).click()
  await expect(page.getByLabel('Quick entry')).toHaveValue('')
  await expect(page.locator('.tape').getByText('4.20 bar g')).toBeVisible()
  await expect
    .poll(async () => (await inShop(shop.shopId, (tx) => tapeOf(tx, job))).map((e) => e.kind))
    .toContain('pressure-noted')
  expect(page.url()).not.toContain('line=')
  expectNoTrouble(page)
})

test('the finder reaches tools, cylinders and jobs from anywhere by keyboard', async ({ as, shop }) => {
  const label = `Find ${crypto.randomUUID().slice(0, 8)}`
  await aCylinder(shop, { label })
  const page = await as('metric')
  await open(page, '/ledger')
  await page.keyboard.press('/')
  const field = page.getByRole('textbox', { name: 'Find a tool' })
  await expect(field).toBeFocused()
  await field.fill(label)
  await expect(page.locator('.finder a')).toHaveCount(1)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: label })).toBeVisible()
  await page.getByRole('button', { name: 'Find' }).click()
  await field.fill('vacuum')
  await expect(page.locator('.finder a').first()).toContainText('Evacuation time')
  await page.keyboard.press('ArrowDown')
  await expect(page.locator('.finder a').first()).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Evacuation time' })).toBeVisible()
  await expect(page.locator('.finder')).toHaveCount(0)
  expectNoTrouble(page)
})

test('a manager makes a token, a program asks with it, and it is revoked', async ({ as, request }) => {
  const page = await as('metric')
  await open(page, '/settings')
  const name = `Display ${crypto.randomUUID().slice(0, 8)}`
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByText('Enter what the token is for')).toBeVisible()
  await page.getByLabel('What it is for').fill(name)
  await page.getByRole('button', { name: 'Make it' }).click()
  const token = await page.locator('.token').innerText()
  const ask = () =>
    request.get('/api/v1/calc/lead?size=1.5 mm2&length_m=50&current_A=8&supply_V=230', {
      headers: { authorization: `Bearer ${token}` },
    })
  const answer = await ask()
  expect(answer.status()).toBe(200)
  expect(((await answer.json()) as { result: { drop: { value: number } } }).result.drop.value).toBeCloseTo(
    9.68,
    6,
  )
  await page.getByRole('button', { name: `Revoke ${name}` }).click()
  await expect(page.getByText('The token is revoked')).toBeVisible()
  const refused = await ask()
  expect(refused.status()).toBe(401)
  expect(refused.headers()['content-type']).toContain('application/problem+json')
  const document = await request.get('/api/v1/openapi.json')
  expect(((await document.json()) as { openapi: string }).openapi).toBe('3.1.0')
  expectNoTrouble(page)
})
