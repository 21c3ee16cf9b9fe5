import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { changePerson, closeDatabase, inShop, openSession } from '#db'
import { signedIn } from '~/base/session/signed-in.server'
import { answered, letIn, sendJson, through } from '../../../testing/a-request'
import { aCylinder, aJob, anEntry, type AShop, aShop } from '../../../testing/a-shop'
import { action, loader } from './tape-resource'

let shop: AShop
let technician: RouterContextProvider
let trainee: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  technician = await letIn(shop, 'technician')
  trainee = await letIn(shop, 'trainee')
})
afterAll(closeDatabase)
afterEach(() => {
  delete process.env.KEG_RATE_APPEND
})

const post = (jobId: string, body: unknown, context = technician) =>
  answered(action({ request: sendJson(body), context, params: { jobId } } as never))
const idOf = (who: RouterContextProvider) => signedIn(who).person.userId
const batch = (...entries: unknown[]) => ({ userId: idOf(technician), entries, sentAt: Date.now() })
const get = (jobId: string, after: string) =>
  answered(
    loader({
      request: new Request(`http://keg.test/?after=${after}`),
      context: technician,
      params: { jobId },
    } as never),
  )
const hello = () => anEntry('note', { text: 'hello' })

describe('entries', () => {
  it('are taken once, numbered, and given to whoever asks for what came after', async () => {
    const job = await aJob(shop)
    const [a, b] = [hello(), hello()]
    expect((await post(job, batch(a, b))).body).toMatchObject({
      entries: [{ seq: 1 }, { seq: 2 }],
      refused: [],
    })
    expect((await post(job, batch(b))).body).toMatchObject({ entries: [{ entryId: b.entryId, seq: 2 }] })
    expect((await get(job, '1')).body).toMatchObject({ entries: [{ entryId: b.entryId }] })
    expect((await get(job, '2')).body).toEqual({ entries: [] })
  })
  it('of a phone whose clock was a day behind, and was set when signal came back, stand where they were made', async () => {
    const job = await aJob(shop)
    const [DAY, QUARTER] = [86_400_000, 900_000]
    const now = Date.now()
    const made = (ms: number) => ({ life: 'page', ms, heardMs: -DAY })
    const waited = { ...hello(), at: now - QUARTER - DAY, made: made(1_000_000) }
    const fresh = { ...hello(), at: now, made: made(1_000_000 + QUARTER) }
    const { body } = await post(job, {
      ...batch(waited, fresh),
      sentAt: now,
      made: made(1_000_000 + QUARTER),
    })
    const { entries } = body as { entries: { at: number; offsetMs: number; made?: object }[] }
    expect(entries.map(({ at, offsetMs }) => Math.round((at - offsetMs - now) / 60_000))).toEqual([-15, 0])
    expect(JSON.stringify(entries)).not.toContain('made')
    expect(JSON.stringify((await get(job, '0')).body)).not.toContain('life')
  })
  it('that are malformed are given back, and do not block the others', async () => {
    const job = await aJob(shop)
    const [good, bad] = [hello(), { ...hello(), kind: 'shouted' }]
    const { body } = await post(job, batch(bad, good))
    expect(body).toMatchObject({
      entries: [{ entryId: good.entryId }],
      refused: [{ entryId: bad.entryId, reasons: [{ code: 'malformed' }] }],
    })
    expect((await post(job, batch(bad))).body).toMatchObject({
      entries: [],
      refused: [{ entryId: bad.entryId }],
    })
  })
  it('of trainees are not taken', async () => {
    const job = await aJob(shop)
    expect((await post(job, { ...batch(hello()), userId: idOf(trainee) }, trainee)).status).toBe(403)
    expect((await get(job, '0')).body).toEqual({ entries: [] })
  })
  it('go nowhere without a job of this shop', async () => {
    const theirs = await aJob(await aShop())
    for (const id of [theirs, randomUUID(), 'no-id', "'; drop table entry"]) {
      expect((await post(id, batch(hello()))).status, id).toBe(404)
      expect((await get(id, '0')).status, id).toBe(404)
    }
  })
  it('come in batches, or are no entries', async () => {
    const job = await aJob(shop)
    for (const body of [
      {},
      'text',
      batch(),
      { entries: [hello()] },
      { entries: [hello()], sentAt: Date.now() },
      { ...batch(hello()), sentAt: 8e15 },
      batch(...Array.from({ length: 501 }, hello)),
    ])
      expect((await post(job, body)).status).toBe(400)
    for (const after of ['x', '99999999999', '1.5', '-1'])
      expect((await get(job, after)).status, after).toBe(400)
  })
  it('have a limit in time', async () => {
    process.env.KEG_RATE_APPEND = '2/3600'
    const [job, someone] = [await aJob(shop), await letIn(shop, 'technician')]
    const statuses = []
    for (let i = 0; i < 3; i++)
      statuses.push((await post(job, { ...batch(hello()), userId: idOf(someone) }, someone)).status)
    expect(statuses).toEqual([200, 200, 429])
  })
  it('of somebody else are not taken in the name of whoever is signed in', async () => {
    const job = await aJob(shop)
    const { status } = await post(job, { ...batch(hello()), userId: idOf(trainee) })
    expect(status).toBe(409)
    expect((await get(job, '0')).body).toEqual({ entries: [] })
  })
  it('with the same id twice are one: the first', async () => {
    const job = await aJob(shop)
    const first = hello()
    const second = { ...first, body: { text: 'another' } }
    const { body } = await post(job, batch(first, second))
    expect(body).toMatchObject({
      entries: [{ entryId: first.entryId, body: { text: 'hello' } }],
      refused: [],
    })
    expect((await get(job, '0')).body).toMatchObject({ entries: [{ seq: 1 }] })
  })
  it('that were seen while one might still write are taken later, decisions and newer ones are not', async () => {
    const [job, cylinderId] = await Promise.all([aJob(shop), aCylinder(shop)])
    const someone = await letIn(shop, 'technician')
    const userId = idOf(someone)
    const before = hello()
    await inShop(shop.shopId, (tx) => changePerson(tx, userId, { role: 'trainee' }))
    const now = Date.now()
    const seen = { ...before, at: now - 60_000 }
    const decided = {
      ...anEntry('cylinder-chosen', { cylinderId, use: 'recover', massMg: null }),
      at: now - 60_000,
    }
    const after = { ...hello(), at: now + 60_000 }
    const demoted = await again(someone)
    const { status, body } = await post(
      job,
      { userId, entries: [seen, decided, after], sentAt: now },
      demoted,
    )
    expect(status).toBe(200)
    expect(body).toMatchObject({
      entries: [{ entryId: seen.entryId }],
      refused: [decided, after].map(({ entryId }) => ({ entryId, reasons: [{ code: 'not-allowed' }] })),
    })
    await inShop(shop.shopId, (tx) => changePerson(tx, userId, { role: 'technician' }))
    expect(
      (await post(job, { userId, entries: [after], sentAt: now }, await again(someone))).body,
    ).toMatchObject({
      entries: [{ entryId: after.entryId }],
    })
  })
})

/** The same person, as the next request finds them. */
async function again(who: RouterContextProvider): Promise<RouterContextProvider> {
  return through(await openSession(shop.shopId, idOf(who)), '/')
}
