// The month sheet adds up, and every figure is the sum of the movements that it leads to.
import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bookArrival, bookReweigh, bookShipment, closeDatabase, flows, inShop, stock, stockAt } from '#db'
import { letIn } from '../../../testing/a-request'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, note } from '../../../testing/a-shop'
import { loader as ledger } from './ledger'
import { loader as month } from './month'
import { loader as csv } from './month-csv'

const KG = 1_000_000
const at = (day: string) => ({ at: new Date(`${day}T10:00:00Z`).getTime(), backdated: true })
let shop: AShop
let context: RouterContextProvider
const args = (path: string) =>
  ({ context, params: {}, request: new Request(`http://keg.test${path}`) }) as never
const sheet = async (query: string) => {
  const { lines, total } = await month(args(`/ledger/month?${query}`))
  const kg = (line: (typeof lines)[number] | typeof total) =>
    Object.fromEntries(
      Object.entries(line)
        .filter(([name, value]) => name.endsWith('Mg') && value !== 0)
        .map(([name, value]) => [name.slice(0, -2), (value as number) / KG]),
    )
  return { lines: lines.map((line) => [line.refrigerant, kg(line)]), total: kg(total) }
}

beforeAll(async () => {
  shop = await aShop()
  context = await letIn(shop, 'trainee')
  const [recovery, virgin, systemId, jobId] = await Promise.all([
    aCylinder(shop, { label: 'Gull' }),
    aCylinder(shop, { label: 'New', kind: 'virgin' }),
    aSystem(shop),
    aJob(shop),
  ])
  const voucher = (cylinderId: string, day: string) => ({
    voucherId: randomUUID(),
    cylinderId,
    at: new Date(`${day}T10:00:00Z`),
    now: new Date(),
    userId: shop.userId,
    text: '',
  })
  const transfer = (use: 'recover' | 'charge', cylinderId: string, from: number, to: number, day: string) => {
    const runId = randomUUID()
    const when = at(day)
    return [
      anEntry('run-started', { runId, use, cylinderId, scale: '', mode: 'gross', weightMg: from * KG }, when),
      anEntry('run-ended', { runId, weightMg: to * KG }, { ...when, at: when.at + 60_000 }),
    ] as const
  }
  await inShop(shop.shopId, (tx) =>
    bookArrival(tx, { ...voucher(virgin, '2026-02-10'), kind: 'purchase', massMg: 10 * KG }),
  )
  // March: 3.2 recovered, corrected to 3.0; 2.5 charged.
  const [begun, ended] = transfer('recover', recovery, 12, 15.2, '2026-03-02')
  await note(shop, jobId, anEntry('job-described', { systemId, refrigerant: 'R-410A' }, at('2026-03-02')))
  await note(shop, jobId, begun, ended, anEntry('recovery-ended', { how: 'emptied' }, at('2026-03-03')))
  await note(
    shop,
    jobId,
    anEntry('correction', {
      entryId: ended.entryId,
      kind: 'run-ended',
      body: { ...ended.body, weightMg: 15 * KG },
      reason: '',
      version: 2,
    }),
  )
  await note(shop, jobId, ...transfer('charge', virgin, 22, 19.5, '2026-03-20'))
  // April: shipped 1, and a re-weigh finds 100 g missing of the 2 that should be in it.
  await inShop(shop.shopId, (tx) => bookShipment(tx, { ...voucher(recovery, '2026-04-05'), massMg: 1 * KG }))
  await inShop(shop.shopId, (tx) =>
    bookReweigh(tx, { ...voucher(recovery, '2026-04-06'), grossMg: 13.9 * KG }),
  )
  // May: a job that names no system takes 1.34 kg out and puts as much in.
  const [tern, unnamed] = await Promise.all([aCylinder(shop, { label: 'Tern' }), aJob(shop)])
  await note(
    shop,
    unnamed,
    anEntry('job-described', { title: 'chiller', refrigerant: 'R-410A' }, at('2026-05-04')),
    ...transfer('recover', tern, 12, 13.34, '2026-05-04'),
    ...transfer('charge', virgin, 19.5, 18.16, '2026-05-05'),
  )
})
afterAll(closeDatabase)

describe('the month sheet', () => {
  it('of March: what was bought before is there, and a correction counts with what it corrects', async () => {
    expect((await sheet('month=2026-03')).lines).toEqual([
      ['R-410A', { start: 10, recovered: 3, charged: 2.5, end: 10.5 }],
    ])
  })
  it('of April begins where March ended, and ends with what the rack holds', async () => {
    const { total } = await sheet('from=2026-04-01&to=2026-04-30')
    expect(total).toEqual({ start: 10.5, shipped: 1, unexplained: -0.1, end: 9.4 })
    const held = await inShop(shop.shopId, (tx) => stock(tx))
    expect(held.reduce((sum, each) => sum + each.massMg, 0)).toBe(9.4 * KG)
    const later = await inShop(shop.shopId, (tx) => stockAt(tx, new Date('2026-05-01T00:00:00Z')))
    expect(later).toEqual([{ refrigerant: 'R-410A', massMg: 9.4 * KG }])
  })
  it('leads from each figure to the movements that make it', async () => {
    for (const [part, kg] of [
      ['recovered', 3],
      ['charged', -2.5],
    ] as const) {
      const { sums } = await ledger(
        args(`/ledger?part=${part}&from=2026-03-01&to=2026-03-31&refrigerant=R-410A`),
      )
      expect([part, (sums!.intoMg - sums!.outMg) / KG]).toEqual([part, kg])
    }
    const { wrong } = await ledger(args('/ledger?part=constructor'))
    expect(wrong).toMatch(/no such figure/)
  })
  it('goes out as a table for other programs, with days of the shop and tonnes of CO2', async () => {
    const answer = await csv(args('/ledger/month.csv?month=2026-03'))
    const [head, line] = (await answer.text()).trim().split('\r\n')
    const cells = Object.fromEntries(head!.split(',').map((name, i) => [name, line!.split(',')[i]]))
    expect(cells).toMatchObject({
      first_day: '2026-03-01',
      last_day: '2026-03-31',
      refrigerant: 'R-410A',
      recovered_kg: '3.000',
      end_kg: '10.500',
    })
    expect(Number(cells.end_t_co2e)).toBeCloseTo((10.5 * Number(cells.gwp)) / 1000, 2)
  })
  it('has what a job moved in and out of a system that it never named', async () => {
    expect((await sheet('month=2026-05')).total).toEqual({
      start: 9.4,
      recovered: 1.34,
      charged: 1.34,
      end: 9.4,
    })
    for (const [part, kg] of [
      ['recovered', 1.34],
      ['charged', -1.34],
      ['opening', 0],
    ] as const) {
      const { sums } = await ledger(args(`/ledger?part=${part}&from=2026-05-01&to=2026-05-31`))
      expect([part, ((sums?.intoMg ?? 0) - (sums?.outMg ?? 0)) / KG]).toEqual([part, kg])
    }
    const span = [new Date('2026-05-01T00:00:00Z'), new Date('2026-06-01T00:00:00Z')] as const
    expect(await inShop(shop.shopId, (tx) => flows(tx, ...span))).toEqual(
      expect.arrayContaining([
        { refrigerant: 'R-410A', from: 'unnamed', to: 'cylinder', massMg: 1.34 * KG },
        { refrigerant: 'R-410A', from: 'cylinder', to: 'unnamed', massMg: 1.34 * KG },
      ]),
    )
  })
  it.each([
    ['month=2026-13', /year and month/],
    ['from=2026-03-01', /first and the last day/],
    ['from=2026-03-02&to=2026-03-01', /turn them round/],
  ])('says what is wrong with %s', async (query, sentence) => {
    expect((await month(args(`/ledger/month?${query}`))).wrong).toMatch(sentence)
    expect((await csv(args(`/ledger/month.csv?${query}`))).status).toBe(400)
  })
})
