// What runs is judged on the server, by one process, and calls once; the tape says who has seen it.
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { bookArrival, closeDatabase, inShop, runningJobs, unseenAlarms } from '#db'
import { aCylinder, aJob, type AShop, aShop, aSystem, note } from '../../testing/a-shop'
import { wrote } from '../../testing/an-entry'
import { watchRuns } from './watch-runs.server'

const T0 = Date.parse('2026-06-01T10:00:00Z')
const at = (seconds: number) => T0 + seconds * 1_000
let shop: AShop
const fails: { error: unknown; jobId: string }[] = []
const look = (seconds: number) =>
  watchRuns(
    () => new Date(at(seconds)),
    (error, jobId) => fails.push({ error, jobId }),
  )
const calling = (jobId: string) =>
  inShop(shop.shopId, async (tx) =>
    (await unseenAlarms(tx, shop.userId)).filter((each) => each.jobId === jobId),
  )

beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

/** Somebody recovers, and notes a weight at each of some seconds. */
async function aRun(weights: [seconds: number, grossKg: number][], lowBarG: number) {
  const [jobId, runId] = [await aJob(shop), randomUUID()]
  const systemId = await aSystem(shop)
  const own = await aCylinder(shop, { tareMg: 9e6, waterCapacityMg: 11.9e6, refrigerant: 'R-410A' })
  const started = wrote(
    'run-started',
    { runId, use: 'recover', cylinderId: own, scale: '', mode: 'gross', weightMg: weights[0]![1] * 1e6 },
    at(weights[0]![0]),
  )
  await note(
    shop,
    jobId,
    wrote('job-described', { systemId, refrigerant: 'R-410A', title: 'Blast chiller' }, at(-60)),
    started,
    ...weights
      .slice(1)
      .map(([seconds, kg]) =>
        wrote('weight-noted', { runId, weightMg: kg * 1e6, on: started.entryId }, at(seconds)),
      ),
    wrote('pressure-noted', { point: 'low', pressurePa: 101_325 + lowBarG * 1e5 }, at(weights.at(-1)![0])),
  )
  return { jobId, runId }
}

it('says what goes on in each, calls once for each cause, and forgets what has ended', async () => {
  const stuck = await aRun(
    [
      [0, 9],
      [60, 10],
      [120, 10],
    ],
    6,
  )
  const full = await aRun(
    [
      [0, 16.5],
      [60, 17],
      [120, 17.5],
    ],
    8,
  )
  await look(125)
  const rows = await inShop(shop.shopId, runningJobs)
  const of = (jobId: string) => rows.find((each) => each.jobId === jobId)!
  expect(of(stuck.jobId)).toMatchObject({ code: 'stuck', movedMg: 1e6, expectedMg: 3e6 })
  expect(of(full.jobId)).toMatchObject({ code: 'vapour', movedMg: 1e6 })
  // 8.5 of 9.166 kg: the rule of 80 % liquid at 25 °C counts for R-410A as little as the weight of 0.8.
  expect(of(full.jobId).share!).toBeGreaterThan(0.88)
  expect((await calling(stuck.jobId)).map((each) => each.code)).toEqual(['stuck'])
  expect((await calling(full.jobId)).map((each) => each.code)).toEqual(['limit-near'])
  // They are for whoever has written on the job, and not for a stranger of the same shop.
  expect((await calling(stuck.jobId)).map((each) => each.mine)).toEqual([true])
  const stranger = await inShop(shop.shopId, (tx) => unseenAlarms(tx, randomUUID()))
  expect(stranger.map((each) => each.mine)).not.toContain(true)
  await look(127)
  await Promise.all([look(129), look(129)])
  expect(await calling(stuck.jobId)).toHaveLength(1)

  const [alarm] = await calling(stuck.jobId)
  const { code, cause } = alarm!
  await note(shop, stuck.jobId, wrote('alarm-acknowledged', { code, cause }, at(130)))
  await look(131)
  expect(await calling(stuck.jobId)).toEqual([])
  await note(shop, full.jobId, wrote('run-ended', { runId: full.runId, weightMg: 17.6e6 }, at(140)))
  await look(142)
  expect((await inShop(shop.shopId, runningJobs)).map((each) => each.jobId)).toEqual([stuck.jobId])
})

it('liquid that is metered in with the valve too far open', async () => {
  const [jobId, runId] = [await aJob(shop), randomUUID()]
  const own = await aCylinder(shop, { refrigerant: 'R-410A' })
  await inShop(shop.shopId, (tx) =>
    bookArrival(tx, {
      kind: 'opening',
      voucherId: randomUUID(),
      cylinderId: own,
      massMg: 3e6,
      at: new Date(T0),
      now: new Date(T0),
      userId: shop.userId,
      text: '',
    }),
  )
  await note(
    shop,
    jobId,
    wrote('job-described', { refrigerant: 'R-410A' }, at(150)),
    wrote(
      'run-started',
      { runId, use: 'charge', cylinderId: own, scale: '', mode: 'gross', weightMg: 12e6 },
      at(160),
    ),
    wrote('metering-begun', { lowPa: 501_325, nearCompressor: false }, at(165)),
    wrote('pressure-noted', { point: 'low', pressurePa: 601_325 }, at(170)),
  )
  await look(172)
  expect((await calling(jobId)).map((each) => each.code)).toEqual(['too-far-open'])
})

it('a watch that is due calls until it is answered, and a closed job no more', async () => {
  const jobId = await aJob(shop)
  const watchId = randomUUID()
  await note(shop, jobId, wrote('watch-started', { watchId, what: 'pull', forS: 600 }, at(200)))
  await look(799)
  expect(await calling(jobId)).toEqual([])
  await look(801)
  expect((await calling(jobId)).map((each) => each.code)).toEqual(['due'])
  await note(shop, jobId, wrote('watch-ended', { watchId }, at(810)))
  expect(await calling(jobId)).toEqual([])
  expect(fails).toEqual([])
})

it('one job that cannot be judged holds up no other, and is said', async () => {
  const run = await aRun(
    [
      [900, 9],
      [960, 10],
      [1020, 10],
    ],
    6,
  )
  const broken = await aJob(shop)
  await note(
    shop,
    broken,
    wrote('watch-started', { watchId: randomUUID(), what: 'pull', forS: 600 }, at(900)),
  )
  // From a newer Keg, as after a step back to an older one.
  await inShop(shop.shopId, async (tx) => {
    await tx`
      insert into entry (shop_id, job_id, entry_id, seq, kind, version, at, device_id, device_seq, received_at, user_id, body)
      values (current_shop(), ${broken}, ${randomUUID()}, 2, 'note', 99, now(), 'd', 1, now(), ${shop.userId}, '{}')`
    await tx`update job_summary set last_seq = 2 where job_id = ${broken}`
  })
  await look(1_025)
  expect((await calling(run.jobId)).map((each) => each.code)).toEqual(['stuck'])
  await look(1_027)
  expect(fails.filter((each) => each.jobId === broken)).toMatchObject([
    { error: { name: 'NewerEntryError' } },
  ])
  await inShop(shop.shopId, (tx) => tx`update job_summary set clocks = '[]' where job_id = ${broken}`)
})
