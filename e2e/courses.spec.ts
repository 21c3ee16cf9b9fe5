// Courses of work that do not go straight on: each in the browser, with what the page says on the way.
import type { Page } from '@playwright/test'
import { cylinderOf, inShop, systemOf } from '#db'
import { aJob, anEntry, aSystem, note } from '../testing/a-shop'
import { aRunningJob } from './arrange'
import { expect, expectNoTrouble, open, test } from './shop'

const weigh = async (page: Page, weight: string) => {
  await page.getByLabel('The scale shows').fill(weight)
  await page.getByRole('button', { name: 'Note weight' }).click()
}
const finish = async (page: Page, weight: string) => {
  await page.getByRole('button', { name: 'Finish …' }).click()
  await page.getByLabel('Final weight on the scale').fill(weight)
  await page.getByRole('button', { name: 'End this transfer' }).click()
}
const stage = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name }).click()
const next = (page: Page) => page.locator('.next-line')

test('recover, charge, take a little out again, find a leak, recover again: the totals stay true', async ({
  as,
  shop,
}) => {
  const page = await as('metric')
  const { path, label, jobId, cylinderId } = await aRunningJob(shop, { condition: 'used' })
  const systemId = await aSystem(shop)
  await note(shop, jobId, anEntry('job-described', { systemId }))
  await open(page, path)
  await finish(page, '15 kg')
  await expect(next(page)).toContainText('end the recovery')
  await page.getByLabel(/The machine has self-purged/).check()
  await page.getByRole('button', { name: 'Empty: down to level' }).click()
  await expect(
    page.getByRole('heading', { name: 'What came out is what should have been in there' }),
  ).toBeVisible()

  // The weight is corrected: the verdict that was built on it is stale, until it is judged anew.
  await page.getByRole('button', { name: /Correct: Transfer ended/ }).click()
  await page.getByLabel('It was').fill('14.5 kg')
  await page.getByRole('button', { name: 'Correct', exact: true }).last().click()
  await expect(
    page.getByRole('heading', { name: 'Less came out than should have been in there' }),
  ).toBeVisible()
  await expect(page.getByText(/it said: What came out is what should have been in there/)).toBeVisible()
  await page.getByRole('button', { name: 'Note what it says now' }).click()
  await expect(page.getByText(/it said:/)).toHaveCount(0)

  await stage(page, 'Charge')
  await page.getByLabel('Your own figure').fill('2.5 kg')
  await page.getByRole('button', { name: 'Set', exact: true }).click()
  await page.getByText('Another cylinder, and why not').click()
  await page.getByRole('textbox', { name: 'Label of another cylinder' }).fill(label)
  await page.getByRole('button', { name: 'Choose by label' }).click()
  await page.getByLabel('The hose will keep').fill('50 g')
  await page.getByLabel('Start weight').fill('14.5 kg')
  await page.getByRole('button', { name: 'Start to charge' }).click()
  // 14.5 less 2.5 less what the hose keeps are 11.95, below its tare: no such stop is named.
  await expect(page.getByText('This cylinder’s liquid ends at about')).toBeVisible()
  await expect(page.getByText('Close the valve when the scale shows')).toHaveCount(0)
  // More than the books had in it, and less than its tare: asked about, and noted when it is right.
  await finish(page, '11.75 kg')
  await expect(page.getByText('Below the tare: really so little?')).toBeVisible()
  await page.getByRole('button', { name: 'It is right' }).click()
  // 2.75 left the cylinder, 50 g stayed in the hose.
  await expect(page.locator('.hero').first()).toHaveText('2.700 kg')

  await stage(page, 'Recover')
  await page.getByLabel('Start weight').fill('11.75 kg')
  await page.getByRole('button', { name: 'Start recovery' }).click()
  await page.getByRole('button', { name: 'It is right' }).click()
  await finish(page, '11.95 kg')
  await stage(page, 'Charge')
  await expect(page.locator('.hero').first()).toHaveText('2.500 kg')
  await page.getByRole('button', { name: 'Judge the charge' }).click()
  await expect(page.getByRole('heading', { name: 'The charge is on target' })).toBeVisible()
  await expect(next(page)).toContainText('Run the system')

  await stage(page, 'Leak test')
  await page.getByRole('button', { name: 'Leak found', exact: true }).click()
  await expect(next(page)).toContainText('Put the cylinder on the scale')
  await stage(page, 'Recover')
  await page.getByText('Another pull', { exact: true }).click()
  await page.getByLabel('Start weight').fill('11.95 kg')
  await page.getByRole('button', { name: 'Start recovery' }).click()
  await finish(page, '14.4 kg')
  // What was purged before this pull holds gas again.
  await page.getByLabel(/The machine has self-purged/).check()
  await page.getByRole('button', { name: 'Empty: down to level' }).click()
  await expect(page.locator('.hero').first()).toHaveText('2.650 kg')
  await open(page, `${path}/label`)
  await expect(page.getByText('empty', { exact: true })).toBeVisible()
  await open(page, `${path}/report`)
  await expect(page.locator('dl.facts').last()).toContainText('empty')
  const balances = () =>
    inShop(shop.shopId, async (tx) => [
      (await systemOf(tx, systemId))!.balanceMg,
      (await cylinderOf(tx, cylinderId))!.balanceMg,
    ])
  // 14.4 gross less the tare of 12; what stayed in the hose is in the rig.
  await expect.poll(balances).toEqual([0, 2_400_000])
  expectNoTrouble(page)
})

test('a weight that cannot be is asked about, and noted when it is right', async ({ as, shop }) => {
  const page = await as('metric')
  const { path, tape } = await aRunningJob(shop)
  await open(page, path)
  await weigh(page, '13 kg')
  await expect(page.locator('.hero').first()).toHaveText('1.000 kg')
  await weigh(page, '12.5 kg')
  await expect(page.getByRole('alert')).toContainText('The wrong way')
  await page.getByRole('button', { name: 'It is right' }).click()
  await expect(page.locator('.hero').first()).toHaveText('500 g')
  await expect(page.locator('.tape').getByText('the wrong way', { exact: true })).toBeVisible()

  await page.getByRole('button', { name: 'Other scale …' }).click()
  await page.getByLabel('The other scale shows').fill('12.9 kg')
  await page.getByLabel(/valve was shut between/).check()
  await page.getByRole('button', { name: 'Go on with this scale' }).click()
  await expect(page.getByText('The two scales differ by 400 g: the second reads more.')).toBeVisible()
  await expect(page.locator('.hero').first()).toHaveText('500 g')

  await page.getByRole('button', { name: 'Other scale …' }).click()
  // What was said of one change says nothing of the next.
  await expect(page.getByLabel(/valve was shut between/)).not.toBeChecked()
  await page.getByLabel('It shows').selectOption('net')
  await page.getByRole('button', { name: 'Go on with this scale' }).click()
  await weigh(page, '0.8 kg')
  await expect(page.locator('.hero').first()).toHaveText('1.300 kg')
  await weigh(page, '0 kg')
  await page.getByRole('button', { name: 'Yes: go on from there' }).click()
  await weigh(page, '0.2 kg')
  await expect(page.locator('.hero').first()).toHaveText('1.500 kg')
  const changes = async () => (await tape()).filter((entry) => entry.kind === 'scale-changed').length
  await expect.poll(changes).toBe(3)
  expectNoTrouble(page)
})

test('a vacuum while the charge should be in there asks what became of it', async ({ as, shop }) => {
  const page = await as('metric')
  const [systemId, jobId] = await Promise.all([aSystem(shop), aJob(shop)])
  await note(shop, jobId, anEntry('job-described', { systemId, refrigerant: 'R-410A' }))
  await open(page, `/jobs/${jobId}`)
  await stage(page, 'Evacuate')
  await page.getByLabel('The gauge reads').fill('1,200 micron')
  await page.getByRole('button', { name: '1200 micron' }).click()
  await page.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByRole('heading', { name: 'What became of the gas?' })).toBeVisible()
  await expect(page.getByText('3.000 kg should still be in the system')).toBeVisible()
  await page.getByRole('button', { name: 'Recovered elsewhere' }).click()
  await expect(page.getByRole('heading', { name: 'What became of the gas?' })).toHaveCount(0)
  await page.getByLabel('The gauge reads').fill('480')
  await page.getByRole('button', { name: 'Pump valved off: start a hold' }).click()
  await expect(page.getByRole('timer')).toContainText('Too soon to pass')
  await page.getByLabel('The gauge reads').fill('490')
  await page.getByRole('button', { name: 'End the hold with this' }).click()
  await expect(page.getByRole('heading', { name: 'Too soon to tell' })).toBeVisible()
  await open(page, `/jobs/${jobId}/label`)
  await expect(page.getByText('Nothing was charged in this job, so there is no label for it.')).toBeVisible()
  expectNoTrouble(page)
})

test('a long tape shows its newest lines, and the older ones on demand', async ({ as, shop }) => {
  const page = await as('metric')
  const { path, jobId, tape } = await aRunningJob(shop)
  const [, started] = await tape()
  const { runId } = started!.body as { runId: string }
  for (let i = 0; i < 6; i++)
    await note(
      shop,
      jobId,
      ...Array.from({ length: 50 }, (_, n) =>
        anEntry('weight-noted', { runId, weightMg: 12e6 + (i * 50 + n) * 1e4 }),
      ),
    )
  await open(page, path)
  await expect(page.locator('.hero').first()).toHaveText('2.990 kg')
  const lines = page.locator('.tape li time')
  expect(await lines.count()).toBeLessThan(260)
  // A new note folds on; the start, which is not here, is corrected once the older lines are.
  await weigh(page, '15 kg')
  await expect(page.locator('.hero').first()).toHaveText('3.000 kg')
  await page.getByRole('button', { name: /older lines/ }).click()
  await expect(lines).toHaveCount(303)
  await page.getByRole('button', { name: /Correct: Recovery into/ }).click()
  await page.getByLabel('It was').fill('11 kg')
  await page.getByRole('button', { name: 'Correct', exact: true }).last().click()
  // The cylinder weighs more when it is empty.
  await expect(page.getByRole('dialog')).toContainText('Below the tare: really so little?')
  await page.getByRole('button', { name: 'It is right' }).click()
  await expect(page.locator('.hero').first()).toHaveText('4.000 kg')
  await expect.poll(async () => (await tape()).length).toBe(304)
  await page.reload()
  await expect(page.locator('.hero').first()).toHaveText('4.000 kg')
  expectNoTrouble(page)
})
