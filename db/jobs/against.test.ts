import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Entry } from '#core/tape'
import { aCylinder, aJob, anEntry, type AShop, aShop } from '../../testing/a-shop'
import {
  addKit,
  append,
  type Appended,
  closeDatabase,
  cylinderOf,
  inShop,
  jobHead,
  jobsAgainstTheBooks,
} from '..'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const NOON = Date.UTC(2026, 5, 1, 12)
const MIN = 60_000

/** Sent at a time, whenever it was done. */
const send = (jobId: string, entries: Entry[], sentAt: number, unheard: string[] = []): Promise<Appended> =>
  inShop(shop.shopId, (tx) =>
    append(tx, {
      jobId,
      userId: shop.userId,
      entries,
      sentAt,
      unheard,
      offsetMs: 0,
      now: new Date(sentAt),
      today: '2026-06-01',
    }),
  )

let seq = 0
/** A recovery of so much from a minute after noon to another one. */
function recovery(cylinderId: string, massMg: number, fromMin: number, toMin: number) {
  const runId = randomUUID()
  const deviceId = `device-${++seq}`
  const at = (min: number, deviceSeq: number) => ({ at: NOON + min * MIN, deviceId, deviceSeq })
  return [
    anEntry('job-described', { refrigerant: 'R-410A' }, at(fromMin, 1)),
    anEntry('cylinder-chosen', { cylinderId, use: 'recover', massMg }, at(fromMin, 2)),
    anEntry(
      'run-started',
      { runId, use: 'recover', cylinderId, scale: '', mode: 'gross', weightMg: 12e6 },
      at(fromMin, 3),
    ),
    anEntry('run-ended', { runId, weightMg: 12e6 + massMg, hoseMg: 0 }, at(toMin, 4)),
  ] as [Entry, Entry, Entry, Entry]
}
const found = ({ entries }: Appended) =>
  entries.flatMap((entry) => (entry.kind === 'found-against' ? [entry.body] : []))

describe('what was done without signal', () => {
  it('stands, and says which other job had the cylinder at the time', async () => {
    const cylinderId = await aCylinder(shop)
    const [there, roof] = [await aJob(shop), await aJob(shop)]
    await send(there, recovery(cylinderId, 1e6, 10, 30), NOON + 30 * MIN)
    const done = recovery(cylinderId, 2e6, 5, 40)
    const answer = await send(roof, done, NOON + 300 * MIN)
    expect(answer.refused).toEqual([])
    const { number } = await inShop(shop.shopId, async (tx) => (await jobHead(tx, there))!)
    expect(found(answer)).toEqual([
      { entryId: done[2].entryId, cylinderId, codes: ['used-meanwhile'], jobs: [number] },
    ])
    // 1 kg and 2 kg: both are in the books.
    expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId)))!.balanceMg).toBe(3e6)
    // Sent again it is found once.
    expect(found(await send(roof, done, NOON + 301 * MIN))).toEqual([])
    // It is due until somebody says how it was.
    const due = async () =>
      (await inShop(shop.shopId, (tx) => jobsAgainstTheBooks(tx, 100))).filter(({ jobId }) => jobId === roof)
    expect(await due()).toMatchObject([{ on: '2026-06-01' }])
    const { entryId } = answer.entries.find(({ kind }) => kind === 'found-against')!
    const settled = anEntry('against-settled', { entryId, text: 'Labels compared' }, { at: NOON + 302 * MIN })
    await send(roof, [settled], NOON + 302 * MIN)
    expect(await due()).toEqual([])
  })
  it('says nothing where one had it after the other', async () => {
    const cylinderId = await aCylinder(shop)
    const [there, roof] = [await aJob(shop), await aJob(shop)]
    await send(there, recovery(cylinderId, 1e6, 60, 90), NOON + 90 * MIN)
    expect(found(await send(roof, recovery(cylinderId, 2e6, 5, 40), NOON + 300 * MIN))).toEqual([])
  })
  it('says so where somebody else has filled it up meanwhile', async () => {
    // 11.9 kg of water: R-410A to 0.94 kg/L of it, less than 11.2 kg.
    const cylinderId = await aCylinder(shop, { waterCapacityMg: 11_900_000 })
    const [there, roof] = [await aJob(shop), await aJob(shop)]
    await send(there, recovery(cylinderId, 7e6, -60, -30), NOON)
    const [described, chosen] = recovery(cylinderId, 5e6, 5, 40)
    expect(found(await send(roof, [described, chosen], NOON + 300 * MIN))).toMatchObject([
      { entryId: chosen.entryId, codes: ['too-small'], jobs: [] },
    ])
  })
  it('goes by the date where the shop is', async () => {
    const cylinderId = await aCylinder(shop, { testedOn: '2021-06-01', testYears: 5 })
    const zone = (name: string) =>
      inShop(shop.shopId, (tx) => tx`update shop set time_zone = ${name} where shop_id = ${shop.shopId}`)
    const [here, there] = [await aJob(shop), await aJob(shop)]
    // Noon in the harbour is one in the morning of the day after, 13 hours east of it.
    await zone('Pacific/Tongatapu')
    const east = await send(there, recovery(cylinderId, 1e6, 5, 10), NOON + 300 * MIN)
    await zone('UTC')
    const home = await send(here, recovery(cylinderId, 1e6, 15, 20), NOON + 300 * MIN)
    expect(found(east).flatMap(({ codes }) => codes)).toContain('test-overdue')
    expect(found(home).flatMap(({ codes }) => codes)).not.toContain('test-overdue')
  })
  it('within two minutes is refused as long as an answer came, and stands where none did', async () => {
    const cylinderId = await aCylinder(shop, { refrigerant: 'R-134a' })
    const [asked, deaf] = [await aJob(shop), await aJob(shop)]
    const soon = NOON + 6 * MIN
    const [described, chosen] = recovery(cylinderId, 1e6, 5, 40)
    const heard = await send(asked, [described, chosen], soon)
    expect(heard.refused).toEqual([{ entryId: chosen.entryId, reasons: [{ code: 'other-refrigerant' }] }])
    const [again, choice] = recovery(cylinderId, 1e6, 5, 40)
    const stood = await send(deaf, [again, choice], soon, [choice.entryId])
    expect(stood.refused).toEqual([])
    expect(found(stood)).toMatchObject([{ codes: ['other-refrigerant'] }])
  })
  it('holds nothing against it that came after: a machine that pulled another gas since, a cylinder that runs elsewhere now', async () => {
    const [cylinderId, gull] = [await aCylinder(shop), await aCylinder(shop, { refrigerant: 'R-134a' })]
    const kitId = randomUUID()
    await inShop(shop.shopId, (tx) =>
      addKit(
        tx,
        kitId,
        { kind: 'machine', label: `M ${kitId}`, facts: {}, keepsAt: '', state: 'in-use' },
        new Date(NOON),
      ),
    )
    const used = (min: number, deviceId: string) =>
      anEntry(
        'kit-used',
        { kitId, kind: 'machine', label: 'M', facts: {} },
        { at: NOON + min * MIN, deviceId, deviceSeq: 9 },
      )
    const [there, now, roof] = [await aJob(shop), await aJob(shop), await aJob(shop)]
    // At 14 h the machine pulls R-134a for somebody else, and at 16 h the cylinder stands on another scale.
    const [described, chosen, started, ended] = recovery(gull, 1e6, 120, 150)
    await send(
      there,
      [
        { ...described, body: { refrigerant: 'R-134a' } } as Entry,
        used(119, 'other'),
        chosen,
        started,
        ended,
      ],
      NOON + 150 * MIN,
    )
    await send(now, recovery(cylinderId, 1e6, 240, 260).slice(0, 3), NOON + 240 * MIN)
    const [first, ...rest] = recovery(cylinderId, 1e6, 5, 40)
    const answer = await send(roof, [first, used(4, first.deviceId), ...rest], NOON + 300 * MIN)
    expect(answer.refused).toEqual([])
    expect(found(answer)).toEqual([])
  })
})
