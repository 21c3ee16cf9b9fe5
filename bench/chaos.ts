// Ends database sessions, stops and starts the database, kills the server, while people write and listen; then looks
// whether every confirmed entry is there, once, and the books are equal. Nobody helps.
import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import postgres from 'postgres'
import { closeDatabase, inShop, openSession, tapeOf } from '#db'
import { prepareDatabase } from '../db/migrate'
import { type Books, checkBooks } from '../db/restore'
import { aCluster, type ACluster } from '../testing/a-cluster'
import { aServer, type AServer } from '../testing/a-server'
import { cookieOf } from '../testing/a-session'
import { aCylinder, aJob, anEntry, type AShop, aShop } from '../testing/a-shop'

export interface ChaosResult {
  confirmed: number
  /** Confirmed entries that are not there. */
  lost: string[]
  doubled: string[]
  books: Books
  /** Answers that were no confirmation, by what they were. */
  answers: Record<string, number>
  acts: Record<string, number>
  /** The longest time in which nothing was confirmed, ms. */
  longestSilenceMs: number
  /** All times together in which nothing was confirmed for over a second, ms. */
  downMs: number
  /** Changes that arrived at the listeners. */
  heard: number
  /** Heard by a listener after everything else, without anybody's help. */
  heardAtTheEnd: boolean
  supervisorRan: boolean
}

interface Setting {
  seconds: number
  writers: number
  streams: number
}

const random = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)]!

/** Sessions ended at random, the database stopped (fast and immediate) and killed, the server killed. */
export async function chaos(setting: Setting): Promise<ChaosResult> {
  const cluster = await aCluster()
  await cluster.start()
  return withPeople(cluster, cluster.url('app'), setting, async (server, until) => {
    const acts: Record<string, number> = {}
    const act = {
      'sessions ended': () => endSessions(cluster),
      'database stopped, fast': () => restart(cluster, 'fast'),
      'database stopped, immediate': () => restart(cluster, 'immediate'),
      'database killed': () => restart(cluster, 'kill'),
      'database paused': () => cluster.pause(3_000),
      'server killed': async () => void server.kill(),
    }
    // Each of them at least once, then as it comes.
    const names = Object.keys(act) as (keyof typeof act)[]
    for (let i = 0; i < names.length || Date.now() < until; i++) {
      const name =
        i < names.length ? names[i]! : random([...names, 'sessions ended', 'sessions ended'] as const)
      await act[name]()
      acts[name] = (acts[name] ?? 0) + 1
      await pause(500 + Math.random() * 3_000)
    }
    return acts
  }).finally(() => cluster.remove())
}

/** A synchronous standby takes over in the middle of writes, and the first server is gone for good. */
export async function failover(setting: Setting): Promise<ChaosResult & { tookOverMs: number }> {
  const first = await aCluster()
  await first.start('wal_level=replica', 'max_wal_senders=4')
  const second = await first.standby()
  let tookOverMs = 0
  try {
    await second.start('hot_standby=on')
    const both = first.url('app').replace(`:${first.port}`, `:${first.port},127.0.0.1:${second.port}`)
    const result = await withPeople(
      first,
      both,
      setting,
      async (_server, until, confirmedSince) => {
        await pause(setting.seconds * 300)
        const taken = Date.now()
        await first.stop('immediate')
        await second.promote()
        const promoted = Date.now()
        while (confirmedSince(promoted) === 0) await pause(20)
        tookOverMs = Date.now() - taken
        while (Date.now() < until) await pause(100)
        return { 'first server killed, standby promoted': 1 }
      },
      second,
    )
    return { ...result, tookOverMs }
  } finally {
    await Promise.all([first.remove(), second.remove()])
  }
}

/** @param readFrom where the entries are looked for in the end, if not where they were written first */
export async function withPeople(
  cluster: Pick<ACluster, 'url'>,
  appUrl: string,
  { seconds, writers, streams }: Setting,
  trouble: (
    server: AServer,
    until: number,
    confirmedSince: (at: number) => number,
  ) => Promise<Record<string, number>>,
  readFrom: Pick<ACluster, 'url'> = cluster,
  serve: (appUrl: string) => Promise<AServer> = aServer,
): Promise<ChaosResult> {
  await prepareDatabase({
    adminUrl: cluster.url('admin'),
    ownerUrl: cluster.url('owner'),
    appUrl: cluster.url('app'),
  })
  if (readFrom !== cluster) await waitForSync(cluster)
  const usual = process.env.KEG_DATABASE_URL
  process.env.KEG_DATABASE_URL = appUrl
  const shop = await aShop()
  const cookie = cookieOf(await openSession(shop.shopId, shop.userId))
  const jobs = await Promise.all(Array.from({ length: writers }, () => aJob(shop)))
  const cylinders = await Promise.all(jobs.map(() => aCylinder(shop)))
  const server = await serve(appUrl)
  try {
    const confirmed: { entryId: string; at: number }[] = []
    const answers: Record<string, number> = {}
    const count = (what: string) => (answers[what] = (answers[what] ?? 0) + 1)
    let going = true
    const listening = new AbortController()
    const heard = { count: 0 }
    const people = [
      ...jobs.map((jobId, i) =>
        write(server, cookie, shop, jobId, cylinders[i]!, () => going, confirmed, count),
      ),
    ]
    const ears = Array.from({ length: streams }, () => listen(server, cookie, listening.signal, heard))
    const until = Date.now() + seconds * 1000
    const acts = await trouble(server, until, (at) => confirmed.filter((c) => c.at > at).length)
    // Without anybody's help it comes back, and what is noted now is heard.
    const before = heard.count
    for (let tries = 0; tries < 450 && (heard.count === before || !(await server.healthy())); tries++)
      await pause(200)
    const heardAtTheEnd = heard.count > before
    // However slow the machine: enough of them that the books have moved.
    for (let tries = 0; tries < 300 && confirmed.length < 8 * writers; tries++) await pause(100)
    going = false
    await Promise.all(people)
    listening.abort()
    await Promise.all(ears)
    const supervisorRan = server.running()

    process.env.KEG_DATABASE_URL = readFrom.url('app')
    await closeDatabase()
    const tapes = await inShop(shop.shopId, (tx) => Promise.all(jobs.map((jobId) => tapeOf(tx, jobId))))
    const there = tapes.flat().map((entry) => entry.entryId)
    const times = confirmed.map((c) => c.at).sort((a, b) => a - b)
    const silences = times.slice(1).map((at, i) => at - times[i]!)
    return {
      confirmed: confirmed.length,
      lost: confirmed.map((c) => c.entryId).filter((id) => !there.includes(id)),
      doubled: there.filter((id, i) => there.indexOf(id) !== i),
      books: await checkBooks(readFrom.url('admin')),
      answers,
      acts,
      longestSilenceMs: Math.max(0, ...silences),
      downMs: silences.filter((ms) => ms > 1_000).reduce((sum, ms) => sum + ms, 0),
      heard: heard.count,
      heardAtTheEnd,
      supervisorRan,
    }
  } finally {
    await server.stop()
    await closeDatabase()
    process.env.KEG_DATABASE_URL = usual
  }
}

/** What a device does: the same entry again until it is confirmed, then the next. */
async function write(
  server: AServer,
  cookie: string,
  shop: AShop,
  jobId: string,
  cylinderId: string,
  going: () => boolean,
  confirmed: { entryId: string; at: number }[],
  count: (what: string) => void,
) {
  const runId = randomUUID()
  let weightMg = 12_000_000
  let noted = 0
  let entry = anEntry('run-started', {
    runId,
    use: 'recover',
    cylinderId,
    scale: '',
    mode: 'gross',
    weightMg,
  })
  // The last one is finished, too: however it ends, the device knows.
  while (going() || !confirmed.some((c) => c.entryId === entry.entryId)) {
    const answer = await fetch(`${server.origin}/jobs/${jobId}/tape`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json', 'sec-fetch-site': 'same-origin' },
      body: JSON.stringify({ userId: shop.userId, entries: [entry], sentAt: Date.now() }),
      signal: AbortSignal.timeout(15_000),
    }).catch((error: Error) => error)
    const taken =
      answer instanceof Response && answer.ok && answer.headers.get('content-type')?.includes('json')
        ? ((await answer.json().catch(() => ({ entries: [] }))) as { entries: { entryId: string }[] }).entries
        : []
    if (taken.some((e) => e.entryId === entry.entryId)) {
      confirmed.push({ entryId: entry.entryId, at: Date.now() })
      if (!going()) return
      weightMg += 1_000
      // Started and ended in turns, so that the books move.
      entry =
        ++noted % 3 === 0
          ? anEntry('run-ended', { runId, weightMg, hoseMg: 0 })
          : anEntry('weight-noted', { runId, weightMg })
      await pause(20)
    } else {
      count(answer instanceof Response ? String(answer.status) : 'no answer')
      await pause(100)
    }
  }
}

async function listen(server: AServer, cookie: string, signal: AbortSignal, heard: { count: number }) {
  while (!signal.aborted) {
    try {
      const response = await fetch(`${server.origin}/events`, { headers: { cookie }, signal })
      if (response.ok)
        for await (const part of response.body!.pipeThrough(
          new TextDecoderStream() as never,
        ) as AsyncIterable<string>)
          heard.count += part.split('"kind":"job"').length - 1
    } catch {
      // Cut off, like a browser's: it comes back.
    }
    if (!signal.aborted) await pause(300 + Math.random() * 300)
  }
}

async function endSessions(cluster: ACluster) {
  const sql = postgres(cluster.url('admin', 'postgres'), { max: 1, onnotice: () => {}, connect_timeout: 5 })
  try {
    // Some of them, or all.
    await sql`
      select pg_terminate_backend(pid) from pg_stat_activity where usename = 'keg_app' and random() < ${random([0.3, 1])}`
  } finally {
    await sql.end({ timeout: 2 })
  }
}

/** Ends it, and starts it again a moment later. */
export async function restart(cluster: ACluster, mode: 'fast' | 'immediate' | 'kill') {
  if (mode === 'kill') await cluster.kill()
  else await cluster.stop(mode)
  await pause(Math.random() * 2_000)
  // After a kill the sessions that are left behind have to end first.
  for (let tries = 1; ; tries++)
    try {
      return await cluster.start()
    } catch (error) {
      if (tries === 10) throw error
      await pause(500)
    }
}

/** From now on nothing is confirmed that the standby has not got. */
async function waitForSync(cluster: Pick<ACluster, 'url'>) {
  const sql = postgres(cluster.url('admin', 'postgres'), { max: 1, onnotice: () => {} })
  try {
    await sql`alter system set synchronous_standby_names = '*'`
    await sql`select pg_reload_conf()`
    for (;;) {
      const [row] = await sql`select sync_state from pg_stat_replication`
      if (row?.sync_state === 'sync') return
      await pause(100)
    }
  } finally {
    await sql.end()
  }
}
