import { aRunningJob } from './arrange'
import { aCylinder, aSystem, expect, expectNoTrouble, open, showAllCylinders, test } from './shop'

test('a cylinder that may not take the gas says why, and what to do', async ({ as, shop }) => {
  const stamp = Date.now()
  const name = `Picky ${stamp}`
  const [small, overdue, wrong] = await Promise.all([
    aCylinder(shop, { label: `Small ${stamp}`, waterCapacityMg: 2_100_000, tareMg: 3_000_000 }),
    aCylinder(shop, { label: `Overdue ${stamp}`, testedOn: '2010-01-01' }),
    aCylinder(shop, { label: `Wrong ${stamp}`, refrigerant: 'R-22' }),
    aSystem(shop, { name }),
  ])
  void [small, overdue, wrong]
  const page = await as('metric')
  await open(page, '/jobs/new')
  await page.getByLabel('System', { exact: true }).selectOption({ label: `${name} · Cold quay, Hall 1` })
  await page.getByRole('button', { name: 'Open the job' }).click()
  await showAllCylinders(page)
  await expect(page.locator('.choice', { hasText: `Small ${stamp}` })).toContainText(
    'Not enough room for all of it',
  )
  await expect(page.locator('.choice', { hasText: `Overdue ${stamp}` })).toContainText(
    'pressure test has run out',
  )
  await expect(page.locator('.choice', { hasText: `Small ${stamp}` }).getByRole('button')).toHaveCount(0)

  // Wrong refrigerant, by its label: what was typed stays.
  await page.getByLabel('Label of another cylinder').fill(`Wrong ${stamp}`)
  await page.getByRole('button', { name: 'Choose by label' }).click()
  await expect(page.getByRole('alert')).toContainText('gases are never mixed')
  await expect(page.getByLabel('Label of another cylinder')).toHaveValue(`Wrong ${stamp}`)

  // Quick start with it: refused on the field, nothing typed is lost, and no job is left behind.
  await open(page, '/jobs/new')
  await page.getByLabel('Refrigerant').selectOption('R-410A')
  await page.getByLabel('Label of the cylinder on the scale').fill(`Wrong ${stamp}`)
  await page.getByLabel('Start weight').fill('14.2 kg')
  await page.getByRole('button', { name: 'Go', exact: true }).click()
  await expect(page.getByText('gases are never mixed')).toBeVisible()
  await expect(page.getByLabel('Start weight')).toHaveValue('14.2 kg')
  await expect(page.getByLabel('Refrigerant')).toHaveValue('R-410A')
  expectNoTrouble(page)
})

test('the server refuses what the page would not offer, and the tape shows what was not taken', async ({
  as,
  shop,
}) => {
  const stamp = Date.now()
  const cylinder = await aCylinder(shop, { label: `Raced ${stamp}` })
  const [a, b] = [`Race A ${stamp}`, `Race B ${stamp}`]
  await Promise.all([
    aSystem(shop, { name: a, plateMg: 9_000_000 }),
    aSystem(shop, { name: b, plateMg: 9_000_000 }),
  ])
  void cylinder
  const pages = [await as('metric'), await as('us')]
  for (const [i, page] of pages.entries()) {
    await open(page, '/jobs/new')
    await page
      .getByLabel('System', { exact: true })
      .selectOption({ label: `${[a, b][i]} · Cold quay, Hall 1` })
    await page.getByRole('button', { name: 'Open the job' }).click()
    await showAllCylinders(page)
    await expect(
      page.locator('.choice', { hasText: `Raced ${stamp}` }).getByRole('button', { name: 'Choose' }),
    ).toBeVisible()
  }
  // Both pages believe that there is room; one of them is first.
  for (const page of pages)
    await page
      .locator('.choice', { hasText: `Raced ${stamp}` })
      .getByRole('button', { name: 'Choose' })
      .click()
  const refused = () => Promise.all(pages.map((page) => page.getByRole('alert').count()))
  await expect.poll(async () => (await refused()).toSorted()).toEqual([0, 1])
  const loser = pages[(await refused()).indexOf(1)]!
  await expect(loser.getByRole('alert')).toContainText('reserved by another job')
  await expect(pages.find((page) => page !== loser)!.getByText('is chosen')).toBeVisible()
  await loser.getByRole('button', { name: 'Understood' }).click()
  await expect(loser.getByRole('alert')).toHaveCount(0)
})

test('an ambiguous weight is offered in its readings, and echoed before it counts', async ({ as, shop }) => {
  const label = `Echo ${Date.now()}`
  await aCylinder(shop, { label })
  const page = await as('us')
  await open(page, '/jobs/new')
  await page.getByLabel('Refrigerant').selectOption('R-410A')
  await page.getByLabel('Label of the cylinder on the scale').fill(label)
  await page.getByLabel('Start weight').fill('3.6')
  await expect(page.getByText('3.6 lb = 3 lb 9.6 oz = 1.633 kg')).toBeVisible()
  await page.getByLabel('Start weight').fill('3-9')
  await page.getByRole('button', { name: '3 lb 9 oz' }).click()
  await expect(page.getByLabel('Start weight')).toHaveValue('3 lb 9 oz')
  await page.getByLabel('Start weight').fill('a lot')
  await expect(page.getByText(/"a lot" is not a weight/)).toBeVisible()

  // Sent all the same: the server says the same, and keeps it.
  await page.getByRole('button', { name: 'Go', exact: true }).click()
  await expect(page.getByText(/"a lot" is not a weight/)).toBeVisible()
  await expect(page.getByLabel('Start weight')).toHaveValue('a lot')
  await page.getByLabel('Start weight').fill('26 lb 8 oz')
  await page.getByRole('button', { name: 'Go', exact: true }).click()
  await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()
  await page.getByLabel('Quick entry').fill('w 27-3')
  await page.getByRole('button', { name: '27 lb 3 oz' }).click()
  await page.getByLabel('Quick entry').press('Enter')
  await expect(page.locator('.hero').first()).toHaveText('11 oz')
  expectNoTrouble(page)
})

test('past the limit there is an alarm, and the weight is recorded all the same', async ({ as, shop }) => {
  const { path } = await aRunningJob(shop, { waterCapacityMg: 5_100_000, tareMg: 5_000_000 })
  const page = await as('metric')
  await open(page, path)
  await page.getByLabel('The scale shows').fill('9.5 kg')
  await page.getByRole('button', { name: 'Note weight' }).click()
  await expect(page.getByRole('alert')).toContainText('Past the limit: really so much?')
  await page.getByRole('button', { name: 'It is right' }).click()
  await expect(page.getByRole('alert')).toContainText('past the limit: stop')
  await expect(page.locator('.hero').first()).toHaveText('4.500 kg')
})
