// Loads a large shop and prints a table of speeds and sizes. Used by ./keg bench; nothing here can fail on a slow machine.
import { createHash, randomUUID } from 'node:crypto'
import { gzipSync } from 'node:zlib'
import { VALVE_CORE } from '#core/hoses'
import { identify } from '#core/identity'
import { REFRIGERANTS, saturationPressurePa, saturationTempK, tableOf } from '#core/refrigerants'
import { type Entry, foldTape, versionOf } from '#core/tape'
import { evacuationCurve } from '#core/vacuum'
import { addPerson, closeDatabase, customerNamed, foundShop, inShop, openSession, siteNamed } from '#db'
import { analyse, fillShop } from '../db/bulk'
import { cookieOf } from '../testing/a-session'
import { contention } from './contention'
import { askTheWorst, heldBy } from './held'
import { tapeCost } from './long-tape'

const SIZES = { cylinders: 5_000, systems: 2_000, jobs: 20_000, entriesPerJob: 20, kit: 5_000 }
const ROUNDS = 100
const WARM_UP = 120
const origin = `http://127.0.0.1:${process.env.KEG_PORT}`

interface Row {
  what: string
  measured: number
  wanted: number
  unit: string
}

const rows: Row[] = []
const cookie = await largeShop()
await pages(cookie)
await sizes(cookie)
await longAndShort()
await everybodyAtOnce()
await held(cookie)
computations()
await closeDatabase()
print()

async function largeShop(): Promise<string> {
  const shop = { shopId: randomUUID(), userId: randomUUID(), siteId: randomUUID(), customerId: randomUUID() }
  const at = new Date()
  const started = performance.now()
  await inShop(
    shop.shopId,
    async (tx) => {
      await foundShop(tx, { shopId: shop.shopId, name: 'Large harbour', timeZone: 'UTC', at })
      await addPerson(tx, {
        userId: shop.userId,
        signIn: `bench-${shop.userId}`,
        name: 'Bench',
        role: 'manager',
        passwordHash: 'none',
        preferences: {},
        at,
      })
      await customerNamed(tx, { customerId: shop.customerId, name: 'Everybody', at })
      await siteNamed(tx, {
        siteId: shop.siteId,
        customerId: shop.customerId,
        name: 'Everywhere',
        altitudeM: 0,
        at,
      })
      await fillShop(tx, SIZES, shop.userId, shop.siteId)
    },
    { takesLong: true },
  )
  await analyse()
  const entries = SIZES.jobs * SIZES.entriesPerJob
  console.log(
    `Loaded ${SIZES.cylinders} cylinders, ${SIZES.jobs} jobs, ${entries} entries in ${((performance.now() - started) / 1000).toFixed(0)} s`,
  )
  return cookieOf(await openSession(shop.shopId, shop.userId))
}

/** One request after another, warm, uncompressed; 95 of 100 are quicker than what is shown. */
async function pages(cookie: string) {
  const id = (name: string) => {
    const hex = createHash('md5').update(name).digest('hex')
    return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
  }
  const paths = [
    ['Bench', '/'],
    ['Cylinders, 60 a page', '/cylinders'],
    ['One cylinder', `/cylinders/${id('cylinder 9')}`],
    ['Cylinders as a list', '/cylinders?as=list&sort=-balance'],
    ['Kit, 60 of 5,000', '/kit?sort=dueOn'],
    ['One scale', `/kit/${id('kit 20')}`],
    ['Due', '/due'],
    ['Labels, one sheet', '/labels?what=kit'],
    ['Systems', '/systems'],
    ['One system', `/systems/${id('system 9')}`],
    ['Jobs', '/jobs'],
    ['New job', '/jobs/new'],
    ['One job', `/jobs/${id('job 9')}`],
    ['Job report', `/jobs/${id('job 9')}/report`],
    ['Ledger', '/ledger'],
    ['Settings', '/settings'],
    ['Slide rule', '/slide-rule'],
    ['Saturation', '/slide-rule/saturation?refrigerant=R-407C&t=31+C'],
    ['Cylinder fill over all cylinders', '/slide-rule/fill?refrigerant=R-410A&charge=90+kg'],
    ['Finder', '/find?q=12'],
  ] as const
  for (const [what, path] of paths) {
    const times: number[] = []
    for (let i = 0; i < WARM_UP + ROUNDS; i++) {
      const started = performance.now()
      const response = await fetch(origin + path, { headers: { cookie, 'accept-encoding': 'identity' } })
      await response.text()
      if (!response.ok || response.redirected) throw new Error(`${path} answered ${response.status}`)
      if (i >= WARM_UP) times.push(performance.now() - started)
    }
    times.sort((a, b) => a - b)
    rows.push({
      what: `${what}, server time p95`,
      measured: times[Math.ceil(0.95 * ROUNDS) - 1]!,
      wanted: 60,
      unit: 'ms',
    })
  }
}

/** A tape of 3,000 entries beside one of 30. */
async function longAndShort() {
  const short = await tapeCost(origin, 30)
  const long = await tapeCost(origin, 3_000)
  rows.push(
    { what: 'Noting a weight on 30 entries, median', measured: short.noteMs, wanted: 60, unit: 'ms' },
    { what: 'Noting a weight on 3,000 entries, median', measured: long.noteMs, wanted: 60, unit: 'ms' },
    { what: 'The second, times the first', measured: long.noteMs / short.noteMs, wanted: 2, unit: '×' },
    { what: 'Page of a job of 3,000 entries, p95', measured: long.pageMs, wanted: 120, unit: 'ms' },
    { what: 'The same, uncompressed', measured: long.pageKb, wanted: 300, unit: 'kB' },
  )
}

/** Quick starts and re-weighs on one cylinder, two jobs on one system. */
async function everybodyAtOnce() {
  const { medianMs, answers } = await contention(origin)
  const asked = Object.values(answers).reduce((a, b) => a + b, 0)
  const faults = Object.entries(answers).reduce(
    (sum, [status, n]) => sum + (Number(status) >= 500 ? n : 0),
    0,
  )
  rows.push(
    {
      what: `One cylinder, five at once (${asked} answers), median`,
      measured: medianMs,
      wanted: 60,
      unit: 'ms',
    },
    { what: 'Of these answered 500 or more', measured: faults, wanted: 1, unit: '' },
  )
}

/** The worst of each route, asked for while nothing else goes on. */
async function held(cookie: string) {
  await askTheWorst(origin, cookie)
  const all = await heldBy(origin)
  rows.push({ what: 'Longest time nobody was answered', measured: all[0]?.[1] ?? 0, wanted: 100, unit: 'ms' })
  for (const [asked, ms] of all) rows.push({ what: `  by ${asked}`, measured: ms, wanted: 100, unit: 'ms' })
}

/** What the browser must fetch before the Bench answers to presses. */
async function sizes(cookie: string) {
  const html = await (await fetch(origin, { headers: { cookie } })).text()
  const scripts = new Set([...html.matchAll(/["'(](\/assets\/[^"')]+\.js)["')]/g)].map((m) => m[1]!))
  let bytes = 0
  for (const path of scripts)
    bytes += gzipSync(Buffer.from(await (await fetch(origin + path)).arrayBuffer())).length
  rows.push({
    what: `JavaScript of the Bench, gzipped (${scripts.size} files)`,
    measured: bytes / 1000,
    wanted: 190,
    unit: 'kB',
  })
}

function computations() {
  const tape = longTape(2_000)
  rows.push({
    what: 'Fold of 2,000 entries',
    measured: median(200, () => foldTape(tape)),
    wanted: 5,
    unit: 'ms',
  })
  const tables = REFRIGERANTS.map(tableOf)
  const calls = 20_000
  let sink = 0
  const fromTemperature = median(60, () => {
    for (let i = 0; i < calls; i++)
      sink += saturationPressurePa(tables[i % tables.length]!, 253 + (i % 400) / 10, 'bubble')
  })
  rows.push({
    what: 'Saturation from temperature',
    measured: (fromTemperature / calls) * 1000,
    wanted: 0.33,
    unit: 'µs',
  })
  const pressures = tables.map((table) => saturationPressurePa(table, 283, 'dew'))
  const fromPressure = median(60, () => {
    for (let i = 0; i < calls; i++) {
      const at = i % tables.length
      sink += saturationTempK(tables[at]!, pressures[at]! * (1 + (i % 300) / 1000), 'dew')
    }
  })
  rows.push({
    what: 'Saturation from pressure',
    measured: (fromPressure / calls) * 1000,
    wanted: 1,
    unit: 'µs',
  })
  rows.push({
    what: 'Identify over all refrigerants',
    measured: median(300, () => {
      sink += identify({ pressurePa: 1.05e6, tempK: 298.15, gaugePa: 1e4, clampK: 1 }).length
    }),
    wanted: 0.2,
    unit: 'ms',
  })
  const rigs = [4.8e-3, 8e-3, 11e-3, 12.7e-3].map((boreM) => ({
    tubes: [{ boreM, lengthM: 1.5 }, VALVE_CORE],
    pumpM3s: 2.4e-3,
    ultimatePa: 2,
  }))
  rows.push({
    what: 'Evacuation of 4 hose sets, as the worker does it',
    measured: median(50, () => {
      for (const rig of rigs) sink += evacuationCurve(rig, 0.01, 101_325, 66.7).length
    }),
    wanted: 50,
    unit: 'ms',
  })
  if (!Number.isFinite(sink)) throw new Error('a look-up gave no number')
}

function longTape(count: number): Entry[] {
  return Array.from({ length: count }, (_, i) => {
    const kind =
      i === 0 ? 'job-described' : i === 1 ? 'run-started' : i === count - 1 ? 'run-ended' : 'weight-noted'
    const weightMg = 12_000_000 + i * 1_000
    const body =
      kind === 'job-described'
        ? { refrigerant: 'R-410A' }
        : kind === 'run-started'
          ? { runId: 'r', use: 'recover', cylinderId: 'c', scale: 's', mode: 'gross', weightMg }
          : kind === 'run-ended'
            ? { runId: 'r', weightMg }
            : { runId: 'r', weightMg }
    return {
      entryId: `e${i}`,
      kind,
      version: versionOf(kind),
      at: i * 1000,
      deviceId: 'd',
      deviceSeq: i,
      body,
    } as Entry
  })
}

function median(rounds: number, work: () => void): number {
  const times = Array.from({ length: rounds }, () => {
    const started = performance.now()
    work()
    return performance.now() - started
  })
  return times.sort((a, b) => a - b)[rounds >> 1]!
}

function print() {
  const width = Math.max(...rows.map((row) => row.what.length))
  console.log(`\n${'What'.padEnd(width)}   Measured     Wanted under   Share`)
  for (const { what, measured, wanted, unit } of rows)
    console.log(
      `${what.padEnd(width)}  ${`${measured.toPrecision(3)} ${unit}`.padStart(10)}  ${`${wanted} ${unit}`.padStart(12)}  ${(measured / wanted).toFixed(2).padStart(7)}`,
    )
}
