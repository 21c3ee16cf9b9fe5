// What it takes to work without signal: sizes of what a device keeps, and how long pages take on a slow phone. Printed as a
// table; nothing here can fail on a slow machine.
import { randomUUID } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { type Browser, chromium, type Page } from '@playwright/test'
import { type Entry, type EntryBodies, type EntryKind, versionOf } from '#core/tape'
import {
  addPerson,
  allCylinders,
  append,
  closeDatabase,
  customerNamed,
  foundShop,
  inShop,
  openJob,
  openSession,
  siteNamed,
} from '#db'
import { analyse, fillShop } from '../db/bulk'
import { cookieOf, sessionOf } from '../testing/a-session'

const SIZES = { cylinders: 500, systems: 200, jobs: 400, entriesPerJob: 20, kit: 200 }
/** Beside what is closed. */
const IN_HAND = { jobs: 25, entries: 60 }
const ROUNDS = 5
/** A slow mobile line, and a processor of a quarter of this one's. */
const LINE = { latencyMs: 300, bytesPerS: 200_000 }
const CPU = 4
const origin = `http://127.0.0.1:${process.env.KEG_PORT}`

const rows: [what: string, measured: number, wanted: number | undefined, unit: string][] = []
const token = await aShopOf()
await sizes()
const browser = await chromium.launch({
  executablePath: process.env.KEG_CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox'],
})
await loads(browser)
await browser.close()
await closeDatabase()
for (const [what, measured, wanted, unit] of rows)
  console.log(
    `${what.padEnd(64)} ${measured.toFixed(measured < 10 ? 2 : 0).padStart(8)} ${unit.padEnd(3)}${
      wanted === undefined ? '' : ` (wanted: under ${wanted})${measured < wanted ? '' : '  <-- over'}`
    }`,
  )

async function aShopOf(): Promise<string> {
  const ids = { shopId: randomUUID(), userId: randomUUID(), siteId: randomUUID(), customerId: randomUUID() }
  const at = new Date()
  await inShop(
    ids.shopId,
    async (tx) => {
      await foundShop(tx, { shopId: ids.shopId, name: 'Middling harbour', timeZone: 'UTC', at })
      const person = {
        signIn: `bench-${ids.userId}`,
        name: 'Bench',
        passwordHash: 'none',
        preferences: {},
        at,
      }
      await addPerson(tx, { userId: ids.userId, role: 'technician', ...person })
      await customerNamed(tx, { customerId: ids.customerId, name: 'Everybody', at })
      const site = { siteId: ids.siteId, customerId: ids.customerId, name: 'Everywhere', altitudeM: 0, at }
      await siteNamed(tx, site)
      await fillShop(tx, SIZES, ids.userId, ids.siteId)
    },
    { takesLong: true },
  )
  for (let nr = 0; nr < IN_HAND.jobs; nr++) await aJobInHand(ids, nr)
  await analyse()
  return openSession(ids.shopId, ids.userId)
}

/** One with a recovery under way, and what was noted of it. */
async function aJobInHand({ shopId, userId }: { shopId: string; userId: string }, nr: number) {
  const jobId = randomUUID()
  const runId = randomUUID()
  const at = Date.now() - 3_600_000
  await inShop(shopId, async (tx) => {
    const [cylinder] = (await allCylinders(tx, nr + 1)).slice(nr)
    const entry = <K extends EntryKind>(n: number, kind: K, body: EntryBodies[K]) =>
      ({
        entryId: randomUUID(),
        kind,
        version: versionOf(kind),
        at: at + n * 1_000,
        deviceId: `bench-${nr}`,
        deviceSeq: n,
        body,
      }) as Entry
    const { cylinderId } = cylinder!
    const weights = Array.from({ length: IN_HAND.entries - 2 }, (_, i) =>
      entry(i + 3, 'weight-noted', { runId, weightMg: 12e6 + i * 10_000 }),
    )
    const start = { runId, use: 'recover', cylinderId, scale: 'S1', mode: 'gross', weightMg: 12e6 } as const
    await openJob(tx, jobId, userId, new Date(at))
    await append(tx, {
      jobId,
      userId,
      entries: [
        entry(1, 'job-described', { title: `In hand ${nr}`, refrigerant: 'R-410A' }),
        entry(2, 'run-started', start),
        ...weights,
      ],
      sentAt: Date.now(),
      offsetMs: 0,
      now: new Date(),
      today: new Date().toISOString().slice(0, 10),
    })
  })
}

async function sizes() {
  const assets = 'build/client/assets'
  const all = readdirSync(assets).map((name) => [name, readFileSync(`${assets}/${name}`)] as const)
  const gz = (bytes: Uint8Array) => gzipSync(bytes).length / 1000
  const program = all.reduce((sum, [, bytes]) => sum + gz(bytes), 0)
  const tables = all.find(([name]) => name.startsWith('catalogue-'))!
  rows.push(['The program on the device, as it is sent', program, undefined, 'kB'])
  rows.push(['Of these the tables of 37 refrigerants', gz(tables[1]), undefined, 'kB'])
  const pack = await (await fetch(`${origin}/pack`, { headers: { cookie: cookieOf(token) } })).text()
  const said = `${SIZES.cylinders} cylinders, ${SIZES.systems} systems, ${IN_HAND.jobs} jobs in hand`
  rows.push([`${said}, kept`, pack.length / 1e6, 3, 'MB'])
  rows.push(['The same as it is sent', gz(Buffer.from(pack)), undefined, 'kB'])
  const html = await (await fetch(origin, { headers: { cookie: cookieOf(token) } })).text()
  const scripts = new Set([...html.matchAll(/["'(]\/(assets\/[^"')]+\.js)["')]/g)].map((m) => m[1]!))
  const bench = [...scripts].reduce((sum, path) => sum + gz(readFileSync(`build/client/${path}`)), 0)
  rows.push([`JavaScript of the Bench (${scripts.size} files)`, bench, 190, 'kB'])
}

async function loads(browser: Browser) {
  const first: number[] = []
  const later: number[] = []
  const without: number[] = []
  const slow: number[] = []
  const inside: number[] = []
  for (let round = 0; round < ROUNDS; round++) {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
    await context.addCookies([sessionOf(token, origin)])
    const page = await context.newPage()
    const wire = await context.newCDPSession(page)
    await wire.send('Network.enable')
    await wire.send('Network.emulateNetworkConditions', {
      offline: false,
      latency: LINE.latencyMs,
      downloadThroughput: LINE.bytesPerS,
      uploadThroughput: LINE.bytesPerS,
    })
    await wire.send('Emulation.setCPUThrottlingRate', { rate: CPU })
    first.push(await timed(page, '/'))
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null, undefined, {
      timeout: 60_000,
    })
    await page.waitForFunction(
      async () => (await indexedDB.databases()).some(({ name }) => name === 'keg-device'),
      undefined,
      { timeout: 60_000 },
    )
    await page.waitForTimeout(1_500)
    later.push(await timed(page, '/'))
    // No line at all: what the device has for itself comes without its delay.
    const none = { latency: 0, downloadThroughput: -1, uploadThroughput: -1 }
    await wire.send('Network.emulateNetworkConditions', { offline: true, ...none })
    await context.setOffline(true)
    without.push(await timed(page, '/cylinders'))
    slow.push(await pressed(page, '/', 'Bench'))
    await wire.send('Emulation.setCPUThrottlingRate', { rate: 1 })
    inside.push(await pressed(page, '/systems', 'Systems'), await pressed(page, '/jobs/new', 'New job'))
    await context.close()
  }
  rows.push(['First load on a slow phone, to the Bench', median(first), 3_000, 'ms'])
  rows.push(['Later loads on it, from the device', median(later), 1_000, 'ms'])
  rows.push(['A load without signal on it', median(without), undefined, 'ms'])
  rows.push(['From one page to another without signal, on it', median(slow), undefined, 'ms'])
  rows.push(['The same at the full speed of this machine', median(inside), 300, 'ms'])
}

/** From the address to a page that stands there. */
async function timed(page: Page, path: string): Promise<number> {
  const started = performance.now()
  await page.goto(origin + path, { waitUntil: 'commit' })
  await page.locator('h1').waitFor()
  return performance.now() - started
}

/** From the press to the heading, by the page's own clock. */
async function pressed(page: Page, to: string, heading: string): Promise<number> {
  await page.locator('html[data-alive]').waitFor()
  return page.evaluate(
    ([to, heading]) =>
      new Promise<number>((resolve) => {
        const started = performance.now()
        const look = new MutationObserver(() => {
          if (document.querySelector('h1')?.textContent !== heading) return
          look.disconnect()
          resolve(performance.now() - started)
        })
        look.observe(document.body, { subtree: true, childList: true, characterData: true })
        document.querySelector<HTMLAnchorElement>(`a[href="${to}"]`)!.click()
      }),
    [to, heading] as const,
  )
}

function median(values: number[]): number {
  return values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!
}
