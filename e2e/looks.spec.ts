// Every main screen, light and dark, at a desk and on a phone: nothing serious for axe, nothing wider than the screen.
import { randomUUID } from 'node:crypto'
import AxeBuilder from '@axe-core/playwright'
import { aCylinder, aSystem, expect, expectNoTrouble, open, test } from './shop'
import { aJob, anEntry, note } from '../testing/a-shop'

const LOOKS = [
  { name: 'light at a desk', colorScheme: 'light', viewport: { width: 1280, height: 800 } },
  { name: 'dark on a phone', colorScheme: 'dark', viewport: { width: 390, height: 844 } },
] as const

for (const { name, ...look } of LOOKS)
  test(`the main screens, ${name}`, async ({ as, browser, shop }) => {
    test.setTimeout(240_000)
    const [cylinder, system, job] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
    const runId = randomUUID()
    await note(
      shop,
      job,
      anEntry('job-described', { systemId: system, refrigerant: 'R-410A', title: 'Axe' }),
      anEntry('cylinder-chosen', { cylinderId: cylinder, use: 'recover', massMg: 3_000_000 }),
      anEntry('run-started', {
        runId,
        use: 'recover',
        cylinderId: cylinder,
        scale: 'S',
        mode: 'gross',
        weightMg: 12_000_000,
      }),
      anEntry('weight-noted', { runId, weightMg: 13_000_000 }),
    )
    const context = await browser.newContext(look)
    const page = await as('metric', context)
    const paths = [
      '/',
      '/cylinders',
      '/cylinders/new',
      `/cylinders/${cylinder}`,
      '/systems',
      '/systems/new',
      `/systems/${system}`,
      '/jobs',
      '/jobs/new',
      `/jobs/${job}`,
      `/jobs/${job}/label`,
      `/jobs/${job}/report`,
      '/ledger',
      '/settings',
      '/slide-rule',
      '/slide-rule/saturation',
      '/slide-rule/saturation?refrigerant=R-407C&t=31+C&also_1_refrigerant=R-410A',
      '/slide-rule/identify?p=9.5+bar&t=25+C&expected=R-22',
      '/slide-rule/fill?refrigerant=R-290&wc=21.6+kg&tare=11.3+kg&gross=25+kg',
      '/slide-rule/evacuation-time?volume=10+L&set_1_length=1.5+m',
      '/slide-rule/leak-rate?refrigerant=warm&full=18+kg&add_1_mass=2.4+kg',
    ]
    for (const path of paths) {
      await open(page, path)
      await check(path)
    }
    await open(page, `/jobs/${job}`)
    for (const stage of [
      'Prepare',
      'Repair',
      'Leak test',
      'Evacuate',
      'Oil',
      'Charge',
      'Check readings',
      'Close',
    ]) {
      await page
        .getByRole('navigation', { name: 'Stages' })
        .getByRole('button', { name: new RegExp(`^${stage}`) })
        .click()
      await check(`stage ${stage}`)
    }
    await page.keyboard.press('?')
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.getByRole('button', { name: 'Done', exact: true }).click()
    expectNoTrouble(page)
    await context.close()

    async function check(where: string) {
      const { violations } = await new AxeBuilder({ page })
        .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
        .analyze()
      const serious = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical')
      expect(
        serious.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
        where,
      ).toEqual([])
      const wide = await page.evaluate(() => document.documentElement.scrollWidth)
      expect(wide, `width of ${where}`).toBeLessThanOrEqual(look.viewport.width)
    }
  })
