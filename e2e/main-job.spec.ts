import { bookArrival, cylinderOf, inShop, movements, systemOf } from '#db'
import { aCylinder, aSystem, expect, expectNoTrouble, open, showAllCylinders, test } from './shop'
import type { Page } from '@playwright/test'

const stage = async (page: Page, name: string) => {
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click()
  await expect(page.getByRole('heading', { name, level: 2, exact: true })).toBeVisible()
}
const tape = (page: Page) => page.getByRole('region', { name: 'Tape' })
const settled = (page: Page) => expect(tape(page).getByText('waiting', { exact: true })).toHaveCount(0)

const TRADES = {
  metric: {
    first: '15 kg',
    weights: ['16.2', '17.5 kg'],
    last: '17.95 kg',
    recovered: '2.950 kg',
    virginFirst: '21 kg',
    virginMid: '19,2',
    virginLast: '18.05 kg',
    charged: '2.950 kg',
    vacuum: ['900', '460', '520'],
    low: '8.2 bar',
    high: '24.5',
    suction: '13 C',
    liquid: '35',
    label: '2.950 kg',
  },
  us: {
    first: '33 lb 1 oz',
    weights: ['35.5', '38lb9'],
    last: '39 lb 9 oz',
    recovered: '6 lb 8 oz',
    virginFirst: '46 lb 4.75 oz',
    virginMid: '42 lb',
    virginLast: '39 lb 12.75 oz',
    charged: '6 lb 8 oz',
    vacuum: ['900', '460 micron', '520'],
    low: '119',
    high: '355 psi',
    suction: '55',
    liquid: '95 F',
    label: '6 lb 8 oz',
  },
} as const

for (const who of ['metric', 'us'] as const)
  test(`a whole job, from plate to charge label, in ${who} units`, async ({ as, shop }) => {
    const n = TRADES[who]
    const name = `Retarder ${who} ${Date.now()}`
    const [system, recovery, virgin] = await Promise.all([
      aSystem(shop, { name }),
      aCylinder(shop, { label: `Into ${name}` }),
      aCylinder(shop, { label: `From ${name}`, kind: 'virgin' }),
    ])
    await inShop(shop.shopId, async (tx) => {
      for (const [cylinderId, massMg] of [
        [virgin, 9_000_000],
        [recovery, 3_000_000],
      ] as const)
        await bookArrival(tx, {
          kind: 'opening',
          voucherId: crypto.randomUUID(),
          cylinderId,
          massMg,
          at: new Date('2026-01-01'),
          now: new Date(),
          userId: shop.userId,
          text: '',
        })
    })
    const page = await as(who)

    // The system and what should be in it.
    await open(page, '/jobs/new')
    await page.getByLabel('System', { exact: true }).selectOption({ label: `${name} · Cold quay, Hall 1` })
    await page.getByLabel(/What the job is/).fill('Compressor change')
    await page.getByRole('button', { name: 'Open the job' }).click()
    await expect(page.getByText('Should be in it')).toBeVisible()
    await page.getByLabel('Power off and locked out').check()

    // A cylinder in which it fits.
    const choice = page.locator('.choice', { hasText: `Into ${name}` })
    await showAllCylinders(page)
    await choice.getByRole('button', { name: 'Choose' }).click()
    await expect(page.getByText('is chosen')).toBeVisible()

    // Gross weights while recovering, the running total and the limit.
    await page.getByRole('button', { name: 'Open Recover' }).click()
    await page.getByLabel('Start weight').fill(n.first)
    await page.getByRole('button', { name: 'Start recovery' }).click()
    for (const weight of n.weights) {
      await page.getByLabel('The scale shows').fill(weight)
      await page.getByRole('button', { name: 'Note weight' }).click()
    }
    await expect(page.getByText(/^never past/)).toBeVisible()
    await page.getByRole('button', { name: 'Finish …' }).click()
    await page.getByLabel('Final weight on the scale').fill(n.last)
    await page.getByRole('button', { name: 'End this transfer' }).click()
    await expect(page.locator('.hero').first()).toHaveText(n.recovered)

    // The end of the recovery: how the amount compares with what should have been there.
    await page.getByLabel(/has self-purged/).check()
    await page.getByRole('button', { name: 'Empty: down to level' }).click()
    await expect(
      page.getByRole('heading', { name: 'What came out is what should have been in there' }),
    ).toBeVisible()

    await stage(page, 'Leak test')
    await page.getByRole('button', { name: 'None found', exact: true }).click()
    await expect(tape(page).getByText('Nitrogen pressure: none found')).toBeVisible()

    // Evacuation and its hold: no phone's clock makes ten minutes pass, and a person may judge otherwise.
    await stage(page, 'Evacuate')
    await page.getByLabel('The gauge reads').fill(n.vacuum[0])
    await page.getByRole('button', { name: 'Note it' }).click()
    await page.getByLabel('The gauge reads').fill(n.vacuum[1])
    await page.getByRole('button', { name: /start a hold/ }).click()
    await expect(page.getByRole('timer')).toBeVisible()
    await page.getByLabel('The gauge reads').fill(n.vacuum[2])
    await page.getByRole('button', { name: 'End the hold with this' }).click()
    await expect(page.getByRole('heading', { name: 'Too soon to tell' })).toBeVisible()
    await page.getByRole('button', { name: 'I judge it otherwise …' }).click()
    await page.getByLabel('How do you judge it, and why?').fill('held for an hour before I came')
    await page.getByRole('button', { name: 'Overrule' }).click()
    await expect(page.locator('.verdict').getByText('held for an hour before I came')).toBeVisible()

    // Oil out and in.
    await stage(page, 'Oil')
    await page.getByLabel('Or measured by itself').fill('30 mL')
    await page.getByRole('button', { name: 'Note what came out' }).click()
    await page.getByLabel('How much went in').fill('30 mL')
    await page.getByRole('button', { name: 'Note the oil' }).click()
    await expect(tape(page).getByText(/^Oil in/)).toBeVisible()

    // The target, and weights until it is reached.
    await stage(page, 'Charge')
    await page.getByRole('button', { name: 'Take it' }).first().click()
    const from = page.locator('.choice', { hasText: `From ${name}` })
    await page.getByText('Another cylinder, and why not').click()
    await showAllCylinders(page)
    await from.getByRole('button', { name: 'Choose' }).click()
    await page.getByLabel('Start weight').fill(n.virginFirst)
    await page.getByRole('button', { name: 'Start to charge' }).click()
    await expect(page.getByText('Close the valve when the scale shows')).toBeVisible()
    await page.getByLabel('The scale shows').fill(n.virginMid)
    await page.getByRole('button', { name: 'Note weight' }).click()
    await page.getByRole('button', { name: 'Finish …' }).click()
    await page.getByLabel('Final weight on the scale').fill(n.virginLast)
    await page.getByRole('button', { name: 'End this transfer' }).click()
    await page.getByRole('button', { name: 'Judge the charge' }).click()
    await expect(page.getByRole('heading', { name: 'The charge is on target' })).toBeVisible()

    // The check readings.
    await stage(page, 'Check readings')
    await page.getByLabel('Low side').fill(n.low)
    await page.getByLabel('High side').fill(n.high)
    await page.getByLabel('Suction line').fill(n.suction)
    await page.getByLabel('Liquid line').fill(n.liquid)
    await page.getByRole('button', { name: 'Note the readings' }).click()
    await page.getByRole('button', { name: 'Judge the readings' }).click()
    await expect(page.getByRole('heading', { name: 'The readings fit' })).toBeVisible()

    // Closed, labelled, reported.
    await stage(page, 'Close')
    // What is open stands there, with a tap to each; once nothing is, the job can be closed.
    await expect(page.getByRole('region', { name: 'Still open' })).toContainText('Caps are not ticked off')
    await expect(page.getByRole('button', { name: 'Close anyway' })).toBeDisabled()
    await page.getByLabel('Caps on all ports').check()
    await page.getByLabel('Label in the panel').check()
    await page.getByLabel(/what is it fit for/).selectOption('used')
    await page.getByRole('button', { name: 'Close the job' }).click()
    await expect(page.getByText('Job closed')).toBeVisible()
    await settled(page)
    await page.getByRole('link', { name: 'Charge label' }).first().click()
    await expect(page.locator('.charge-label .total')).toHaveText(n.label)
    await page.getByRole('link', { name: 'Back to the job' }).click()
    await stage(page, 'Close')
    await page.getByRole('link', { name: 'Job report' }).first().click()
    await expect(page.getByRole('article')).toContainText(n.charged)
    await expect(page.getByRole('article')).toContainText('Robin Tester'.slice(0, who === 'metric' ? 12 : 0))

    // Right to the gram: ledger of both cylinders, history of the system.
    const grams = who === 'metric' ? 2_950_000 : Math.round(6.5 * 453_592.37)
    const [into, outOf, sys, list] = await inShop(shop.shopId, async (tx) => [
      (await cylinderOf(tx, recovery))!.balanceMg - 3_000_000,
      9_000_000 - (await cylinderOf(tx, virgin))!.balanceMg,
      (await systemOf(tx, system))!.balanceMg,
      await movements(tx, { systemId: system }, 50),
    ])
    for (const moved of [into, outOf, sys]) expect(Math.abs((moved as number) - grams)).toBeLessThanOrEqual(3)
    expect((list as unknown[]).length).toBe(3)
    await open(page, `/systems/${system}`)
    await expect(page.getByText(`out ${n.recovered}`)).toBeVisible()
    expectNoTrouble(page)
  })

test('quick start from the roof: gas, cylinder, start weight, go; the system later', async ({ as, shop }) => {
  const label = `Roof ${Date.now()}`
  const cylinder = await aCylinder(shop, { label })
  const system = await aSystem(shop, { name: `Roof unit ${label}` })
  const page = await as('us')
  await open(page, '/jobs/new')
  await page.getByLabel('Refrigerant').selectOption('R-410A')
  // What the label stands for is answered after the weight was typed: what was typed stays.
  let answer = () => {}
  const typed = new Promise<void>((resolve) => (answer = resolve))
  await page.route(/cylinders\/find/, async (route) => {
    await typed
    await route.continue()
  })
  await page.getByLabel('Label of the cylinder on the scale').fill(label)
  await page.getByLabel('Start weight').fill('26 lb 7 oz')
  answer()
  await expect(page.locator('.tile', { hasText: label })).toBeVisible()
  await expect(page.getByLabel('Start weight')).toHaveValue('26 lb 7 oz')
  await page.getByRole('button', { name: 'Go', exact: true }).dblclick()
  await expect(page.getByRole('heading', { name: `R-410A into ${label}` })).toBeVisible()

  // Weights by the quick-entry line.
  await page.keyboard.press('e')
  await page.getByLabel('Quick entry').fill('w 28 lb 7 oz')
  await page.keyboard.press('Enter')
  await expect(page.locator('.hero').first()).toHaveText('2 lb 0 oz')

  // The system is filled in later: the books move from outside to it.
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: /^Prepare/ })
    .click()
  await page
    .getByLabel('System', { exact: true })
    .selectOption({ label: `Roof unit ${label} · Cold quay, Hall 1` })
  await expect(page.getByRole('link', { name: `Roof unit ${label}` })).toBeVisible()
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: /^Recover/ })
    .click()
  await page.getByRole('button', { name: 'Finish …' }).click()
  await page.getByLabel('Final weight on the scale').fill('29 lb 7 oz')
  await page.getByRole('button', { name: 'End this transfer' }).click()
  await expect(page.getByText('End the recovery').first()).toBeVisible()
  await settled(page)
  const list = await inShop(shop.shopId, (tx) => movements(tx, { systemId: system }, 10))
  expect(list.map((m) => [m.fromPlace, m.toPlace])).toEqual([
    ['system', 'cylinder'],
    ['outside', 'system'],
  ])
  expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinder)))!.balanceMg).toBe(
    Math.round(3 * 453_592.37),
  )
  expectNoTrouble(page)
})

test('nothing in it: on to the leak test, no verdict on over or under', async ({ as, shop }) => {
  const name = `Empty van ${Date.now()}`
  await aSystem(shop, { name, refrigerant: 'R-452A', plateMg: null })
  const page = await as('metric')
  await open(page, '/jobs/new')
  await page.getByLabel('System', { exact: true }).selectOption({ label: `${name} · Cold quay, Hall 1` })
  await page.getByRole('button', { name: 'Open the job' }).click()
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('button', { name: /^Recover/ })
    .click()
  await page.getByRole('button', { name: /gone already/ }).click()
  await expect(page.getByRole('heading', { name: 'Nothing to speak of came out' })).toBeVisible()
  await expect(page.getByText('Next: Look for leaks')).toBeVisible()

  // It may wait for parts, go on, and be cancelled.
  await page.getByRole('button', { name: 'Job', exact: true }).click()
  await page.getByRole('button', { name: 'Let it wait' }).click()
  await page.getByLabel('What does it wait for?').fill('evaporator')
  await page.getByRole('button', { name: 'Let it wait', exact: true }).click()
  await expect(page.getByText('Waiting for: evaporator')).toBeVisible()
  await page.getByRole('button', { name: 'Go on with it' }).click()
  await page.getByRole('button', { name: 'Job', exact: true }).click()
  await page.getByRole('button', { name: 'Cancel the job' }).click()
  await page.getByLabel('Why?').fill('sold')
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel the job' }).click()
  await expect(page.getByText('Cancelled', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Job', exact: true }).click()
  await page.getByRole('button', { name: 'Open it again' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Open it again' }).click()
  await expect(page.getByText('In hand', { exact: true })).toBeVisible()
  expectNoTrouble(page)
})
