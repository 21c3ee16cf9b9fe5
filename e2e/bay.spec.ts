// The vehicle bay on the real thing: simulated stations behind a real gateway, that posts what they say as any would.
import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { PROGRAMME_STEPS, USUAL_STEPS } from '#core/programme'
import { cylinderOf, inShop, savePreset } from '#db'
import { type AStation, aStation, aVehicleJob } from '../testing/a-station'
import { type AShop } from '../testing/a-shop'
import { expect, expectNoTrouble, open, test } from './shop'

const SPEED = 60

/** The usual programme with short waits, and its oil from the station's bottle. */
const quick = ({ oilId }: AStation) =>
  PROGRAMME_STEPS.filter((step) => step !== 'dye').map((step) => ({
    step,
    ...USUAL_STEPS[step],
    ...(step === 'recover' && { restS: 60 }),
    ...(step === 'vacuum' && { forS: 900 }),
    ...(step === 'hold' && { forS: 360 }),
    ...(step === 'before' && { forS: 60 }),
    ...(step === 'after' && { forS: 120 }),
    ...(step === 'oil-in' && { bottleId: oilId }),
  }))

function aGateway(server: string, stations: AStation[]) {
  const folder = mkdtempSync(join(tmpdir(), 'keg-bay-'))
  const file = join(folder, 'gateway.json')
  const devices = stations.map(({ deviceId, token, config }) => ({
    deviceId,
    token,
    ...config,
    everyMs: 150,
  }))
  writeFileSync(file, JSON.stringify({ server, devices }))
  return {
    start: (): ChildProcess =>
      spawn(process.execPath, ['--import', 'tsx', 'instruments/main.ts', file], { stdio: 'ignore' }),
    forget: () => rmSync(folder, { recursive: true, force: true }),
  }
}

async function begin(page: Page, jobId: string, station: AStation) {
  await open(page, `/jobs/${jobId}`)
  await page.getByRole('button', { name: 'Run it on a station' }).click()
  await page.getByRole('button', { name: new RegExp(`^${station.label}`) }).click()
  await page.getByRole('button', { name: `Quick ${station.label}`, exact: true }).click()
  await page.getByRole('button', { name: `Begin on ${station.label}` }).click()
  await expect(page.locator('.bay-ask')).toContainText('Couple both hoses')
}

/** Gives every hand that it asks for, until it asks for this one, or says that. */
async function helpUntil(page: Page, says: RegExp) {
  const bay = page.getByRole('region', { name: 'Programme' })
  await expect
    .poll(
      async () => {
        const text = (await bay.textContent()) ?? ''
        if (says.test(text)) return true
        // Of this ask only: the next one may come between a look and a press, and be the one that is waited for.
        const ask = await bay.locator('.bay-ask').allTextContents()
        if (ask.some((each) => says.test(each))) return true
        const done = bay.locator('.bay-ask', { hasText: ask[0] ?? 'none' }).locator('.btn-primary:enabled')
        // One that is gone meanwhile has been answered.
        if ((await done.count()) > 0)
          await done
            .first()
            .click({ timeout: 3_000 })
            .catch(() => undefined)
        return false
      },
      { timeout: 120_000, intervals: [300] },
    )
    .toBe(true)
}

const tankMg = async (shop: AShop, { tankId }: AStation) =>
  (await inShop(shop.shopId, (tx) => cylinderOf(tx, tankId)))!.balanceMg

test('a vehicle from programme to vent temperature, while another one waits; then the power is gone', async ({
  alone,
  baseURL,
}) => {
  test.setTimeout(300_000)
  const { page, shop } = await alone()
  const stations = [
    await aStation(shop, { label: 'Station 1', speed: SPEED }),
    await aStation(shop, { label: 'Station 2', speed: SPEED }),
  ] as const
  for (const station of stations)
    await inShop(shop.shopId, (tx) =>
      savePreset(
        tx,
        { presetId: randomUUID(), name: `Quick ${station.label}`, steps: quick(station) },
        shop.userId,
        new Date(),
      ),
    )
  const [bus, van] = [
    await aVehicleJob(shop, { title: 'Bus warm in the back' }),
    await aVehicleJob(shop, { title: 'Van that waits' }),
  ]
  const gateway = aGateway(baseURL!, [...stations])
  let running = gateway.start()
  try {
    await begin(page, van, stations[1])
    await begin(page, bus, stations[0])

    // Both stand on the Bench; what waits for a hand is said there.
    await open(page, '/')
    const bench = page.getByRole('region', { name: 'At the stations' })
    await expect(bench.getByRole('link', { name: /Van that waits.*Couple both hoses/s })).toBeVisible()
    await expect(bench.getByRole('link')).toHaveCount(2)
    await expect(page.getByRole('alert').filter({ hasText: 'A station waits for a hand' })).toBeVisible()

    await bench.getByRole('link', { name: /Bus warm/ }).click()
    await helpUntil(page, /Hold the detector into the cabin/)
    // Here the ask itself is seen: of its own job no bar calls on top of it.
    await expect(page.locator('.alarm-banner', { hasText: 'Bus warm in the back' })).toHaveCount(0)
    await helpUntil(page, /The programme is through/)
    await page.getByText('Its steps').click()
    await expect(page.locator('.bay-steps li.done', { hasText: 'Clear the hoses' })).toBeVisible()
    await expect(page.locator('.record')).toContainText(/Vent or room air \d+\.?\d* °C/)
    await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText(/Oil \(done\)in 14 mL/)
    // Half a kilogram went in, as the station weighed it: the tank has that much less, and what came out more.
    expect(Math.abs((await tankMg(shop, stations[0])) - (8_000_000 + 410_000 - 550_000))).toBeLessThan(40_000)

    // The other one has waited all the while, and goes on; in the middle of its recovery the power is gone.
    await open(page, `/jobs/${van}`)
    await helpUntil(page, /NowRecover/)
    await expect.poll(() => tankMg(shop, stations[1])).toBeGreaterThan(0)
    running.kill('SIGKILL')
    running = gateway.start()
    const bay = page.getByRole('region', { name: 'Programme' })
    await expect(bay).toContainText('The programme stopped: recover')
    await expect(bay).toContainText('the power was gone')
    await expect(bay).toContainText(/Left: recover, drain and read the oil, vacuum/)
    await expect(bay.getByRole('button', { name: 'Go on with what is left' })).toBeVisible()
    expect(await tankMg(shop, stations[1])).toBeGreaterThanOrEqual(8_000_000 - 10_000)
    expectNoTrouble(page)
  } finally {
    running.kill('SIGKILL')
    gateway.forget()
  }
})

test('what cannot be run is said before anything is told to a station', async ({ alone }) => {
  const { page, shop } = await alone()
  const station = await aStation(shop, { label: 'Station 1' })
  const jobId = await aVehicleJob(shop)
  await open(page, `/jobs/${jobId}`)
  await page.getByRole('button', { name: 'Run it on a station' }).click()
  const bay = page.getByRole('region', { name: 'Programme' })
  const step = (name: string) => bay.getByRole('checkbox', { name, exact: true })
  const begins = bay.getByRole('button', { name: 'Begin on Station 1' })
  await step('Recover').uncheck()
  await begins.click()
  await expect(bay).toContainText('It is not empty by this job: recover first')
  await step('Recover').check()
  await bay.getByLabel('Hold, for, min').fill('two')
  await begins.click()
  await expect(bay).toContainText('No station does this: read it again.')
  await bay.getByLabel('Hold, for, min').fill('7,5')
  // What was planned is there after a reload, and saved it is there for the next vehicle.
  await page.reload()
  await page.getByRole('button', { name: 'Run it on a station' }).click()
  await expect(bay.getByLabel('Hold, for, min')).toHaveValue('7,5')
  await bay.getByText('Save as the shop’s programme').click()
  await bay.getByLabel('Name of the programme').fill('Yard')
  await bay.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(bay.getByRole('button', { name: 'Yard', exact: true })).toHaveAttribute('aria-pressed', 'true')
  const other = await aVehicleJob(shop, { plateMg: 900_000 })
  await open(page, `/jobs/${other}`)
  await page.getByRole('button', { name: 'Run it on a station' }).click()
  await bay.getByRole('button', { name: 'Yard', exact: true }).click()
  await expect(bay.getByLabel('Hold, for, min')).toHaveValue('7.5')
  // The amount is the vehicle’s own.
  await expect(bay.getByLabel('amount').last()).toHaveValue(/^900 g$|^0\.900 kg$/)
  expect(await tankMg(shop, station)).toBe(8_000_000)
  expectNoTrouble(page)
})
