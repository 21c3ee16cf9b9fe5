// What follows from a tape, in the books and beside them, in courses that overlap, are corrected, or are long.
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, NOW } from '../../testing/a-shop'
import {
  append,
  bookJudgement,
  bookRecondition,
  bookShipment,
  closeDatabase,
  cylinderOf,
  inShop,
  movements,
  rebuildOutdated,
  systemBefore,
  systemPasts,
  systemOf,
  tapeOf,
} from '..'
import { bookedFor } from '../ledger/movements'
import { foldOpen, openTape } from './tape'
import { type Entry, foldTape } from '#core/tape'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const KG = 1_000_000
const MINUTE = 60_000
const within = <T>(work: Parameters<typeof inShop<T>>[1]) => inShop(shop.shopId, work)
const cylinder = (id: string) => within((tx) => cylinderOf(tx, id)).then((c) => c!)
const system = (id: string) => within((tx) => systemOf(tx, id)).then((s) => s!)
const T0 = NOW.getTime()
const at = (minutes: number) => ({ at: T0 + minutes * MINUTE, backdated: true })

function transfer(use: 'recover' | 'charge', cylinderId: string, kg: number, from: number, to: number) {
  const runId = randomUUID()
  const sign = use === 'recover' ? 1 : -1
  const first = 20 * KG
  return [
    anEntry('run-started', { runId, use, cylinderId, scale: 'S', mode: 'gross', weightMg: first }, at(from)),
    anEntry('run-ended', { runId, weightMg: first + sign * kg * KG }, at(to)),
  ]
}
const described = (systemId: string, minutes: number, refrigerant = 'R-410A') =>
  anEntry('job-described', { systemId, refrigerant }, at(minutes))
const emptied = (minutes: number) => anEntry('recovery-ended', { how: 'emptied' }, at(minutes))
/** What has happened, told an hour after it. */
const note = (of: AShop, jobId: string, ...entries: Entry[]) =>
  inShop(of.shopId, (tx) =>
    append(tx, {
      jobId,
      userId: of.userId,
      entries,
      sentAt: Math.max(...entries.map((entry) => entry.at)) + 60 * MINUTE,
      offsetMs: 0,
      now: new Date(),
      today: '2026-06-01',
    }),
  )
const moved = (jobId: string) =>
  within((tx) => bookedFor(tx, jobId)).then((list) =>
    list.map((b) => [b.from.kind, b.to.kind, b.massMg / KG]),
  )

describe('two jobs on one system', () => {
  it('that overlap are booked by the time of their transfers, whichever is written first', async () => {
    for (const lateFirst of [false, true]) {
      const [cyl, other, sys, long, short] = await Promise.all([
        aCylinder(shop),
        aCylinder(shop),
        aSystem(shop),
        aJob(shop),
        aJob(shop),
      ])
      // The long job opens at 0 and recovers at 100; the short one charges 2 kg at 50.
      const longEntries = [described(sys, 0), ...transfer('recover', cyl, 2, 90, 100), emptied(105)]
      const shortEntries = [described(sys, 40), ...transfer('charge', other, 2, 45, 50)]
      if (lateFirst) await note(shop, short, ...shortEntries)
      await note(shop, long, ...longEntries)
      if (!lateFirst) await note(shop, short, ...shortEntries)
      // What the short one put in comes out: nothing from outside.
      const net = (list: (string | number)[][], from: string, to: string) =>
        list.reduce(
          (sum, [f, t, kg]) =>
            sum + (f === from && t === to ? Number(kg) : f === to && t === from ? -Number(kg) : 0),
          0,
        )
      expect(net(await moved(long), 'outside', 'system')).toBe(0)
      expect(net(await moved(long), 'system', 'cylinder')).toBe(2)
      expect((await system(sys)).balanceMg).toBe(0)
    }
  })
  it('take back what was lost, one after the other', async () => {
    const [cyl, sys, filling, first, second] = await Promise.all([
      aCylinder(shop),
      aSystem(shop),
      aJob(shop),
      aJob(shop),
      aJob(shop),
    ])
    await note(shop, filling, described(sys, 0), ...transfer('charge', cyl, 3, 1, 2))
    await note(shop, first, described(sys, 10), ...transfer('recover', cyl, 2.5, 11, 12), emptied(13))
    expect(await moved(first)).toEqual([
      ['system', 'cylinder', 2.5],
      ['system', 'lost', 0.5],
    ])
    await note(shop, second, described(sys, 20), ...transfer('recover', cyl, 0.4, 21, 22), emptied(23))
    expect(await moved(second)).toEqual([
      ['lost', 'system', 0.4],
      ['system', 'cylinder', 0.4],
    ])
    expect((await system(sys)).balanceMg).toBe(0)
  })
  it('know what the books had in it only once it was emptied', async () => {
    const [cyl, sys, first] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
    const before = (minutes: number) =>
      within((tx) => systemBefore(tx, sys, randomUUID(), new Date(T0 + minutes * MINUTE)))
    await note(shop, first, described(sys, 0), ...transfer('charge', cyl, 0.4, 1, 2))
    expect(await before(100)).toEqual({ massMg: 0.4 * KG, whole: false })
    await note(
      shop,
      first,
      ...transfer('recover', cyl, 2, 5, 6),
      emptied(7),
      ...transfer('charge', cyl, 2.2, 8, 9),
    )
    expect(await before(100)).toEqual({ massMg: 2.2 * KG, whole: true })
    const pasts = async () => (await within((tx) => systemPasts(tx))).find((each) => each.systemId === sys)
    expect(await pasts()).toMatchObject({ whole: true })
    // A little more in another job: it had lost something, and nobody knows how much.
    const topUp = await aJob(shop)
    await note(shop, topUp, described(sys, 20), ...transfer('charge', cyl, 0.5, 21, 22))
    expect(await before(100)).toEqual({ massMg: 2.7 * KG, whole: false })
    expect(await pasts()).toMatchObject({ whole: false })
    expect(await before(15)).toEqual({ massMg: 2.2 * KG, whole: true })
    const again = await aJob(shop)
    await note(
      shop,
      again,
      described(sys, 30),
      ...transfer('recover', cyl, 2, 31, 32),
      emptied(33),
      ...transfer('charge', cyl, 2.4, 34, 35),
    )
    expect(await before(100)).toEqual({ massMg: 2.4 * KG, whole: true })
  })
})

describe('a cylinder', () => {
  it('that was named by mistake loses the mark that the mistake gave it', async () => {
    const [right, wrong, sys, job] = await Promise.all([
      aCylinder(shop, { refrigerant: 'R-410A', condition: 'used' }),
      aCylinder(shop, { refrigerant: 'R-22', condition: 'clean' }),
      aSystem(shop),
      aJob(shop),
    ])
    const [start, end] = transfer('recover', wrong, 2, 1, 2)
    await note(shop, job, described(sys, 0), start!, end!)
    expect(await cylinder(wrong)).toMatchObject({ condition: 'mixed', refrigerant: 'R-22' })
    await note(
      shop,
      job,
      anEntry('correction', {
        entryId: start!.entryId,
        kind: 'run-started',
        body: { ...start!.body, cylinderId: right },
        reason: 'the other one',
        version: 2,
      }),
    )
    expect(await cylinder(wrong)).toMatchObject({ condition: 'clean', refrigerant: 'R-22', balanceMg: 0 })
    expect(await cylinder(right)).toMatchObject({ condition: 'used', balanceMg: 2 * KG })
  })
  it('keeps the mark when somebody else has put gas in it since', async () => {
    const [right, wrong, sys, job, other] = await Promise.all([
      aCylinder(shop, { condition: 'used' }),
      aCylinder(shop, { refrigerant: 'R-22', condition: 'clean' }),
      aSystem(shop),
      aJob(shop),
      aJob(shop),
    ])
    const [start, end] = transfer('recover', wrong, 2, 1, 2)
    await note(shop, job, described(sys, 0), start!, end!)
    await note(shop, other, described(sys, 10), ...transfer('recover', wrong, 1, 11, 12))
    await note(
      shop,
      job,
      anEntry('correction', {
        entryId: start!.entryId,
        kind: 'run-started',
        body: { ...start!.body, cylinderId: right },
        reason: '',
        version: 2,
      }),
    )
    expect(await cylinder(wrong)).toMatchObject({ condition: 'mixed' })
  })
  it('that was freed or judged since keeps that, whatever is noted later or folded again', async () => {
    const [cyl, sys, job] = await Promise.all([
      aCylinder(shop, { refrigerant: null, condition: 'clean' }),
      aSystem(shop),
      aJob(shop),
    ])
    await note(shop, job, described(sys, 0), ...transfer('recover', cyl, 2, 1, 2), emptied(3))
    expect(await cylinder(cyl)).toMatchObject({ refrigerant: 'R-410A', condition: 'used' })
    await note(shop, job, anEntry('job-closed', {}, at(5)))
    const voucher = () => ({
      voucherId: randomUUID(),
      cylinderId: cyl,
      at: new Date(),
      now: new Date(),
      userId: shop.userId,
      text: 'tested',
    })
    await within((tx) => bookJudgement(tx, { ...voucher(), condition: 'clean' }))
    await note(shop, job, anEntry('note', { text: 'x' }, at(6)))
    expect(await cylinder(cyl)).toMatchObject({ refrigerant: 'R-410A', condition: 'clean' })
    await within((tx) => bookShipment(tx, { ...voucher(), massMg: 2 * KG }))
    await within((tx) => bookRecondition(tx, voucher()))
    await note(shop, job, anEntry('note', { text: 'y' }, at(7)))
    await within((tx) => tx`update job_summary set fold_version = 1 where job_id = ${job}`)
    await rebuildOutdated()
    expect(await cylinder(cyl)).toMatchObject({ refrigerant: null, condition: 'clean', balanceMg: 0 })
    // What is judged in the job later still counts.
    await note(shop, job, anEntry('gas-judged', { cylinderId: cyl, condition: 'doubtful' }, at(8)))
    expect((await cylinder(cyl)).condition).toBe('doubtful')
  })
  it('of virgin gas into which some flowed back is used', async () => {
    const [virgin, sys, job] = await Promise.all([
      aCylinder(shop, { kind: 'virgin', condition: 'clean' }),
      aSystem(shop),
      aJob(shop),
    ])
    await note(shop, job, described(sys, 0), ...transfer('charge', virgin, -0.3, 1, 2))
    expect(await cylinder(virgin)).toMatchObject({ condition: 'used', balanceMg: 300_000 })
  })
  it('takes no second transfer at once by decision, from any job; what has happened is kept', async () => {
    const [cyl, sys, job, other] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop), aJob(shop)])
    const [running] = transfer('recover', cyl, 2, 1, 2)
    await note(shop, job, described(sys, 0), running!)
    const [second] = transfer('recover', cyl, 1, 3, 4)
    const send = (sentAt: number) =>
      within((tx) =>
        append(tx, {
          jobId: other,
          userId: shop.userId,
          entries: [described(sys, 2), { ...second!, entryId: randomUUID() }],
          sentAt,
          offsetMs: 0,
          now: new Date(),
          today: '2026-06-01',
        }),
      )
    expect((await send(second!.at + 1000)).refused.map((each) => each.reasons)).toEqual([
      [{ code: 'in-use' }],
    ])
    expect((await send(second!.at + 60 * MINUTE)).refused).toEqual([])
  })
})

describe('clocks', () => {
  it('are kept with the entries: a phone ten minutes slow stands where it belongs, nothing in the future', async () => {
    const [cyl, sys, job] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
    await note(shop, job, described(sys, 0))
    const [start, end] = transfer('recover', cyl, 2, 10, 20).map((entry) => ({ ...entry, backdated: false }))
    const now = new Date(T0 + 25 * MINUTE)
    const send = (entry: typeof start, offsetMs: number) =>
      within((tx) =>
        append(tx, {
          jobId: job,
          userId: shop.userId,
          entries: [entry!],
          sentAt: now.getTime() + offsetMs,
          offsetMs,
          now,
          today: '2026-06-01',
        }),
      )
    await send({ ...start!, deviceId: 'desk', deviceSeq: 1 }, 0)
    await send({ ...end!, at: end!.at - 10 * MINUTE, deviceId: 'phone', deviceSeq: 1 }, -10 * MINUTE)
    // A clock that ran two hours ahead when it was written, and was put right before it was sent.
    const ahead = anEntry(
      'note',
      { text: 'x' },
      { at: now.getTime() + 120 * MINUTE, deviceId: 'late', deviceSeq: 1 },
    )
    await send(ahead as typeof start, 0)
    const tape = await within((tx) => tapeOf(tx, job))
    expect(tape.map((entry) => entry.offsetMs)).toEqual([0, 0, -10 * MINUTE, 120 * MINUTE])
    expect(foldTape(tape).lines.map((line) => (line.time - T0) / MINUTE)).toEqual([0, 10, 20, 25])
    expect((await cylinder(cyl)).balanceMg).toBe(2 * KG)
  })
})

describe('a long tape', () => {
  it('folds on from its checkpoint to the same state, and whole when something falls before it', async () => {
    const [cyl, sys, job] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
    const [start] = transfer('recover', cyl, 3, 1, 2).map((entry) => ({ ...entry, backdated: false }))
    const { runId } = start!.body as { runId: string }
    await note(shop, job, described(sys, 0), start!)
    const weights = Array.from({ length: 620 }, (_, i) =>
      anEntry('weight-noted', { runId, weightMg: 20 * KG + i * 1000 }, { at: T0 + (2 + i) * MINUTE }),
    )
    for (let i = 0; i < weights.length; i += 62) await note(shop, job, ...weights.slice(i, i + 62))
    const open = () => within((tx) => openTape(tx, job))
    const state = () => within(async (tx) => foldOpen(tx, job, await openTape(tx, job)))
    const whole = () => within((tx) => tapeOf(tx, job)).then(foldTape)
    const tape = await open()
    expect(tape.checkpoint!.seq).toBeGreaterThan(300)
    expect(tape.entries.length).toBeLessThan(300)
    expect({ ...(await state()), lines: [] }).toEqual({ ...(await whole()), lines: [] })
    // Corrected far back: everything folds again, and the books follow.
    const ended = anEntry('run-ended', { runId, weightMg: 23 * KG }, { at: T0 + 2000 * MINUTE })
    await note(shop, job, ended)
    await note(
      shop,
      job,
      anEntry('correction', {
        entryId: start!.entryId,
        kind: 'run-started',
        body: { ...start!.body, weightMg: 21 * KG },
        reason: '',
        version: 2,
      }),
    )
    expect((await cylinder(cyl)).balanceMg).toBe(2 * KG)
    expect({ ...(await state()), lines: [] }).toEqual({ ...(await whole()), lines: [] })
    expect((await open()).checkpoint!.seq).toBeGreaterThan(300)
    // Sent again, it is the same entry.
    const again = await note(shop, job, weights[3]!)
    expect(again.entries.map((entry) => entry.seq)).toEqual([6])
  })
})

describe('what another version of the fold has made', () => {
  it('is brought up to date at the start: list, reservations and books', async () => {
    const [cyl, sys, job] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
    await note(shop, job, described(sys, 0), ...transfer('recover', cyl, 2, 1, 2), emptied(3))
    await within(async (tx) => {
      await tx`update job_summary set fold_version = 1, recovered_mg = 7, emptied = false where job_id = ${job}`
      await tx`insert into movement (shop_id, movement_id, at, booked_at, job_id, booking, from_place, to_place, to_cylinder,
          mass_mg, known_by, uncertainty_mg, user_id)
        values (current_shop(), gen_random_uuid(), ${NOW}, ${NOW}, ${job}, 'wrong', 'outside', 'cylinder', ${cyl}, 5,
          'weighed', 0, ${shop.userId})`
    })
    expect((await cylinder(cyl)).balanceMg).toBe(2 * KG + 5)
    expect(await rebuildOutdated()).toBeGreaterThanOrEqual(1)
    const [summary] = await within(
      (tx) => tx<{ recoveredMg: number; emptied: boolean }[]>`
        select recovered_mg, emptied from job_summary where job_id = ${job}`,
    )
    expect(summary).toEqual({ recoveredMg: 2 * KG, emptied: true })
    expect((await cylinder(cyl)).balanceMg).toBe(2 * KG)
    const list = await within((tx) => movements(tx, { cylinderId: cyl }, 10))
    expect(list).toHaveLength(3)
    // Nothing is left to do.
    const [left] = await within(
      (tx) => tx`select 1 from job_summary where job_id = ${job} and fold_version = 1`,
    )
    expect(left).toBeUndefined()
  })
})
