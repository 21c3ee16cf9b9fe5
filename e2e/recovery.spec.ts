// A recovery from its first second to the word on its gas: read off a rig that plays sixty times faster than life; several at
// once, with an alarm on another screen; and typed only, on a phone, without a signal in the middle.
import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { addDevice, addKit, inShop, moveChannel, runningJobs, tapeOf } from '#db'
import { aCylinder, aJob, anEntry, type AShop, aSystem, note } from '../testing/a-shop'
import { aRunningJob } from './arrange'
import { expect, expectNoTrouble, open, test } from './shop'

const KIT = [
  ['scale', 'Quay scale', ['weight'], { divisionMg: 5_000 }],
  ['gauge', 'Quay gauges', ['low', 'high'], { fullScalePa: 35e5, classPct: 1 }],
] as const

/** Two pulls, with time to rest between them, and a purge. */
const SCENARIO = {
  name: 'two pulls',
  stepS: 0.25,
  untilS: 6_000,
  parameters: { system: { chargeKg: 3 }, hose: { suctionK: 14e-6, dischargeK: 14e-6 } },
  controls: { line: 'none', valve: 'closed', machine: 'off' },
  actions: [
    { afterS: 600, set: { line: 'machine', valve: 'liquid', machine: 'run' } },
    { when: { quantity: 'p_suction_Pa', below: 101_325 }, set: { machine: 'off', valve: 'closed' } },
    { afterS: 1_200, set: { machine: 'run', valve: 'vapour' } },
    { when: { quantity: 'p_suction_Pa', below: 75_000 }, set: { machine: 'purge', valve: 'closed' } },
  ],
}

/** A rig of the shop that plays by itself, and the job that it stands at. */
async function aRig(shop: AShop, origin: string) {
  const [deviceId, systemId, cylinderId, jobId] = [
    randomUUID(),
    await aSystem(shop, { name: 'Blast chiller' }),
    await aCylinder(shop, { label: 'Buoy 12', refrigerant: null, condition: 'clean', tareMg: 9e6 }),
    await aJob(shop),
  ]
  const before = new Date(Date.now() - 3_600_000)
  const channels = KIT.flatMap((each) => each[2])
  const token = await inShop(shop.shopId, async (tx) => {
    const made = await addDevice(
      tx,
      { deviceId, name: 'Rig at the chiller', channels, standIn: true },
      shop.userId,
      before,
    )
    for (const [kind, label, own, facts] of KIT) {
      const kitId = randomUUID()
      await addKit(tx, kitId, { kind, label, keepsAt: '', facts, state: 'in-use' }, before)
      for (const channel of own) await moveChannel(tx, { deviceId, channel, kitId }, before)
      kit.push(anEntry('kit-used', { kitId, kind, label, facts }))
    }
    return made
  })
  await note(
    shop,
    jobId,
    anEntry('job-described', { systemId, refrigerant: 'R-410A', title: 'Chiller to the workshop' }),
    ...kit.splice(0),
    anEntry('cylinder-chosen', { cylinderId, use: 'recover', massMg: 3e6 }),
  )
  const folder = mkdtempSync(join(tmpdir(), 'keg-rig-'))
  writeFileSync(join(folder, 'two-pulls.json'), JSON.stringify(SCENARIO))
  writeFileSync(
    join(folder, 'gateway.json'),
    JSON.stringify({
      server: origin,
      devices: [
        {
          deviceId,
          token,
          scenario: 'two-pulls.json',
          speed: 60,
          everyMs: 150,
          channels,
          sensors: { low: { at: 'system' } },
        },
      ],
    }),
  )
  const start = (): ChildProcess =>
    spawn(process.execPath, ['--import', 'tsx', 'instruments/main.ts', join(folder, 'gateway.json')], {
      stdio: 'ignore',
    })
  return { jobId, start, forget: () => rmSync(folder, { recursive: true, force: true }) }
}
const kit: ReturnType<typeof anEntry>[] = []

const tapeKinds = async (shop: AShop, jobId: string) =>
  (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).map((entry) => entry.kind)

test('a live recovery with two pulls: what goes on, the wait, the second pull, the verdict, the gas', async ({
  alone,
  baseURL,
}) => {
  const { page, shop } = await alone()
  const rig = await aRig(shop, baseURL!)
  const gateway = rig.start()
  try {
    await open(page, `/jobs/${rig.jobId}`)
    await page
      .getByRole('button', { name: /^Prepare/ })
      .first()
      .click()
    await page.getByRole('button', { name: 'All at once, 3 to 4 s' }).click()
    await page
      .getByRole('button', { name: /^Recover/ })
      .first()
      .click()
    await page.getByRole('button', { name: /Take 9\.000 kg from the scale/ }).click()
    await page.getByRole('button', { name: 'Start recovery' }).click()
    const says = page.locator('.pull-state > strong')
    await expect(says).toHaveText(/Liquid coming|Vapour coming|Slowing/)
    await expect(says).toHaveText(/Done, it seems|comes back|Gauge near zero/)
    await page.getByRole('button', { name: 'Finish …' }).click()
    await page.getByRole('button', { name: /^End with .* live$/ }).click()

    const waiting = page.getByRole('region', { name: 'Stop, wait, look again' })
    await expect(waiting.getByRole('heading', { name: 'Pull again' })).toBeVisible({ timeout: 40_000 })
    await expect(waiting).toContainText(/another pull would bring .* to .* g/)
    await expect(waiting.locator('.rebound svg')).toBeVisible()
    await page.getByText('Another pull', { exact: true }).click()
    await page.getByRole('button', { name: /Take .* from the scale/ }).click()
    await page.getByRole('button', { name: 'Start recovery' }).click()
    await expect(says).toHaveText(/./)
    // It stops the pull, and purges itself; then the weight stands.
    await expect
      .poll(async () => (await page.locator('.hero').first().textContent())!, { timeout: 60_000 })
      .toMatch(/^\d{2,3} g$/)
    await expect(says).toHaveText(/Done, it seems|comes back/, { timeout: 60_000 })
    await page.getByRole('button', { name: 'Finish …' }).click()
    await page.getByRole('button', { name: /^End with .* live$/ }).click()
    const lines = page.getByRole('region', { name: 'Pull by pull' }).getByRole('row')
    await expect(lines).toHaveCount(3)
    await expect(lines.nth(1)).toContainText(/2\.\d+ kg|3\.\d+ kg/)
    await page.getByLabel(/self-purged/).check()
    await page.getByRole('button', { name: 'Empty: down to level' }).click()
    await expect(page.getByRole('img', { name: /Expected 3\.000 kg.*Recovered 2\.\d+ kg/ })).toBeVisible()
    const gas = page.getByRole('region', { name: 'May the gas go back?' })
    // No machine of the shop was named: what it pulled before somebody has to say.
    await expect(gas.getByRole('heading', { name: 'Measure it before it goes back' })).toBeVisible()
    await gas.getByRole('button', { name: 'Machine was purged of its last gas' }).click()
    await expect(gas.getByRole('heading', { name: 'It may go back into this system' })).toBeVisible()
    await gas.getByRole('button', { name: /^Mark Buoy 12/ }).click()
    await expect(gas.getByText('Marked: recovered gas')).toBeVisible()
    // On the page at once; on the server when it has arrived.
    await expect.poll(() => tapeKinds(shop, rig.jobId)).toContain('gas-judged')
    const kinds = await tapeKinds(shop, rig.jobId)
    expect(kinds.filter((kind) => kind === 'run-ended')).toHaveLength(2)
    expect(kinds).toContain('verdict-given')
  } finally {
    const gone = once(gateway, 'exit')
    gateway.kill()
    await gone
    rig.forget()
  }
  expectNoTrouble(page)
})

test('three runs at once: the Bench shows each, an alarm reaches another screen, and is seen once', async ({
  alone,
}) => {
  const { page, shop } = await alone()
  // 0.8 of 21.6 kg of water on a tare of 12 kg: 29.28 kg gross.
  const runs = await Promise.all(
    ['Gannet', 'Skua', 'Tern'].map((label) =>
      aRunningJob(shop, { label, tareMg: 12e6, balanceMg: 0 } as never),
    ),
  )
  for (const { path } of runs) await open(page, path)
  await open(page, '/')
  await expect(page.locator('.job-card.running')).toHaveCount(3)
  await open(page, '/slide-rule/weights')
  const [first] = runs
  const [started] = await first!.tape().then((all) => all.filter((each) => each.kind === 'run-started'))
  const { runId } = started!.body as { runId: string }
  await note(
    shop,
    first!.jobId,
    anEntry('weight-noted', { runId, weightMg: 29.4e6, on: started!.entryId }, { at: Date.now() }),
  )
  const banner = page.locator('.alarm-banner')
  await expect(banner).toContainText('The cylinder is past its limit')
  await expect(banner).toHaveClass(/urgent/)
  // Another page, and a reload: it stays.
  await open(page, '/cylinders')
  await expect(banner).toContainText('The cylinder is past its limit')
  await page.reload()
  await expect(banner).toContainText('The cylinder is past its limit')
  // Put aside it stays in sight, and a tap brings it back; the places can be gone to all the while.
  await banner.getByRole('button', { name: 'Later' }).click()
  await page.getByRole('link', { name: 'Bench' }).first().click()
  await page.getByRole('button', { name: '1 alarm' }).click()
  await banner.getByRole('button', { name: 'Seen' }).click()
  await expect(banner).toHaveCount(0)
  await expect.poll(() => tapeKinds(shop, first!.jobId)).toContain('alarm-acknowledged')
  // Looked at again on the server since then, and not called again.
  const seenAt = Date.now()
  await expect
    .poll(async () => {
      const running = await inShop(shop.shopId, (tx) => runningJobs(tx))
      return running.find((each) => each.jobId === first!.jobId)!.judgedAt.getTime()
    })
    .toBeGreaterThan(seenAt)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await expect(banner).toHaveCount(0)
  expectNoTrouble(page)
})

test('typed only, on a phone, without a signal in the middle: nothing is lost, and the wait is judged all the same', async ({
  alone,
}) => {
  const { page, shop } = await alone({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  })
  const run = await aRunningJob(shop)
  await open(page, run.path)
  const figure = page.locator('#face-figure')
  const weigh = async (text: string) => {
    await figure.fill(text)
    await page.getByRole('button', { name: 'Note weight' }).click()
    await expect(figure).toHaveValue('')
  }
  await weigh('12.8')
  await page.context().setOffline(true)
  await weigh('13.9')
  await page.getByRole('button', { name: 'Finish …' }).click()
  await figure.fill('14.2')
  await page.getByRole('button', { name: 'End this transfer' }).click()
  const waiting = page.getByRole('region', { name: 'Stop, wait, look again' })
  await expect(waiting.getByRole('heading', { name: /Without a gauge/ })).toBeVisible()
  await waiting.getByLabel('The low side reads').fill('0.9')
  await waiting.getByRole('button', { name: 'Note it' }).click()
  await expect(waiting.getByRole('heading', { name: 'Pull again' })).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await page.context().setOffline(false)
  await expect
    .poll(async () => (await tapeKinds(shop, run.jobId)).filter((kind) => kind !== 'job-described'))
    .toEqual(['run-started', 'weight-noted', 'weight-noted', 'run-ended', 'pressure-noted'])
  expectNoTrouble(page)
})
