// What a change of gas and the oil of a job leave beside the books.
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, NOW } from '../../testing/a-shop'
import {
  addKit,
  append,
  beforeRetrofit,
  chargeLags,
  closeDatabase,
  cylinderOf,
  dyedBefore,
  inShop,
  oilLines,
  retrofitsOf,
  systemOf,
  takenFromBottle,
} from '..'
import type { Entry } from '#core/tape'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const KG = 1_000_000
const T0 = NOW.getTime()
const at = (minutes: number) => ({ at: T0 + minutes * 60_000, backdated: true })
const within = <T>(work: Parameters<typeof inShop<T>>[1]) => inShop(shop.shopId, work)
const note = (jobId: string, ...entries: Entry[]) =>
  within((tx) =>
    append(tx, {
      jobId,
      userId: shop.userId,
      entries,
      sentAt: Math.max(...entries.map((entry) => entry.at)) + 3_600_000,
      offsetMs: 0,
      now: new Date(),
      today: '2026-06-01',
    }),
  )
function transfer(use: 'recover' | 'charge', cylinderId: string, kg: number, minutes: number) {
  const runId = randomUUID()
  const first = 20 * KG
  const last = first + (use === 'recover' ? kg : -kg) * KG
  return [
    anEntry(
      'run-started',
      { runId, use, cylinderId, scale: 'S', mode: 'gross', weightMg: first },
      at(minutes),
    ),
    anEntry('run-ended', { runId, weightMg: last }, at(minutes + 1)),
  ]
}

describe('a system that was changed to another gas', () => {
  it('holds the new one from then on, with its label; its history stays, and the old cylinder keeps its gas', async () => {
    const [old, fresh, sys, job] = await Promise.all([
      aCylinder(shop, { refrigerant: null }),
      aCylinder(shop, { refrigerant: 'R-448A' }),
      aSystem(shop, { refrigerant: 'R-404A', plateMg: 10 * KG, oilType: 'mineral' }),
      aJob(shop),
    ])
    const change = anEntry(
      'gas-changed',
      { to: 'R-448A', oilType: 'POE 32', platePct: 90, reason: '' },
      at(10),
    )
    await note(
      job,
      anEntry('job-described', { systemId: sys, refrigerant: 'R-404A' }, at(0)),
      ...transfer('recover', old, 9.8, 1),
      anEntry('recovery-ended', { how: 'emptied' }, at(3)),
      change,
      ...transfer('charge', fresh, 9, 20),
    )
    const found = (await within((tx) => systemOf(tx, sys)))!
    expect(found).toMatchObject({
      refrigerant: 'R-448A',
      oilType: 'POE 32',
      plateMg: null,
      panelTotalMg: 9 * KG,
      balanceMg: 9 * KG,
    })
    expect((await within((tx) => cylinderOf(tx, old)))?.refrigerant).toBe('R-404A')
    expect(await within((tx) => retrofitsOf(tx, sys))).toMatchObject([
      { jobId: job, fromGas: 'R-404A', toGas: 'R-448A' },
    ])
    expect(await within((tx) => beforeRetrofit(tx, job))).toMatchObject({ wasPlateMg: 10 * KG })

    // What somebody enters afterwards stands, whatever the job still notes.
    await within(
      (tx) =>
        tx`update system set oil_type = 'POE 46', panel_total_mg = ${8_900_000} where system_id = ${sys}`,
    )
    await note(job, anEntry('note', { text: 'tidy' }, at(25)))
    expect(await within((tx) => systemOf(tx, sys))).toMatchObject({
      oilType: 'POE 46',
      panelTotalMg: 8_900_000,
      plateMg: null,
    })

    // Struck, everything is as it was found.
    await note(
      job,
      anEntry(
        'correction',
        { entryId: change.entryId, kind: 'gas-changed', body: null, reason: 'another system' },
        at(30),
      ),
    )
    expect(await within((tx) => systemOf(tx, sys))).toMatchObject({
      refrigerant: 'R-404A',
      oilType: 'mineral',
      plateMg: 10 * KG,
      panelTotalMg: null,
    })
    expect(await within((tx) => retrofitsOf(tx, sys))).toEqual([])
  })
  it('that is struck leaves the gas that the system had, said in the job or not, however often it was changed', async () => {
    const [sys, job] = await Promise.all([aSystem(shop, { refrigerant: 'R-404A' }), aJob(shop)])
    const change = (to: string, minute: number) =>
      anEntry('gas-changed', { to, oilType: '', reason: '' }, at(minute))
    const [first, second] = [change('R-448A', 2), change('R-449A', 3)]
    await note(
      job,
      anEntry('job-described', { systemId: sys }, at(0)),
      anEntry('recovery-ended', { how: 'elsewhere' }, at(1)),
      first,
      second,
    )
    expect(await within((tx) => retrofitsOf(tx, sys))).toMatchObject([{ fromGas: 'R-404A', toGas: 'R-449A' }])
    const strike = ({ entryId }: { entryId: string }) =>
      anEntry('correction', { entryId, kind: 'gas-changed', body: null, reason: 'another system' }, at(9))
    await note(job, strike(first), strike(second))
    expect(await within((tx) => systemOf(tx, sys))).toMatchObject({ refrigerant: 'R-404A' })
  })
})

describe('oil', () => {
  it('is somewhere: drained, gone with a part, out of its bottle; and the dye is remembered', async () => {
    const [sys, job, other] = await Promise.all([
      aSystem(shop, { refrigerant: 'R-1234yf' }),
      aJob(shop),
      aJob(shop),
    ])
    const bottle = randomUUID()
    await within((tx) =>
      addKit(tx, bottle, { kind: 'bottle', label: 'POE 1', facts: {}, keepsAt: '', state: 'in-use' }, NOW),
    )
    await note(
      job,
      anEntry('job-described', { systemId: sys, refrigerant: 'R-1234yf' }, at(0)),
      anEntry('drive-noted', { drive: 'high-voltage' }, at(1)),
      anEntry('drain-read', { when: 'before', volumeMl: 0 }, at(1)),
      anEntry('drain-read', { when: 'after', volumeMl: 15 }, at(2)),
      anEntry('oil-noted', { direction: 'in', volumeMl: 15, text: '', oil: 'POE', bottleId: bottle }, at(3)),
      anEntry('dye-noted', { volumeMl: 5, text: '' }, at(4)),
    )
    const lines = await within((tx) => oilLines(tx, new Date(T0), new Date(T0 + 3_600_000), 50))
    expect(
      lines.filter((each) => each.jobId === job).map((each) => [each.what, each.fromPlace, each.volumeMl]),
    ).toEqual([
      ['dye', 'unnamed', 5],
      // Drained a minute before the fresh oil: what was noted later does not move it.
      ['oil', 'bottle', 15],
      ['oil', 'system', 15],
    ])
    expect(await within((tx) => takenFromBottle(tx, bottle, null))).toBe(15)
    expect(await within((tx) => takenFromBottle(tx, bottle, new Date(T0 + 10 * 60_000)))).toBe(0)
    expect(await within((tx) => dyedBefore(tx, sys, other))).toEqual(new Date(T0 + 4 * 60_000))
    expect(await within((tx) => dyedBefore(tx, sys, job))).toBeNull()
    expect((await within((tx) => systemOf(tx, sys)))?.drive).toBe('high-voltage')
  })
})

it('a bottle of another shop is not there', async () => {
  const [other, job] = [await aShop(), await aJob(shop)]
  const bottle = randomUUID()
  await inShop(other.shopId, (tx) =>
    addKit(tx, bottle, { kind: 'bottle', label: 'Theirs', facts: {}, keepsAt: '', state: 'in-use' }, NOW),
  )
  const { refused } = await note(
    job,
    anEntry('oil-noted', { direction: 'in', volumeMl: 10, text: '', bottleId: bottle }, at(1)),
    anEntry('dye-noted', { volumeMl: 5, text: '', bottleId: bottle }, at(2)),
  )
  expect(refused.map((each) => each.reasons.map(({ code }) => code))).toEqual([['not-there'], ['not-there']])
  expect(await inShop(other.shopId, (tx) => takenFromBottle(tx, bottle, null))).toBe(0)
})

it('how late a charge was closed is kept for whoever closed it', async () => {
  const [from, job, later] = await Promise.all([
    aCylinder(shop, { refrigerant: 'R-410A' }),
    aJob(shop),
    aJob(shop),
  ])
  const runId = randomUUID()
  const second = (s: number) => ({ at: T0 + 600_000 + s * 1000, backdated: true })
  await note(
    job,
    anEntry('job-described', { refrigerant: 'R-410A' }, at(0)),
    ...transfer('recover', from, 1, 1),
    anEntry('recovery-ended', { how: 'emptied' }, at(3)),
    anEntry('target-set', { massMg: KG, toleranceMg: 15_000, basis: 'recovered' }, at(4)),
    anEntry(
      'run-started',
      { runId, use: 'charge', cylinderId: from, scale: '', mode: 'gross', weightMg: 20 * KG },
      second(0),
    ),
    anEntry('weight-noted', { runId, weightMg: 19_050_000 }, second(95)),
    anEntry('weight-noted', { runId, weightMg: 19_010_000 }, second(99)),
    // 20 g over at 10 g/s: two seconds.
    anEntry('run-ended', { runId, weightMg: 18_980_000 }, second(110)),
  )
  expect(await within((tx) => chargeLags(tx, shop.userId, later))).toEqual([2])
  expect(await within((tx) => chargeLags(tx, shop.userId, job))).toEqual([])
})
