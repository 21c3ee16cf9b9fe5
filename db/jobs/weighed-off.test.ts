// What scale and books differ by stays marked on the cylinder until somebody weighs it again or says why.
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cylinderLimit, mayTake } from '#core/cylinders'
import { aCylinder, aJob, anEntry, type AShop, aShop, note, NOW } from '../../testing/a-shop'
import {
  bookArrival,
  bookExplanation,
  bookReweigh,
  changeCylinder,
  closeDatabase,
  cylinderOf,
  type CylinderRow,
  inShop,
  VoucherError,
} from '..'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const KG = 1_000_000
const T0 = NOW.getTime()
const cylinder = (id: string): Promise<CylinderRow> =>
  inShop(shop.shopId, (tx) => cylinderOf(tx, id)).then((c) => c!)
const off = (id: string) => cylinder(id).then((c) => c.offMg / KG)

function start(cylinderId: string, kg: number, bookedKg: number, minutes = 0) {
  return anEntry(
    'run-started',
    {
      runId: randomUUID(),
      use: 'recover',
      cylinderId,
      scale: '',
      mode: 'gross',
      weightMg: kg * KG,
      bookedMg: bookedKg * KG,
    },
    { at: T0 + minutes * 60_000, backdated: true },
  )
}
/** One after the other: two at once on one cylinder are refused. */
function transfer(...of: Parameters<typeof start>) {
  const begun = start(...of)
  const { runId, weightMg } = begun.body as { runId: string; weightMg: number }
  return [begun, anEntry('run-ended', { runId, weightMg }, { at: begun.at + 60_000, backdated: true })]
}
const voucher = (cylinderId: string, text = '') => ({
  voucherId: randomUUID(),
  cylinderId,
  at: new Date(T0 + 3_600_000),
  now: new Date(T0 + 3_600_000),
  userId: shop.userId,
  text,
})

describe('a cylinder whose first weight is not what tare and books say', () => {
  it('is marked, and its room is the smaller of books and scale', async () => {
    const id = await aCylinder(shop)
    const job = await aJob(shop)
    // Tare 12: the scale sees 16, the books have nothing in it.
    await note(shop, job, start(id, 16, 12))
    const row = await cylinder(id)
    expect(row.offMg).toBe(4 * KG)
    const limit = cylinderLimit(row, 'R-410A', 0)
    const netMg = limit.kind === 'known' ? limit.limit.netMg : 0
    const fit = mayTake(
      { ...row, refrigerant: 'R-410A' },
      { refrigerant: 'R-410A', massMg: null, today: '2026-06-01', customerId: null, marginPct: 0 },
    )
    expect(fit.roomMg).toBe(netMg - 4 * KG)
    expect(fit.warnings.map(({ code }) => code)).toContain('scale-and-books-differ')
  })
  it('where the scale sees less the books count: nobody knows that it is gone', async () => {
    const id = await aCylinder(shop)
    await inShop(shop.shopId, (tx) =>
      bookArrival(tx, { ...voucher(id), kind: 'opening', massMg: 4 * KG, at: new Date(T0 - 86_400_000) }),
    )
    await note(shop, await aJob(shop), start(id, 12, 16))
    const row = await cylinder(id)
    expect(row.offMg).toBe(-4 * KG)
    const fit = mayTake(row, {
      refrigerant: 'R-410A',
      massMg: null,
      today: '2026-06-01',
      customerId: null,
      marginPct: 0,
    })
    const limit = cylinderLimit(row, 'R-410A', 0)
    expect(fit.roomMg).toBe((limit.kind === 'known' ? limit.limit.netMg : 0) - 4 * KG)
  })
  it('loses the mark when it is weighed again, and an older start does not bring it back', async () => {
    const id = await aCylinder(shop)
    const job = await aJob(shop)
    await note(shop, job, start(id, 16, 12))
    await inShop(shop.shopId, (tx) => bookReweigh(tx, { ...voucher(id), grossMg: 16 * KG }))
    expect(await cylinder(id)).toMatchObject({ offMg: 0, balanceMg: 4 * KG })
    await note(shop, job, anEntry('note', { text: 'later' }))
    expect(await off(id)).toBe(0)
  })
  it('or when somebody says why, with words', async () => {
    const id = await aCylinder(shop)
    await note(shop, await aJob(shop), start(id, 16, 12))
    await expect(inShop(shop.shopId, (tx) => bookExplanation(tx, voucher(id, '  ')))).rejects.toThrow(
      VoucherError,
    )
    expect(await off(id)).toBe(4)
    await inShop(shop.shopId, (tx) => bookExplanation(tx, voucher(id, 'the hose hung on it')))
    expect(await off(id)).toBe(0)
  })
  it('or when the slip is struck or put right', async () => {
    const [id, other] = await Promise.all([aCylinder(shop), aCylinder(shop)])
    const job = await aJob(shop)
    const slip = start(id, 35, 12)
    await note(shop, job, slip)
    const body = { ...slip.body, weightMg: 12 * KG }
    const correction = { entryId: slip.entryId, kind: 'run-started' as const, reason: '', version: 2 }
    await note(shop, job, anEntry('correction', { ...correction, body: { ...body, cylinderId: other } }))
    expect(await off(id)).toBe(0)
    expect(await off(other)).toBe(0)
  })
  it('a newer start that agrees clears it, an older one that arrives late does not', async () => {
    const id = await aCylinder(shop)
    const [first, second] = await Promise.all([aJob(shop), aJob(shop)])
    await note(shop, first, ...transfer(id, 16, 12, 10))
    await note(shop, second, ...transfer(id, 12, 12, 5))
    expect(await off(id)).toBe(4)
    await note(shop, second, ...transfer(id, 12, 12, 20))
    expect(await off(id)).toBe(0)
  })
  it('a correction of the job before explains it: it is not counted twice', async () => {
    const id = await aCylinder(shop)
    const [before, after] = await Promise.all([aJob(shop), aJob(shop)])
    const [begun] = transfer(id, 12, 12, 0)
    const { runId } = begun!.body as { runId: string }
    const ended = anEntry('run-ended', { runId, weightMg: 12.4 * KG }, { at: T0 + 60_000, backdated: true })
    // 4 kg went in, the slip says 0.4.
    await note(shop, before, begun!, ended)
    await note(shop, after, start(id, 16, 12.4, 60))
    expect(await off(id)).toBeCloseTo(3.6, 6)
    const correction = { entryId: ended.entryId, kind: 'run-ended' as const, reason: '', version: 2 }
    await note(
      shop,
      before,
      anEntry('correction', { ...correction, body: { ...ended.body, weightMg: 16 * KG } }),
    )
    expect(await cylinder(id)).toMatchObject({ offMg: 0, balanceMg: 4 * KG })
  })
  it('another tare explains as much as it differs by', async () => {
    const id = await aCylinder(shop)
    await note(shop, await aJob(shop), start(id, 16, 12))
    const row = await cylinder(id)
    await inShop(shop.shopId, (tx) => changeCylinder(tx, id, { ...row, tareMg: 13 * KG }))
    expect(await off(id)).toBe(3)
    await inShop(shop.shopId, (tx) => changeCylinder(tx, id, { ...row, tareMg: 16 * KG }))
    expect(await off(id)).toBe(0)
  })
})
