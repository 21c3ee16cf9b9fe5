import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, note } from '../../testing/a-shop'
import {
  addCylinder,
  bookArrival,
  bookRecondition,
  bookRetirement,
  bookReweigh,
  bookShipment,
  closeDatabase,
  cylinderOf,
  inShop,
  jobsInHand,
  jobsWaitingFor,
  LabelTakenError,
  movements,
  NoSuchJobError,
  rebuildSummaries,
  systemOf,
  tapeOf,
  VoucherError,
} from '..'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const within = <T>(work: Parameters<typeof inShop<T>>[1]) => inShop(shop.shopId, work)
const cylinder = (id: string) => within((tx) => cylinderOf(tx, id)).then((c) => c!)
const system = (id: string) => within((tx) => systemOf(tx, id)).then((s) => s!)

const start = (cylinderId: string, weightMg: number, runId = randomUUID()) =>
  anEntry('run-started', { runId, use: 'recover', cylinderId, scale: 'S1', mode: 'gross', weightMg })
const endOf = (run: { body: unknown }, weightMg: number) =>
  anEntry('run-ended', { runId: (run.body as { runId: string }).runId, weightMg, hoseMg: 0 })

/** Every cylinder's and system's balance is the sum of its movements. */
async function expectBalancesProven() {
  const wrong = await within(
    (tx) => tx<{ label: string }[]>`
      select c.label from cylinder c where c.balance_mg <> (
        select coalesce(sum(case when m.to_cylinder = c.cylinder_id then m.mass_mg else 0 end
          - case when m.from_cylinder = c.cylinder_id then m.mass_mg else 0 end), 0) from movement m)
      union all
      select y.name from system y where y.balance_mg <> (
        select coalesce(sum(case when m.to_system = y.system_id then m.mass_mg else 0 end
          - case when m.from_system = y.system_id then m.mass_mg else 0 end), 0) from movement m)`,
  )
  expect(wrong).toEqual([])
}

describe('append', () => {
  it('books a recovery once, however often it is sent', async () => {
    const [cyl, sys, job] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
    const run = start(cyl, 12_000_000)
    const entries = [
      anEntry('job-described', { systemId: sys, refrigerant: 'R-410A' }),
      run,
      endOf(run, 14_900_000),
    ]
    const first = await note(shop, job, ...entries)
    const again = await note(shop, job, ...entries)
    expect(first.entries.map((e) => e.seq)).toEqual([1, 2, 3])
    expect(again.entries.map((e) => e.seq)).toEqual([1, 2, 3])
    expect((await cylinder(cyl)).balanceMg).toBe(2_900_000)
    expect((await system(sys)).balanceMg).toBe(0)
    expect(await within((tx) => movements(tx, { cylinderId: cyl }, 10))).toHaveLength(1)
    await expectBalancesProven()
  })

  it('books only the difference when a correction comes late, and carries it on to later jobs', async () => {
    const [cyl, virgin, sys] = await Promise.all([
      aCylinder(shop),
      aCylinder(shop, { kind: 'virgin' }),
      aSystem(shop),
    ])
    await within((tx) =>
      bookArrival(tx, {
        kind: 'purchase',
        voucherId: randomUUID(),
        cylinderId: virgin,
        at: new Date('2026-01-01'),
        now: new Date(),
        userId: shop.userId,
        text: '',
        massMg: 9_000_000,
      }),
    )
    const described = () => anEntry('job-described', { systemId: sys, refrigerant: 'R-410A' })
    const charge = anEntry('run-started', {
      runId: randomUUID(),
      use: 'charge',
      cylinderId: virgin,
      scale: 'S1',
      mode: 'gross',
      weightMg: 21_000_000,
    })
    const first = await aJob(shop)
    const charged = endOf(charge, 18_000_000)
    await note(shop, first, described(), charge, charged)
    expect((await system(sys)).balanceMg).toBe(3_000_000)

    const second = await aJob(shop)
    const run = start(cyl, 12_000_000)
    await note(
      shop,
      second,
      described(),
      run,
      endOf(run, 14_500_000),
      anEntry('recovery-ended', { how: 'emptied' }),
    )
    expect((await system(sys)).balanceMg).toBe(0)
    const lost = () =>
      within((tx) => movements(tx, { systemId: sys }, 50)).then((list) =>
        list.reduce(
          (sum, m) => sum + (m.toPlace === 'lost' ? m.massMg : 0) - (m.fromPlace === 'lost' ? m.massMg : 0),
          0,
        ),
      )
    expect(await lost()).toBe(500_000)

    // The first job's last weight was misread: it had taken 2.8 kg, not 3.
    await note(
      shop,
      first,
      anEntry('correction', {
        entryId: charged.entryId,
        kind: 'run-ended',
        body: { ...charged.body, weightMg: 18_200_000 },
        reason: 'misread',
      }),
    )
    expect((await cylinder(virgin)).balanceMg).toBe(6_200_000)
    expect((await system(sys)).balanceMg).toBe(0)
    expect(await lost()).toBe(300_000)
    await expectBalancesProven()
  })

  it('refuses a cylinder that does not fit, with the reason, and keeps the rest of what was sent', async () => {
    const [cyl, other, job] = await Promise.all([
      aCylinder(shop),
      aCylinder(shop, { refrigerant: 'R-22' }),
      aJob(shop),
    ])
    const choose = (cylinderId: string) =>
      anEntry('cylinder-chosen', { cylinderId, use: 'recover', massMg: 3_000_000 })
    const wrong = choose(other)
    const result = await note(
      shop,
      job,
      anEntry('job-described', { refrigerant: 'R-410A' }),
      wrong,
      choose(cyl),
      anEntry('note', { text: 'hello' }),
    )
    expect(result.refused).toEqual([{ entryId: wrong.entryId, reasons: [{ code: 'other-refrigerant' }] }])
    expect(result.entries).toHaveLength(3)
    expect(await within((tx) => jobsWaitingFor(tx, cyl))).toMatchObject([{ roomMg: 3_000_000 }])
  })

  it('records what has happened already, and marks a wrong gas as mixed', async () => {
    const [other, job] = await Promise.all([aCylinder(shop, { refrigerant: 'R-22' }), aJob(shop)])
    const run = start(other, 12_000_000)
    const late = anEntry('cylinder-chosen', { cylinderId: other, use: 'recover', massMg: null }, { at: 1000 })
    const result = await note(
      shop,
      job,
      anEntry('job-described', { refrigerant: 'R-410A' }, { at: 0 }),
      late,
      run,
      endOf(run, 13_000_000),
    )
    expect(result.refused).toEqual([])
    expect(await cylinder(other)).toMatchObject({ condition: 'mixed', balanceMg: 1_000_000 })
  })

  it('refuses ids of another shop and jobs that are not there', async () => {
    const elsewhere = await aShop()
    const [theirs, job] = await Promise.all([aCylinder(elsewhere), aJob(shop)])
    const run = start(theirs, 12_000_000)
    const result = await note(shop, job, run)
    expect(result.refused).toEqual([{ entryId: run.entryId, reasons: [{ code: 'not-there' }] }])
    const theirJob = await aJob(elsewhere)
    await expect(note(shop, theirJob, anEntry('note', { text: 'x' }))).rejects.toThrow(NoSuchJobError)
  })

  it('takes notes on one job from many sessions at once, none lost, no number twice', async () => {
    const [cyl, job] = await Promise.all([aCylinder(shop), aJob(shop)])
    const run = start(cyl, 12_000_000)
    await note(shop, job, anEntry('job-described', { refrigerant: 'R-410A' }), run)
    const runId = (run.body as { runId: string }).runId
    const weights = Array.from({ length: 24 }, (_, i) =>
      anEntry('weight-noted', { runId, weightMg: 12_000_000 + i * 50_000 }, { deviceId: `device-${i % 4}` }),
    )
    await Promise.all(weights.map((entry) => note(shop, job, entry)))
    const tape = await within((tx) => tapeOf(tx, job))
    expect(tape.map((e) => e.seq)).toEqual(Array.from({ length: 26 }, (_, i) => i + 1))
  })

  it('lets two jobs not take the same last room', async () => {
    const cyl = await aCylinder(shop)
    const jobs = await Promise.all([aJob(shop), aJob(shop), aJob(shop)])
    const results = await Promise.all(
      jobs.map((job) =>
        note(
          shop,
          job,
          anEntry('job-described', { refrigerant: 'R-410A' }),
          anEntry('cylinder-chosen', { cylinderId: cyl, use: 'recover', massMg: 8_000_000 }),
        ),
      ),
    )
    expect(results.flatMap((r) => r.refused.map((f) => f.reasons[0]!.code))).toEqual(['room-reserved'])
  })

  it('keeps the summary, and rebuilds the same one', async () => {
    const job = await aJob(shop)
    await note(
      shop,
      job,
      anEntry('job-described', { title: 'ferry bridge', refrigerant: 'R-134a' }),
      anEntry('job-waiting', { what: 'expansion valve' }),
    )
    const listed = () => within((tx) => jobsInHand(tx, 500)).then((list) => list.find((j) => j.jobId === job))
    const before = await listed()
    expect(before).toMatchObject({
      status: 'waiting',
      title: 'ferry bridge',
      waitingFor: 'expansion valve',
      next: 'wait',
    })
    expect(await rebuildSummaries(shop.shopId)).toBeGreaterThan(0)
    expect(await listed()).toEqual(before)
  })
})

describe('vouchers', () => {
  const request = (cylinderId: string) => ({
    voucherId: randomUUID(),
    cylinderId,
    at: new Date('2026-05-01T08:00:00Z'),
    now: new Date(),
    userId: shop.userId,
    text: 'papers 12',
  })

  it('buys, re-weighs, ships and retires, each booked once', async () => {
    const cyl = await aCylinder(shop)
    const bought = { ...request(cyl), kind: 'purchase' as const, massMg: 9_000_000 }
    await within((tx) => bookArrival(tx, bought))
    await within((tx) => bookArrival(tx, bought))
    expect((await cylinder(cyl)).balanceMg).toBe(9_000_000)
    await within((tx) => bookReweigh(tx, { ...request(cyl), grossMg: 20_940_000 }))
    expect((await cylinder(cyl)).balanceMg).toBe(8_940_000)
    await expect(within((tx) => bookShipment(tx, { ...request(cyl), massMg: 9_000_000 }))).rejects.toThrow(
      VoucherError,
    )
    await expect(within((tx) => bookRecondition(tx, request(cyl)))).rejects.toThrow(/still have gas/)
    await within((tx) => bookShipment(tx, { ...request(cyl), massMg: 8_900_000 }))
    await within((tx) => bookRetirement(tx, { ...request(cyl), rest: 'lost' }))
    expect(await cylinder(cyl)).toMatchObject({ balanceMg: 0, retired: true })
    await expect(within((tx) => bookReweigh(tx, { ...request(cyl), grossMg: 1 }))).rejects.toThrow(/retired/)
    await expectBalancesProven()
  })

  it('frees an emptied cylinder for another gas, but not one that a job counts on', async () => {
    const [cyl, job] = await Promise.all([aCylinder(shop, { condition: 'used' }), aJob(shop)])
    await note(
      shop,
      job,
      anEntry('job-described', { refrigerant: 'R-410A' }),
      anEntry('cylinder-chosen', { cylinderId: cyl, use: 'recover', massMg: 1_000_000 }),
    )
    await expect(within((tx) => bookRecondition(tx, request(cyl)))).rejects.toThrow(/counts on/)
    await note(shop, job, anEntry('cylinder-released', { cylinderId: cyl, use: 'recover' }))
    await within((tx) => bookRecondition(tx, request(cyl)))
    expect(await cylinder(cyl)).toMatchObject({ refrigerant: null, condition: 'clean' })
  })

  it('refuses a label that another cylinder in use has', async () => {
    const cyl = await aCylinder(shop, { label: 'Twice' })
    await expect(aCylinder(shop, { label: 'twice' })).rejects.toThrow(LabelTakenError)
    const {
      reservedMg: _r,
      owner: _o,
      retired: _t,
      balanceMg: _b,
      cylinderId: _c,
      ...data
    } = await cylinder(cyl)
    await within((tx) => addCylinder(tx, cyl, data, new Date()))
  })
})
