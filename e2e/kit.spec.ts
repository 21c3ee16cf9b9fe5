// The shop's kit in the browser: checks and what follows, a van's set in one tap, files, lists, labels.
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import jsQR from 'jsqr'
import Papa from 'papaparse'
import { PNG } from 'pngjs'
import type { KitFacts, KitKind } from '#core/kit'
import { addKit, cylinderOf, inShop, openSession, rack, tapeOf } from '#db'
import { METRIC_UNITS } from '#core/units'
import { anEmptyShop, aJob, anEntry, note } from '../testing/a-shop'
import { aCylinder, aSystem, expect, expectNoTrouble, type Harbour, open, sessionOf, test } from './shop'

const aPiece = async (
  shop: Harbour,
  kind: KitKind,
  label: string,
  keepsAt: string,
  facts: KitFacts = {},
): Promise<string> => {
  const kitId = randomUUID()
  await inShop(shop.shopId, (tx) =>
    addKit(tx, kitId, { kind, label, keepsAt, facts, state: 'in-use' }, new Date()),
  )
  return kitId
}

test('kit is added with what computing needs of it, checked where it is typed', async ({ as }) => {
  const label = `Scale ${Date.now()}`
  const page = await as('metric')
  await open(page, '/kit')
  await page.getByRole('link', { name: 'Add kit' }).click()
  await page.getByRole('link', { name: 'Scale', exact: true }).click()
  await page.getByLabel('Capacity').fill('100 kg')
  await page.getByLabel('It counts in steps of').fill('heavy')
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByText('Enter a label, as it is written on it.')).toBeVisible()
  await expect(page.getByText('2 fields need a look.')).toBeVisible()
  await page.getByLabel('Label').fill(label)
  await page.getByLabel('Where it is kept').fill('Shop')
  await page.getByLabel('It counts in steps of').fill('5 g')
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('heading', { name: label })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Check the scale' })).toBeVisible()

  // Changed by two at once: the second sees both.
  await page.getByRole('link', { name: 'Change its data' }).click()
  await expect(page.getByLabel('Where it is kept')).toHaveValue('Shop')
  const other = await as('us')
  await open(other, page.url())
  await other.getByLabel('Where it is kept').fill('Van 7')
  await other.getByRole('button', { name: 'Save' }).click()
  await expect(other.getByText('Van 7')).toBeVisible()
  await page.getByLabel('Where it is kept').fill('Van 8')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('There now: Van 7. Yours: Van 8.')).toBeVisible()
  expectNoTrouble(page)
})

test('a scale that fails its check puts what it weighed in doubt, until somebody decides', async ({
  as,
  shop,
}) => {
  const scaleId = await aPiece(shop, 'scale', `Doubt ${Date.now()}`, 'Shop', { divisionMg: 5_000 })
  const label = (await inShop(shop.shopId, (tx) => tx`select label from kit where kit_id = ${scaleId}`))[0]!
    .label as string
  const [cylinderId, systemId, jobId] = await Promise.all([
    aCylinder(shop, { refrigerant: 'R-410A' }),
    aSystem(shop),
    aJob(shop),
  ])
  const runId = randomUUID()
  let minute = -90
  const when = () => ({ at: Date.now() + minute++ * 60_000, backdated: true })
  const start = { runId, use: 'recover', cylinderId, scale: label, scaleId, mode: 'gross' } as const
  await note(
    shop,
    jobId,
    anEntry('job-described', { title: 'Doubtful scale', systemId, refrigerant: 'R-410A' }, when()),
    anEntry('run-started', { ...start, weightMg: 12_000_000, divisionMg: 5_000 }, when()),
    anEntry('run-ended', { runId, weightMg: 15_000_000 }, when()),
    anEntry('recovery-ended', { how: 'emptied' }, when()),
  )
  const page = await as('metric')
  await open(page, `/kit/${scaleId}`)
  await page.getByLabel('Known weight').fill('10 kg')
  await page.getByLabel('It reads').fill('10.06 kg')
  await page.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByText('last check failed')).toBeVisible()
  await expect(page.getByText('1 transfer rests on a scale that failed its check.')).toBeVisible()

  await open(page, `/jobs/${jobId}/report`)
  await expect(page.getByRole('heading', { name: 'Weighed on a scale that failed its check' })).toBeVisible()
  await expect(page.getByText('it read 10.060 kg for 10.000 kg')).toBeVisible()
  await open(page, `/kit/${scaleId}`)
  await page.locator('summary', { hasText: 'Decide' }).click()
  await page.getByRole('button', { name: 'Accept the weight' }).click()
  await expect(page.getByText('Enter why.')).toBeVisible()
  await page.getByLabel('Why', { exact: true }).fill('60 g of 3 kg, far from the limit')
  await page.getByRole('button', { name: 'Accept the weight' }).click()
  await expect(page.getByText('rests on a scale')).toHaveCount(0)
  await expect(page.getByText('weight accepted, 60 g of 3 kg, far from the limit')).toBeVisible()
  await open(page, `/jobs/${jobId}/report`)
  await expect(page.getByRole('heading', { name: 'Job report' })).toBeVisible()
  await expect(page.getByText('failed its check')).toHaveCount(0)
  expectNoTrouble(page)
})

test('one tap takes the set of the van, but no machine that may not; the start names its scale', async ({
  as,
  shop,
}) => {
  const van = `Van ${Date.now()}`
  const scaleId = await aPiece(shop, 'scale', `${van} scale`, van, { divisionMg: 2_000, accuracyMg: 10_000 })
  await aPiece(shop, 'gauge', `${van} gauges`, van, { fullScalePa: 55e5, classPct: 0.5 })
  await aPiece(shop, 'machine', `${van} machine`, van, {})
  const cylinderId = await aCylinder(shop, {
    refrigerant: 'R-32',
    flammableOk: true,
    servicePressurePa: 42e5,
  })
  const jobId = await aJob(shop)
  await note(shop, jobId, anEntry('job-described', { title: 'Van set', refrigerant: 'R-32' }))
  const page = await as('metric')
  await open(page, '/settings')
  await page.getByLabel('Your van').fill(van)
  await page.getByRole('button', { name: 'Save' }).first().click()
  await expect(page.getByText('Your units and your look are saved.')).toBeVisible()

  await open(page, `/jobs/${jobId}`)
  await expect(page.getByText('machine stays out.')).toContainText('not rated for flammable refrigerants')
  await page.getByRole('button', { name: `Use the set of ${van} (2)` }).click()
  await expect(page.locator('.kit-chips li', { hasText: `${van} gauges` })).toBeVisible()
  const kinds = async () => (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).map((each) => each.kind)
  await expect.poll(kinds).toEqual(['job-described', 'kit-used', 'kit-used'])
  await page.getByRole('button', { name: `Set ${van} gauges aside` }).click()
  await expect(page.getByText('Kit set aside')).toBeVisible()

  await note(shop, jobId, anEntry('cylinder-chosen', { cylinderId, use: 'recover', massMg: null }))
  await page.getByRole('button', { name: 'Recover', exact: false }).first().click()
  await expect(page.getByLabel('Scale', { exact: true })).toHaveValue(/.+/)
  const { tareMg } = (await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId)))!
  await page.getByLabel('Start weight').fill(`${tareMg / 1e6} kg`)
  await page.getByRole('button', { name: 'Start recovery' }).click()
  const started = async () =>
    (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).find((each) => each.kind === 'run-started')?.body
  await expect.poll(started).toMatchObject({
    scale: `${van} scale`,
    divisionMg: 2_000,
    accuracyMg: 10_000,
    scaleId,
  })
  expectNoTrouble(page)
})

test('a file of 500 cylinders with 7 bad lines is looked at, then brought in', async ({ alone }) => {
  const stamp = Date.now()
  const { page, shop } = await alone()
  await open(page, '/exchange')
  const [template] = await Promise.all([
    page.waitForEvent('download'),
    page.locator('li', { hasText: 'Cylinders' }).getByRole('link', { name: 'Template' }).click(),
  ])
  const [row] = Papa.parse<Record<string, string>>(readFileSync(await template.path(), 'utf8'), {
    header: true,
  }).data
  const lines = Array.from({ length: 500 }, (_, i) => ({
    ...row,
    label: `F${stamp} ${i}`,
    ...(i % 70 === 3 && i < 490 ? { tare: '11.9' } : {}),
  }))
  await page.getByLabel('File').setInputFiles({
    name: 'rack.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(Papa.unparse(lines)),
  })
  await page.getByRole('button', { name: 'Look what it would do' }).click()
  await expect(page.getByText('493 added')).toBeVisible()
  await expect(page.getByText('7 refused')).toBeVisible()
  await expect(page.getByText('“11.9” has no unit: write it like 11.9 kg.')).toHaveCount(7)
  const count = async () => (await inShop(shop.shopId, (tx) => rack(tx, { label: `F${stamp}` }, 1, 1))).count
  expect(await count()).toBe(0)
  await page.getByRole('button', { name: 'Bring in 493 lines' }).click()
  await expect(
    page.getByText('Cylinders: 493 added, 0 changed, 0 as they were, 7 refused and left out.'),
  ).toBeVisible()
  expect(await count()).toBe(493)
  expectNoTrouble(page)
})

test('the archive goes out of one shop and into an empty one', async ({ as, shop, browser, baseURL }) => {
  const cylinderId = await aCylinder(shop, { label: `Arc ${Date.now()}`, refrigerant: 'R-410A' })
  const page = await as('metric')
  await open(page, '/exchange')
  const [archive] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Take the archive' }).click(),
  ])
  const other = await anEmptyShop('no password', undefined, { units: METRIC_UNITS })
  const context = await browser.newContext({ baseURL: baseURL! })
  await context.addCookies([sessionOf(await openSession(other.shopId, other.userId), baseURL!)])
  const theirs = await context.newPage()
  await open(theirs, '/exchange')
  await theirs.getByLabel('Bring an archive back').setInputFiles(await archive.path())
  await theirs.getByRole('button', { name: 'Bring it back' }).click()
  await expect(theirs.getByRole('heading', { name: 'Bench' })).toBeVisible()
  const there = (shopId: string) => inShop(shopId, (tx) => cylinderOf(tx, cylinderId))
  const [mine, brought] = [await there(shop.shopId), await there(other.shopId)]
  expect({ ...brought, version: 0 }).toEqual({ ...mine, version: 0 })
  await open(theirs, '/exchange')
  await expect(theirs.getByText('into an empty shop only')).toBeVisible()
  await context.close()
})

test('a list is sorted and filtered by keyboard, and the address says how', async ({ as, shop }) => {
  const stamp = `K${Date.now()}`
  for (const [n, label] of ['b', 'a', 'c'].entries())
    await aPiece(shop, 'bottle', `${stamp} ${label}`, `Van ${n}`)
  const page = await as('metric')
  await open(page, '/kit')
  await page.getByLabel('Part of a label').fill(stamp)
  await page.keyboard.press('Enter')
  const labels = () => page.locator('tbody tr td:nth-child(1)').allInnerTexts()
  await expect.poll(labels).toHaveLength(3)
  const head = page.getByRole('columnheader', { name: 'Label' }).getByRole('link')
  await head.focus()
  await page.keyboard.press('Enter')
  await expect.poll(labels).toEqual([`${stamp} a`, `${stamp} b`, `${stamp} c`])
  await expect(page.getByRole('columnheader', { name: 'Label' })).toHaveAttribute('aria-sort', 'ascending')
  await head.press('Enter')
  await expect.poll(labels).toEqual([`${stamp} c`, `${stamp} b`, `${stamp} a`])
  expect(new URL(page.url()).searchParams.get('sort')).toBe('-label')
  await page.locator('summary', { hasText: 'Columns' }).press('Enter')
  await page.getByRole('link', { name: 'Hide Kept at' }).press('Enter')
  await expect(page.getByRole('columnheader', { name: 'Kept at' })).toHaveCount(0)
  await page.reload()
  await expect.poll(labels).toEqual([`${stamp} c`, `${stamp} b`, `${stamp} a`])
  await expect(page.getByRole('columnheader', { name: 'Kept at' })).toHaveCount(0)
  expectNoTrouble(page)
})

test('a sheet of labels is printed, and its code leads to the page, by the finder, too', async ({
  as,
  shop,
}) => {
  const label = `Tag ${Date.now()}`
  const cylinderId = await aCylinder(shop, { label })
  const page = await as('metric')
  await open(page, `/labels?what=cylinders&label=${encodeURIComponent(label)}&skip=4`)
  await expect(page.locator('.qr-label')).toHaveCount(1)
  await page.emulateMedia({ media: 'print' })
  await expect(page.locator('.topbar')).toBeHidden()
  const printed = PNG.sync.read(await page.locator('.qr-label img').screenshot({ scale: 'device' }))
  const read = jsQR(new Uint8ClampedArray(printed.data), printed.width, printed.height)
  expect(read?.data).toContain(`/cylinders/${cylinderId}`)
  const sheet = await page.pdf({ preferCSSPageSize: true })
  // A4 in points, and one sheet of it.
  expect(sheet.toString('latin1')).toMatch(/MediaBox ?\[0 0 59[45][.\d]* 84[12]/)
  expect(sheet.toString('latin1').match(/\/Type ?\/Page\b/g)).toHaveLength(1)
  await page.emulateMedia({ media: 'screen' })

  await page.keyboard.press('/')
  await page.getByRole('textbox', { name: 'Find a tool' }).fill(read!.data)
  await expect(page.getByRole('link', { name: 'Cylinder as scanned' })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: label })).toBeVisible()
  expectNoTrouble(page)
})

test('what is due stands on the Bench and in a calendar', async ({ as, shop }) => {
  const label = `Due ${Date.now()}`
  await aPiece(shop, 'scale', label, 'Shop')
  const page = await as('metric')
  await open(page, '/due')
  await page.getByRole('link', { name: label }).click()
  await expect(page.getByRole('heading', { name: label })).toBeVisible()
  const calendar = await (await page.request.get('/due.ics')).text()
  expect(calendar).toContain('BEGIN:VCALENDAR')
  expect(calendar.replaceAll('\r\n ', '')).toContain(`SUMMARY:${label}: Check the scale`)
  await open(page, '/')
  await expect(page.getByRole('heading', { name: 'Due' })).toBeVisible()
})
