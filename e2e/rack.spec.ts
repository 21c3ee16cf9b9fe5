import { readFileSync } from 'node:fs'
import Papa from 'papaparse'
import { cylinderOf, inShop } from '#db'
import { aCylinder, expect, expectNoTrouble, open, PASSWORD, test } from './shop'

test('a new cylinder asks for the stamp, and questions a round one', async ({ as, shop }) => {
  const label = `Stamp ${Date.now()}`
  const page = await as('us')
  await open(page, '/cylinders/new')
  await page.getByRole('button', { name: 'Add the cylinder' }).click()
  await expect(page.getByText('Enter a label')).toBeVisible()
  await expect(page.getByText('Enter the stamped tare weight')).toBeVisible()
  await page.getByLabel('Label').fill(label)
  await page.getByLabel('Refrigerant', { exact: true }).selectOption('R-134a')
  await page.getByLabel('Tare weight (TW)').fill('15 lb 8 oz')
  await page.getByLabel('Water capacity (WC)').fill('30 lb')
  await page.getByLabel('Service pressure').fill('400 psi')
  await page.getByLabel('Last pressure test').fill('05/25')
  // 15 lb 8 oz of tare and 2 lb 4 oz in it.
  await page.getByLabel('The scale shows now (gross)').fill('17 lb 12 oz')
  await expect(page.getByText('That is 2 lb 4 oz in it')).toBeVisible()
  await page.getByRole('button', { name: 'Add the cylinder' }).click()
  await expect(page.getByText('is it the size in its name?')).toBeVisible()
  await expect(page.getByLabel('Tare weight (TW)')).toHaveValue('15 lb 8 oz')
  await page.getByLabel('Water capacity (WC)').fill('26.2 lb')
  await page.getByRole('button', { name: 'Add the cylinder' }).dblclick()
  await expect(page.getByRole('heading', { name: label })).toBeVisible()
  await expect(page.locator('.hero')).toHaveText('2 lb 4 oz')
  await expect(page.getByText('Opening balance')).toHaveCount(1)

  // Its data can be changed; what was not touched keeps its exact value.
  const id = page.url().split('/').at(-1)!
  const before = (await inShop(shop.shopId, (tx) => cylinderOf(tx, id)))!
  await page.getByRole('link', { name: 'Change its data' }).click()
  await page.getByLabel('Where it is kept').fill('Van 9')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Van 9')).toBeVisible()
  const after = await inShop(shop.shopId, (tx) => cylinderOf(tx, id))
  expect(after).toEqual({ ...before, keepsAt: 'Van 9', version: before!.version + 1 })
  expectNoTrouble(page)
})

test('re-weigh, ship, free and retire are booked, and the ledger goes out as CSV', async ({ as, shop }) => {
  const label = `Ledger ${Date.now()}`
  const cylinder = await aCylinder(shop, { label, kind: 'virgin', refrigerant: 'R-134a' })
  const page = await as('metric')
  await open(page, `/cylinders/${cylinder}`)
  const form = async (title: string, fill: () => Promise<void>) => {
    await page.locator('summary', { hasText: title }).click()
    await fill()
    await page.getByRole('button', { name: title }).click()
  }
  await form('Bought gas in it', () => page.getByLabel('Net, as delivered').fill('9 kg'))
  await expect(page.locator('.hero')).toHaveText('9.000 kg')
  await form('Re-weigh', () => page.getByLabel('The scale shows (gross)').fill('20.95 kg'))
  await expect(page.locator('.hero')).toHaveText('8.950 kg')
  await form('Ship to a reclaimer', async () => {
    await page.getByLabel('Net, as shipped').fill('10 kg')
    await page.getByLabel('Reclaimer, papers').fill('=1+1 papers')
  })
  await expect(page.getByText('more than the books have')).toBeVisible()
  await expect(page.getByLabel('Net, as shipped')).toHaveValue('10 kg')
  await page.getByLabel('Net, as shipped').fill('8.95 kg')
  await page.getByRole('button', { name: 'Ship to a reclaimer' }).click()
  await expect(page.locator('.hero')).toHaveText('0 g')

  await open(page, `/ledger?cylinder=${cylinder}`)
  await expect(page.locator('tbody tr')).toHaveCount(3)
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export as CSV' }).click()
  const { data } = Papa.parse<Record<string, string>>(
    readFileSync(await (await download).path(), 'utf8').trim(),
    { header: true },
  )
  expect(data.map((row) => row.mass_g)).toEqual(['8950', '50', '9000'])
  expect(data[0]!.remark).toBe("'=1+1 papers")

  await open(page, `/cylinders/${cylinder}`)
  await form('Emptied and evacuated', async () => {})
  await expect(page.getByText('no gas yet')).toBeVisible()
  await form('Retire the cylinder', async () => {})
  await expect(page.getByText('retired', { exact: true })).toBeVisible()
  await open(page, `/cylinders?label=${encodeURIComponent(label)}&retired=on`)
  await expect(page.getByText(label)).toBeVisible()
  expectNoTrouble(page)
})

test('a new system with its lines keeps what was typed when it is refused', async ({ as }) => {
  const name = `Line set ${Date.now()}`
  const page = await as('us')
  await open(page, '/systems/new')
  await page.getByLabel('System', { exact: true }).fill(name)
  await page.getByLabel('Customer').fill('Fish hall')
  await page.getByLabel('Site, or vehicle').fill('Hall 7')
  await page.getByLabel('Refrigerant').selectOption('R-410A')
  await page.getByLabel('Charge on the plate').fill('6-10')
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByLabel('Length', { exact: true }).fill('')
  await page.getByRole('button', { name: 'Add an accessory' }).click()
  await page.getByLabel('What', { exact: true }).fill('Drier')
  await page.getByLabel('Holds').fill('12 oz')
  await page.getByRole('button', { name: 'Add the system' }).click()
  await expect(page.getByRole('button', { name: '6 lb 10 oz' })).toBeVisible()
  await page.getByRole('button', { name: '6 lb 10 oz' }).click()
  await page.getByRole('button', { name: 'Add the system' }).click()
  await expect(page.getByText('Enter how long this line is')).toBeVisible()
  await expect(page.getByLabel('Holds')).toHaveValue('12 oz')
  await page.getByLabel('Length', { exact: true }).fill('40 ft')
  await page.getByLabel('Covered by the plate').fill('15 ft')
  await page.getByRole('button', { name: 'Add the system' }).click()
  await expect(page.getByRole('heading', { name })).toBeVisible()
  await expect(page.locator('.hero')).toHaveText(/8 lb \d/)
  await open(page, `/systems?search=${encodeURIComponent(name)}`)
  await expect(page.getByRole('link', { name })).toBeVisible()
  expectNoTrouble(page)
})

test('very long names are cut nowhere and break nothing', async ({ as, shop }) => {
  const label = 'Cylinder with a very long label '.repeat(2).trim() + 'x'.repeat(16)
  const cylinder = await aCylinder(shop, { label: label.slice(0, 80) })
  const page = await as('metric')
  await page.setViewportSize({ width: 390, height: 844 })
  for (const path of ['/cylinders', `/cylinders/${cylinder}`]) {
    await open(page, path)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  }
})

test('a batch of empties into one cylinder: each weighed, summed, scrapped; what would spoil it is refused', async ({
  alone,
}) => {
  const { page, shop } = await alone()
  const taker = await aCylinder(shop, {
    label: 'Gull 4',
    refrigerant: 'R-134a',
    condition: 'used',
    tareMg: 12e6,
  })
  const empty = (label: string, condition: 'used' | 'doubtful' = 'used') =>
    aCylinder(shop, { label, kind: 'one-way', refrigerant: 'R-134a', condition, waterCapacityMg: null })
  await empty('Empty 1')
  await empty('Empty 2')
  await empty('Burnt', 'doubtful')
  await open(page, `/cylinders/${taker}`)
  await page.getByRole('link', { name: 'Fill it from others' }).click()
  const choose = async (label: string) => {
    const from = page.getByLabel('It comes from')
    const value = await from.locator('option', { hasText: label }).getAttribute('value')
    await from.selectOption(value)
  }
  await choose('Empty 1')
  await page.getByLabel('The scale showed before').fill('12 kg')
  await page.getByLabel('The scale showed after').fill('12.41 kg')
  await page.getByLabel(/Rendered useless/).check()
  await page.getByRole('button', { name: 'Book it' }).click()
  await expect(page.locator('.hero')).toHaveText('410 g')
  // It still stands on the scale.
  await expect(page.getByLabel('The scale showed before')).toHaveValue('12.410 kg')
  await choose('Empty 2')
  await page.getByLabel('The scale showed after').fill('12.7 kg')
  await page.getByRole('button', { name: 'Book it' }).click()
  await expect(page.locator('.hero')).toHaveText('700 g')
  await choose('Burnt')
  await page.getByLabel('The scale showed after').fill('13 kg')
  await page.getByRole('button', { name: 'Book it' }).click()
  await expect(page.getByText('Worse gas onto better spoils both')).toBeVisible()
  await expect(page.getByLabel('The scale showed after')).toHaveValue('13 kg')
  await page.getByRole('link', { name: 'Done' }).click()
  await expect(page.locator('.hero')).toHaveText('700 g')
  expectNoTrouble(page)
})

test('a trainee empties a one-way cylinder, and a technician puts a name under it', async ({ as, shop }) => {
  const page = await as('trainee')
  const [label, gas] = [`Exercise ${Date.now()}`, 'R-450A']
  const taker = await aCylinder(shop, { label, refrigerant: gas, condition: 'used', tareMg: 12e6 })
  await aCylinder(shop, {
    label: `Spent ${label}`,
    kind: 'one-way',
    refrigerant: gas,
    condition: 'used',
    waterCapacityMg: null,
  })
  await open(page, `/cylinders/${taker}/decant`)
  const from = page.getByLabel('It comes from')
  await from.selectOption(await from.locator('option', { hasText: 'Spent' }).getAttribute('value'))
  await page.getByLabel('The scale showed before').fill('12 kg')
  await page.getByLabel('The scale showed after').fill('12.4 kg')
  await page.getByLabel('Countersigned by').selectOption('Uma Pounds')
  await page.getByLabel('Their password').fill('not hers')
  await page.getByRole('button', { name: 'Book it' }).click()
  await expect(page.getByText('This is not the password of Uma Pounds')).toBeVisible()
  expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, taker)))!.balanceMg).toBe(0)
  await page.getByLabel('Their password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Book it' }).click()
  await expect(page.locator('.hero')).toHaveText('400 g')
  expectNoTrouble(page)
})
