// What a station may post, and who may: reports once, in its own name, of what it was given.
import { randomUUID } from 'node:crypto'
import { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { closeDatabase, inShop, tapeOf } from '#db'
import { beginProgramme } from '~/programme/begin.server'
import { requestFacts } from '~/base/session/request-facts'
import { answered } from '../../../testing/a-request'
import { type AShop, aShop } from '../../../testing/a-shop'
import { type AStation, aStation, aVehicleJob } from '../../../testing/a-station'
import { action } from './programme'

let shop: AShop
let station: AStation
let jobId: string
const programmeId = randomUUID()
const now = Date.now()

beforeAll(async () => {
  shop = await aShop()
  station = await aStation(shop)
  jobId = await aVehicleJob(shop, { at: now - 60_000 })
  const steps = [{ step: 'recover' as const, downToPa: 87_726, restS: 60 }]
  await beginProgramme(
    { shopId: shop.shopId, userId: shop.userId },
    { jobId, programmeId, kitId: station.kitId, steps },
    new Date(now),
  )
})
afterAll(closeDatabase)

async function post(
  body: unknown,
  { token = station.token, deviceId = station.deviceId, method = 'POST' } = {},
) {
  const context = new RouterContextProvider()
  context.set(requestFacts, { nonce: 'n', reference: 'r', build: '', shell: false, address: randomUUID() })
  const request = new Request('http://keg.test/api/v1/x', {
    method,
    headers: { authorization: `Bearer ${token}` },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  })
  const { status, body: said } = await answered(action({ request, context, params: { deviceId } } as never))
  return { status, said: said as { detail?: string } }
}
const began = (over: object = {}, report: object = {}) => ({
  programmeId,
  sentAt: now,
  reports: [{ nr: 1, at: now, kind: 'began', step: 'recover', readings: { weightKg: 20.4 }, ...report }],
  ...over,
})
const kinds = async () => (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).map((entry) => entry.kind)

describe('reports of a station', () => {
  it('are written down once, however often they are sent, in the name of whoever began', async () => {
    expect((await post(began())).status).toBe(204)
    const after = await kinds()
    expect(after.slice(-2)).toEqual(['programme-step', 'run-started'])
    expect((await post(began())).status).toBe(204)
    expect(await kinds()).toEqual(after)
    const tape = await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))
    expect(tape.at(-1)!.userId).toBe(shop.userId)
  })
  it('a clock that is an hour ahead is taken for what it is', async () => {
    const hour = 3_600_000
    const late = { nr: 2, at: now + hour, kind: 'asks', ask: 'hoses-off' }
    expect((await post(began({ sentAt: now + hour, reports: [late] }))).status).toBe(204)
    const last = (await inShop(shop.shopId, (tx) => tapeOf(tx, jobId))).at(-1)!
    expect(last.kind).toBe('hand-asked')
    expect(Math.abs(last.at - last.offsetMs! - Date.now())).toBeLessThan(60_000)
  })
  it('of another device, or without a token, are not let in; of a programme that it was not given there is none', async () => {
    const other = await aStation(shop)
    expect((await post(began(), { deviceId: other.deviceId })).status).toBe(403)
    expect((await post(began(), { token: 'kegdev_nobody' })).status).toBe(401)
    expect((await post(began(), { token: other.token, deviceId: other.deviceId })).status).toBe(404)
    const stranger = await aStation(await aShop())
    expect((await post(began(), { token: stranger.token, deviceId: stranger.deviceId })).status).toBe(404)
    expect((await post(began({ programmeId: randomUUID() }))).status).toBe(404)
    expect((await post('', { method: 'PUT' })).status).toBe(405)
  })
  it.each<[string, unknown]>([
    ['nothing', ''],
    ['no JSON', '{'],
    ['half a character', began({}, { readings: { gas: '\ud800' } })],
    ['a null in a text', began({}, { readings: { gas: 'R\u0000' } })],
    ['markup for a gas', began({}, { readings: { gas: '<b>' } })],
    ['a ton more than any scale', began({}, { readings: { weightKg: 1e9 } })],
    ['a vacuum below none', began({}, { readings: { vacuumPa: -1 } })],
    ['a curve of texts', began({}, { readings: { curve: [['a', 'b']] } })],
    ['an ask that is none', began({}, { kind: 'asks', ask: 'tea' })],
    ['an ask without what', began({}, { kind: 'asks' })],
    ['an end without how', began({}, { kind: 'ended' })],
    ['a count of nought', began({}, { nr: 0 })],
    ['what is to come', began({}, { at: now + 3_600_000 })],
    ['what was weeks ago', began({}, { at: now - 8 * 86_400_000 })],
    ['a hundred and one', began({ reports: Array.from({ length: 101 }, () => began().reports[0]) })],
    ['another name for it all', began({ constructor: 1 })],
  ])('%s is refused with a sentence, and changes nothing', async (_, body) => {
    const before = await kinds()
    const { status, said } = await post(body)
    expect(status).toBe(422)
    expect(said.detail).toMatch(/\w/)
    expect(await kinds()).toEqual(before)
  })
})
