// 200 shops with 20 people each on this machine, as a working day has them: where it ends. Run by ./keg bench shops.
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import postgres from 'postgres'
import { addPerson, closeDatabase, inShop, openSession } from '#db'
import { cookieOf } from '../testing/a-session'
import { aCylinder, aJob, anEntry, aShop, aSystem } from '../testing/a-shop'

const SHOPS = Number(process.env.KEG_BENCH_SHOPS ?? 200)
const PEOPLE = 20
/** What one person does in a working day: guessed from the courses in demo/, not measured in a shop. */
const DAY = { hours: 8, notes: 60, pages: 40, jobs: 4 }
/** The busiest hour has so much more than the mean one. */
const PEAK = 3
/** Of all people, so many have Keg open at the same time. */
const OPEN = 0.3
const STEP_S = 20
/** Nobody waits longer than this for 95 of 100 answers, ms: beyond it the machine has ended. */
const ENDS_MS = 500
const origin = `http://127.0.0.1:${process.env.KEG_PORT}`

interface Worker {
  cookie: string
  shopId: string
  userId: string
  jobId: string
  runId: string | undefined
  cylinderId: string
  weightMg: number
}

const random = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)]!
const people = await everybody()
const streams = await listeners()
const rows: Record<string, string | number>[] = []
const usual = (SHOPS * PEOPLE * (DAY.notes + DAY.pages)) / (DAY.hours * 3_600)
const sizeBefore = await databaseBytes()
let notes = 0
for (let times = 1; times <= 16; times *= 2) {
  const row = await atRate(usual * times)
  rows.push({ 'times the mean hour': times, ...row })
  if (Number(row['p95, ms']) > ENDS_MS || Number(row['not answered']) > 0) break
}
const bytesANote = notes > 0 ? ((await databaseBytes()) - sizeBefore) / notes : 0
console.table(rows)
const carried = rows
  .filter((row) => Number(row['p95, ms']) <= ENDS_MS && Number(row['not answered']) === 0)
  .at(-1)
console.log(
  `${SHOPS} shops of ${PEOPLE} ask ${usual.toFixed(1)} times a second in the mean, ${(usual * PEAK).toFixed(0)} in the busiest hour; ${streams.length} listen.`,
)
if (carried)
  console.log(
    `This machine carries ${carried['times the mean hour']} times the mean: ${Math.floor((SHOPS * Number(carried['times the mean hour'])) / PEAK)} shops through their busiest hour.`,
  )
console.log(
  `Disk: ${(bytesANote / 1_000).toFixed(2)} kB a note, ${((bytesANote * DAY.notes * PEOPLE) / 1e6).toFixed(1)} MB a day and shop, without photos and samples.`,
)
for (const each of streams) each.abort()
await closeDatabase()
process.exit(0)

async function everybody(): Promise<Worker[]> {
  const all: Worker[] = []
  for (let i = 0; i < SHOPS; i++) {
    const shop = await aShop()
    await aSystem(shop)
    for (let j = 0; j < PEOPLE; j++) {
      const userId = randomUUID()
      await inShop(shop.shopId, (tx) =>
        addPerson(tx, {
          userId,
          signIn: userId,
          name: `P ${j}`,
          role: 'technician',
          passwordHash: 'x',
          preferences: {},
          at: new Date(),
        }),
      )
      const [jobId, cylinderId] = [await aJob(shop), await aCylinder(shop)]
      const cookie = cookieOf(await openSession(shop.shopId, userId))
      all.push({ cookie, shopId: shop.shopId, userId, jobId, cylinderId, runId: undefined, weightMg: 12e6 })
    }
  }
  console.log(`Made ${SHOPS} shops with ${all.length} people`)
  return all
}

async function listeners(): Promise<AbortController[]> {
  const all: AbortController[] = []
  for (const each of people.slice(0, Math.round(people.length * OPEN))) {
    const ended = new AbortController()
    const answer = await fetch(`${origin}/events`, { headers: { cookie: each.cookie }, signal: ended.signal })
    if (!answer.ok) continue
    answer.body!.pipeTo(new WritableStream()).catch(() => undefined)
    all.push(ended)
  }
  return all
}

/** One thing that somebody does. */
async function act(who: Worker): Promise<boolean> {
  const headers = { cookie: who.cookie, 'content-type': 'application/json', 'sec-fetch-site': 'same-origin' }
  const note = Math.random() < DAY.notes / (DAY.notes + DAY.pages)
  const page = random(['/', '/cylinders', '/jobs', `/jobs/${who.jobId}`, `/jobs/${who.jobId}`, '/systems'])
  const answer = note
    ? await fetch(`${origin}/jobs/${who.jobId}/tape`, {
        method: 'POST',
        headers,
        body: JSON.stringify({ userId: who.userId, entries: [next(who)], sentAt: Date.now() }),
      })
    : await fetch(origin + page, { headers: { cookie: who.cookie } })
  await answer.arrayBuffer()
  if (note && answer.ok) notes++
  return answer.ok
}

function next(who: Worker) {
  const { runId, cylinderId } = who
  if (!runId) {
    who.runId = randomUUID()
    return anEntry(
      'run-started',
      { runId: who.runId, use: 'recover', cylinderId, scale: '', mode: 'gross', weightMg: who.weightMg },
      { at: Date.now() },
    )
  }
  who.weightMg += 10_000
  return anEntry('weight-noted', { runId, weightMg: who.weightMg }, { at: Date.now() })
}

/** So many things a second, whether or not those before are answered. */
async function atRate(perSecond: number) {
  const times: number[] = []
  let failed = 0
  const going = new Set<Promise<void>>()
  const [cpu, connections] = [cpuSeconds(), [] as number[]]
  const began = Date.now()
  while (Date.now() - began < STEP_S * 1_000) {
    const at = performance.now()
    const one = act(random(people)).then(
      (ok) => void (ok ? times.push(performance.now() - at) : failed++),
      () => void failed++,
    )
    going.add(one)
    void one.finally(() => going.delete(one))
    if (times.length % 50 === 0) connections.push(await databaseConnections())
    await pause(1_000 / perSecond)
  }
  await Promise.all(going)
  const took = (Date.now() - began) / 1_000
  times.sort((a, b) => a - b)
  return {
    'asked a second': Math.round((times.length + failed) / took),
    'p50, ms': Math.round(times[Math.floor(times.length / 2)] ?? 0),
    'p95, ms': Math.round(times[Math.floor(times.length * 0.95)] ?? 0),
    'not answered': failed,
    'server, share of a core': Math.round(((cpuSeconds() - cpu) / took) * 100) / 100,
    'database connections': Math.max(0, ...connections),
    'server, MB': memoryMb(),
  }
}

function cpuSeconds(): number {
  const stat = readFileSync(`/proc/${process.env.KEG_SERVER_PID}/stat`, 'utf8')
  const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
  return (Number(fields[11]) + Number(fields[12])) / 100
}

function memoryMb(): number {
  const status = readFileSync(`/proc/${process.env.KEG_SERVER_PID}/status`, 'utf8')
  return Math.round(Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1_024)
}

async function asked<T extends object>(query: string): Promise<T> {
  const sql = postgres(process.env.KEG_ADMIN_DATABASE_URL!, { max: 1 })
  const [row] = await sql.unsafe(query)
  await sql.end()
  return row as T
}

async function databaseBytes(): Promise<number> {
  return Number(
    (await asked<{ bytes: string }>('select pg_database_size(current_database()) as bytes')).bytes,
  )
}

async function databaseConnections(): Promise<number> {
  return Number(
    (await asked<{ n: string }>("select count(*) as n from pg_stat_activity where usename = 'keg_app'")).n,
  )
}
