// Live instruments under load: 100 devices post 5,000 samples a second, 50 people look on. Prints a table; nothing in it can
// fail on a slow machine. Used by ./keg bench live.
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { chromium } from '@playwright/test'
import { addDevice, addKit, closeDatabase, inShop, moveChannel, openSession } from '#db'
import type { Channel } from '#core/samples'
import { play, readScenario } from '../sim'
import { cookieOf, sessionOf } from '../testing/a-session'
import { aCylinder, aJob, anEntry, type AShop, aShop, note } from '../testing/a-shop'

const DEVICES = 100
const VIEWERS = 50
const POSTS_A_SECOND = 2
const PER_POST = 25
const CHANNELS: Channel[] = ['weight', 'low', 'high', 'suction', 'liquid', 'vacuum']
const SECONDS = Number(process.env.KEG_BENCH_SECONDS ?? 300)
const WARM_UP_S = Math.min(60, SECONDS / 3)
const origin = `http://127.0.0.1:${process.env.KEG_PORT}`
const serverPid = process.env.KEG_SERVER_PID!

const WATCHED = {
  scale: ['weight'],
  gauge: ['low', 'high'],
  thermometer: ['suction', 'liquid'],
  'vacuum-gauge': ['vacuum'],
} as const
/** The number of a post can be read back off the scale: it stands on the screen to the gram. */
const weightOf = (nth: number) => 10 + (nth % 2_000) / 100

interface Talker {
  deviceId: string
  token: string
  seq: number
  taken: number
}

/** The four hours before are numbered from here. */
const LONG_SEQ = 1_000_000
const HOURS = 4

const VALUES: Partial<Record<Channel, number>> = {
  low: 4e5,
  high: 14e5,
  suction: 283,
  liquid: 308,
  vacuum: 60,
}

const rows: [what: string, measured: string, wanted: string][] = []
const shop = await aShop()
const session = await openSession(shop.shopId, shop.userId)
const cookie = cookieOf(session)
const talkers = await Promise.all(Array.from({ length: DEVICES }, (_, i) => aTalker(shop, `Device ${i}`)))
const { jobId, deviceId } = await aWatchedJob(shop)
await longTape()
await opening('alone')
await load()
await opening('after the load, among all others')
speed()
await closeDatabase()
for (const [what, measured, wanted] of rows)
  console.log(`${what.padEnd(112)}${measured.padStart(16)}   wanted ${wanted}`)

async function aTalker(of: AShop, name: string): Promise<Talker> {
  const deviceId = randomUUID()
  const token = await inShop(of.shopId, (tx) =>
    addDevice(tx, { deviceId, name, channels: CHANNELS, standIn: false }, of.userId, new Date()),
  )
  return { deviceId, token, seq: 0, taken: 0 }
}

/** A job whose kit is the first device, for the browser to look at. */
async function aWatchedJob(of: AShop) {
  const { deviceId } = talkers[0]!
  const [jobId, cylinderId] = await Promise.all([aJob(of), aCylinder(of)])
  const since = new Date(Date.now() - 5 * 3_600_000)
  const used = []
  for (const [kind, channels] of Object.entries(WATCHED) as [keyof typeof WATCHED, readonly Channel[]][]) {
    const kitId = randomUUID()
    await inShop(of.shopId, async (tx) => {
      await addKit(tx, kitId, { kind, label: kind, keepsAt: '', facts: {}, state: 'in-use' }, since)
      for (const channel of channels) await moveChannel(tx, { deviceId, channel, kitId }, since)
    })
    used.push(anEntry('kit-used', { kitId, kind, label: kind, facts: {} }))
  }
  await note(
    of,
    jobId,
    anEntry('job-described', { refrigerant: 'R-410A' }),
    ...used,
    anEntry('cylinder-chosen', { cylinderId, use: 'recover', massMg: null }),
  )
  return { jobId, deviceId }
}

async function load() {
  const sentAt = new Map<string, number>()
  const toEvent: number[] = []
  const listening = new AbortController()
  const ears = talkers
    .slice(0, VIEWERS)
    .map(({ deviceId }) => listen(deviceId, listening.signal, sentAt, toEvent))
  await pause(1_000)
  const browser = await paints(sentAt)
  const memory: number[] = []
  const began = Date.now()
  const watch = setInterval(() => {
    if (Date.now() - began > WARM_UP_S * 1_000) memory.push(residentMb())
  }, 1_000)
  await Promise.all(talkers.map((each, i) => talk(each, i, began, sentAt)))
  const seconds = (Date.now() - began) / 1_000
  clearInterval(watch)
  await pause(2_000)
  listening.abort()
  await Promise.all(ears)
  const { toPaint, heapMb } = await browser()
  const said = talkers.reduce((sum, each) => sum + each.taken, 0)
  const [kept] = await inShop(
    shop.shopId,
    (tx) => tx<{ n: number }[]>`
      select count(*) as n from sample where seq < ${LONG_SEQ}`,
  )
  rows.push(['samples a second, 100 devices, fsync on', (said / seconds).toFixed(0), '5000'])
  rows.push(['samples confirmed and not there', String(said - kept!.n), '0'])
  rows.push([
    `memory of the server, most less least after warm-up (${Math.min(...memory).toFixed(0)} to ${Math.max(...memory).toFixed(0)} MB)`,
    `${(Math.max(...memory) - Math.min(...memory)).toFixed(0)} MB`,
    'under 60 MB',
  ])
  rows.push([
    `POST to event, ${VIEWERS} listeners, p95 of ${toEvent.length} (half: ${half(toEvent).toFixed(0)} ms)`,
    `${p95(toEvent).toFixed(0)} ms`,
    'under 250 ms',
  ])
  rows.push([
    `POST to paint in a browser, p95 of ${toPaint.length}`,
    `${p95(toPaint).toFixed(0)} ms`,
    'under 400 ms',
  ])
  rows.push([
    'heap of that browser with 4 h of six channels, after collecting garbage',
    `${heapMb.toFixed(0)} MB`,
    'under 100 MB',
  ])
}

/** Two posts a second, spread over the second. */
async function talk(talker: Talker, i: number, began: number, sentAt: Map<string, number>) {
  const everyMs = 1_000 / POSTS_A_SECOND
  for (let nth = 0; nth < SECONDS * POSTS_A_SECOND; nth++) {
    const due = began + nth * everyMs + (i / DEVICES) * everyMs
    await pause(Math.max(0, due - Date.now()))
    const now = Date.now()
    const samples = Array.from({ length: PER_POST }, (_, k) => ({
      channel: CHANNELS[k % CHANNELS.length]!,
      seq: talker.seq++,
      at: now - (PER_POST - k) * 20,
      value: VALUES[CHANNELS[k % CHANNELS.length]!] ?? weightOf(nth),
    }))
    sentAt.set(`${talker.deviceId} ${samples.at(-1)!.seq}`, performance.timeOrigin + performance.now())
    if (i === 0) sentAt.set(`weight ${weightOf(nth).toFixed(3)}`, Date.now())
    const response = await fetch(`${origin}/api/v1/samples`, {
      method: 'POST',
      headers: { authorization: `Bearer ${talker.token}` },
      body: JSON.stringify({ samples }),
    })
    if (response.ok) talker.taken += PER_POST
    await response.arrayBuffer()
  }
}

async function listen(deviceId: string, signal: AbortSignal, sentAt: Map<string, number>, into: number[]) {
  try {
    const response = await fetch(`${origin}/events?devices=${deviceId}`, { headers: { cookie }, signal })
    let text = ''
    const decoder = new TextDecoder()
    for await (const part of response.body as unknown as AsyncIterable<Uint8Array>) {
      text += decoder.decode(part, { stream: true })
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const data = /^data: (.*)$/m.exec(text.slice(0, end))?.[1]
        text = text.slice(end + 2)
        if (!data?.includes('"samples"')) continue
        const heard = performance.timeOrigin + performance.now()
        for (const [, , , seq] of (JSON.parse(data) as { samples: [string, number, number, number][] })
          .samples) {
          const sent = sentAt.get(`${deviceId} ${seq}`)
          if (sent !== undefined) into.push(heard - sent)
        }
      }
    }
  } catch (error) {
    if (!signal.aborted) throw error
  }
}

/** One browser on the watched job: when each weight stands on its screen. */
async function paints(sentAt: Map<string, number>) {
  const browser = await chromium.launch({
    executablePath: process.env.KEG_CHROMIUM!,
    args: ['--no-sandbox', '--js-flags=--expose-gc'],
  })
  const context = await browser.newContext()
  await context.addCookies([sessionOf(session, origin)])
  const page = await context.newPage()
  const seen: [string, number][] = []
  await page.exposeFunction('sawWeight', (text: string, at: number) => void seen.push([text, at]))
  await page.goto(`${origin}/jobs/${jobId}`)
  await page.locator('.live-tile').first().waitFor()
  // As text: what the compiler adds to functions is not there.
  await page.evaluate(`
    new MutationObserver(() => {
      const tile = [...document.querySelectorAll('.live-tile')].find((each) => each.textContent.includes('weight'))
      const text = tile?.querySelector('strong')?.textContent ?? ''
      requestAnimationFrame(() => window.sawWeight(text, Date.now()))
    }).observe(document.querySelector('.live-board'), { subtree: true, characterData: true, childList: true })`)
  return async () => {
    const cdp = await context.newCDPSession(page)
    await cdp.send('HeapProfiler.collectGarbage')
    const { usedSize } = await cdp.send('Runtime.getHeapUsage')
    await browser.close()
    const toPaint = seen.flatMap(([text, at]) => {
      const sent = sentAt.get(`weight ${text.replace(' kg', '')}`)
      return sent === undefined ? [] : [at - sent]
    })
    return { toPaint, heapMb: usedSize / 1e6 }
  }
}

/** Four hours of six channels at 1 Hz. */
async function longTape() {
  await inShop(
    shop.shopId,
    (tx) => tx`
      insert into sample (shop_id, device_id, channel, at, seq, value)
      select current_shop(), ${deviceId}, c, now() - make_interval(hours => ${HOURS}, secs => 1 - i), ${LONG_SEQ} + i,
        12 + sin(i / 100.0) from generate_series(1, ${HOURS * 3_600}) i cross join unnest(${CHANNELS}::text[]) c`,
  )
}

/** What opening its job costs the server while nothing else is going on. */
async function opening(when: string) {
  for (const [what, path] of [
    ['the page of a job', `/jobs/${jobId}`],
    ['what it heard in four hours, six channels, thinned', `/jobs/${jobId}/samples`],
  ] as const) {
    const times: number[] = []
    for (let i = 0; i < 30; i++) {
      const began = performance.now()
      const response = await fetch(`${origin}${path}`, { headers: { cookie } })
      await response.arrayBuffer()
      times.push(performance.now() - began)
    }
    rows.push([
      `opening ${when}: ${what}, p95 (half: ${half(times.slice(5)).toFixed(0)} ms)`,
      `${p95(times.slice(5)).toFixed(0)} ms`,
      'under 120 ms',
    ])
  }
}

/** How much faster than life a plant runs, on one core. */
function speed() {
  const scenario = readScenario(
    JSON.parse(readFileSync('sim/scenario/scenarios/recover-core-in-fans-off.json', 'utf8')),
  )
  const began = performance.now()
  const state = play({ ...scenario, stepS: 0.25 }, () => {})
  rows.push([
    'a simulated recovery, times life',
    (state.seconds / ((performance.now() - began) / 1_000)).toFixed(0),
    '2000',
  ])
}

function residentMb(): number {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${serverPid}/status`, 'utf8'))![1]) / 1_024
}

function half(list: number[]): number {
  return quantile(list, 0.5)
}

function p95(list: number[]): number {
  return quantile(list, 0.95)
}

function quantile(list: number[], share: number): number {
  return list.toSorted((a, b) => a - b)[Math.floor(list.length * share)] ?? NaN
}
