// The database ends sessions under load: nothing else ends with them.
import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import postgres from 'postgres'
import { afterAll, beforeAll, expect, it, vi } from 'vitest'
import { aCylinder, aJob, anEntry, aShop, note } from '../testing/a-shop'
import { closeDatabase, databaseAnswers, inShop } from './connection'
import { movements } from './ledger/movements'
import { tapeOf } from './jobs/tape'

// Sessions of this file only: other tests use the same server.
const name = `keg-lost-${randomUUID().slice(0, 8)}`
const admin = postgres(process.env.KEG_ADMIN_DATABASE_URL!, { max: 1, onnotice: () => {} })
const url = process.env.KEG_DATABASE_URL!

beforeAll(() => {
  process.env.KEG_DATABASE_URL = `${url}?application_name=${name}`
})
afterAll(async () => {
  await closeDatabase()
  await admin.end()
  process.env.KEG_DATABASE_URL = url
})

const endSessions = () =>
  admin`select pg_terminate_backend(pid) from pg_stat_activity where application_name = ${name}`

it('writers go on when their sessions end in the middle of it, and nothing is noted by halves', async () => {
  const shop = await aShop()
  const jobs = await Promise.all([1, 2, 3, 4].map(() => aJob(shop)))
  const confirmed: string[] = []
  let going = true
  let interrupted = 0
  const writers = jobs.map(async (jobId) => {
    const runId = randomUUID()
    const cylinderId = await aCylinder(shop).catch(() => aCylinder(shop))
    const start = anEntry('run-started', {
      runId,
      use: 'recover',
      cylinderId,
      scale: '',
      mode: 'gross',
      weightMg: 12e6,
    })
    let weightMg = 12e6
    let next = start
    while (going) {
      try {
        await note(shop, jobId, next)
        confirmed.push(next.entryId)
        weightMg += 10_000
        next = anEntry('weight-noted', { runId, weightMg })
      } catch (error) {
        // What the device would do: the same entry again, a moment later, until it is confirmed.
        expect(String(error)).toMatch(/CONNECTION|terminat|closed|ECONN/i)
        interrupted++
        await pause(1)
      }
    }
  })
  try {
    for (let i = 0; i < 20; i++) {
      const before = confirmed.length
      await pause(80)
      await endSessions()
      // However slow the machine is, something gets through between two ends.
      await vi.waitFor(() => expect(confirmed.length).toBeGreaterThan(before), {
        timeout: 20_000,
        interval: 5,
      })
    }
  } finally {
    // Whatever became of it: without a database they would go round for ever.
    going = false
  }
  await Promise.all(writers)
  expect(interrupted).toBeGreaterThan(0)

  const noted = await Promise.all(
    jobs.map((jobId) =>
      inShop(shop.shopId, (tx) => tapeOf(tx, jobId)).catch(() =>
        inShop(shop.shopId, (tx) => tapeOf(tx, jobId)),
      ),
    ),
  )
  const ids = noted.flat().map((e) => e.entryId)
  expect(new Set(ids).size).toBe(ids.length)
  expect(confirmed.filter((id) => !ids.includes(id))).toEqual([])
})

it('what a transaction still wanted after its session was lost never runs in that of somebody else', async () => {
  const [mine, other] = [await aShop(), await aShop()]
  await aCylinder(mine)
  const pool: Promise<unknown>[] = []
  let after: unknown = 'not tried'
  pool.push(
    inShop(mine.shopId, async (tx) => {
      await endSessions()
      await pause(200)
      // The pool has come back meanwhile, with others' transactions on its connections.
      after = await tx`select current_shop() as shop_id`.catch((error: unknown) => String(error))
    }).catch(() => {}),
  )
  await pause(60)
  pool.push(
    ...Array.from({ length: 12 }, () =>
      inShop(other.shopId, async (tx) => {
        await pause(250)
        return tx`select current_shop() as shop_id`
      }).then(
        ([row]) => expect(row!.shopId).toBe(other.shopId),
        (error: unknown) => expect(String(error)).toMatch(/CONNECTION|terminat/),
      ),
    ),
  )
  await Promise.all(pool)
  expect(String(after)).toContain('CONNECTION')
  expect(await databaseAnswers()).toBe(true)
})

it('a connection that was lost with something half written comes back', async () => {
  const shop = await aShop()
  for (let i = 0; i < 10; i++) {
    const many = Array.from({ length: 20 }, () =>
      inShop(shop.shopId, (tx) => movements(tx, {}, 10)).catch(() => undefined),
    )
    await Promise.all([endSessions(), ...many])
  }
  const started = Date.now()
  await Promise.all(
    Array.from({ length: 20 }, () =>
      inShop(shop.shopId, (tx) => movements(tx, {}, 10)).catch(() => undefined),
    ),
  )
  expect(await databaseAnswers()).toBe(true)
  // A wedged one would wait for its time to connect to run out, 10 s.
  expect(Date.now() - started).toBeLessThan(5_000)
})
