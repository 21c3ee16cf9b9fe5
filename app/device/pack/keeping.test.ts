// What a device keeps of a shop: whose it is, how old, and what comes of the answers that servers and others give.
import 'fake-indexeddb/auto'
import { deleteDB } from 'idb'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { aBrowser } from '../../../testing/a-browser'
import { anEntry } from '../../../testing/an-entry'
import { deviceKeyOf, learn, packOf, refresh, storesHere } from './keeping'
import { asText, PACK_FORMAT } from './pack'
import { forget, keepFor, keptFor } from './store'

const DAY_MS = 86_400_000
const AT = Date.UTC(2026, 5, 1, 12)
let count = 0
let userId: string

interface Answer {
  status?: number
  body?: string
  mark?: string
  redirected?: boolean
}
let answer: Answer | 'down'
/** The mark that was sent along with each. */
let asked: (string | null)[]

async function server(_path: string, init?: RequestInit): Promise<Partial<Response>> {
  asked.push(new Headers(init?.headers).get('if-none-match'))
  if (answer === 'down') throw new TypeError('no way to the server')
  const { status = 200, body = '', mark = '"1"', redirected = false } = answer
  const headers = new Headers({ etag: mark, 'keg-time': String(AT + 60_000) })
  return { ok: status < 300, status, redirected, headers, text: async () => body }
}

const aPack = (of: string, over: object = {}) =>
  asText({
    format: PACK_FORMAT,
    at: AT,
    person: { userId: of, name: 'Ines', deviceKey: `key of ${of}` },
    jobs: [],
    cylinders: [{ cylinderId: 'gull', testedOn: new Date(AT) }],
    ...over,
  })

beforeEach(() => {
  vi.useFakeTimers({ now: AT, toFake: ['Date'] })
  aBrowser(server)
  userId = `user-${++count}`
  asked = []
  answer = { body: aPack(userId) }
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

it('is one, however many ask for it at once', async () => {
  const [, fetched] = await Promise.all([packOf(userId), refresh(userId), packOf(userId)])
  expect(fetched).toBe(true)
  expect(await packOf(userId)).toMatchObject({ mark: '"1"' })
})

it('is kept for one person, times and all, and is asked for by its mark from then on', async () => {
  expect(await packOf(userId)).toBeUndefined()
  expect(await refresh(userId)).toBe(true)
  expect((await keptFor(userId))!.pack.cylinders).toEqual([{ cylinderId: 'gull', testedOn: new Date(AT) }])
  expect(storesHere()).toBe(true)
  answer = { status: 304 }
  expect(await refresh(userId)).toBe(true)
  expect(asked).toEqual([null, '"1"'])
  // It is the same, and of a minute later.
  expect((await packOf(userId))!.pack).toMatchObject({ at: AT + 60_000, cylinders: [{ cylinderId: 'gull' }] })
})

it('says nothing of anybody else: the next person finds it gone', async () => {
  await refresh(userId)
  const next = `user-${++count}`
  answer = { body: aPack(next) }
  await refresh(next)
  expect(await keptFor(userId)).toBeUndefined()
  expect((await packOf(next))!.pack.person.userId).toBe(next)
})

it.each([
  ['no way to the server', 'down'],
  ['the door', { redirected: true, body: '<html>' }],
  ['a fault', { status: 500, body: 'sorry' }],
  ['the page of a network in between', { body: '<html>Pay here</html>' }],
  ['half of it', { body: '{"format":1,"person":{"userId"' }],
  ['what a newer Keg would say', { body: '{"format":99,"person":{"userId":"x"},"jobs":[]}' }],
  ['one without jobs', { body: `{"format":${PACK_FORMAT},"person":{"userId":"x"}}` }],
  ["somebody else's", { body: aPack('another') }],
] as [string, Answer | 'down'][])('stays as it was where the answer is %s', async (_what, said) => {
  await refresh(userId)
  answer = said
  expect(await refresh(userId)).toBe(false)
  expect((await keptFor(userId))!.pack.cylinders).toHaveLength(1)
})

it('opens nothing after two weeks without a word from the server, by this device’s clock', async () => {
  await refresh(userId)
  vi.setSystemTime(AT + 14 * DAY_MS - 1)
  expect(await packOf(userId)).toBeDefined()
  vi.setSystemTime(AT + 14 * DAY_MS)
  expect(await packOf(userId)).toBeUndefined()
})

it('keeps what was confirmed since, each once, until a pack that was asked for later has it', async () => {
  await refresh(userId)
  const [early, late] = [anEntry('note', { text: 'early' }), anEntry('note', { text: 'late' })]
  await learn(userId, 'job', [early])
  await learn(userId, 'job', [early])
  expect((await keptFor(userId))!.learned).toEqual({ job: [early] })
  // While the next pack is on its way, one more is confirmed: that pack may not have it.
  answer = { body: aPack(userId), mark: '"2"' }
  const fetching = refresh(userId)
  await learn(userId, 'job', [late])
  await fetching
  expect((await keptFor(userId))!.learned).toEqual({ job: [late] })
  await refresh(userId)
  expect((await keptFor(userId))!.learned).toEqual({})
})

it('finds the key in what is kept, or asks the server, or has none', async () => {
  expect(await deviceKeyOf(userId)).toBe(`key of ${userId}`)
  answer = 'down'
  expect(await deviceKeyOf(userId)).toBe(`key of ${userId}`)
  expect(await deviceKeyOf(`user-${++count}`)).toBeUndefined()
})

it('goes on in memory where the browser stores nothing, and says so', async () => {
  const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw new DOMException('full', 'QuotaExceededError')
  })
  expect(await refresh(userId)).toBe(true)
  expect(storesHere()).toBe(false)
  expect((await packOf(userId))!.pack.cylinders).toHaveLength(1)
  put.mockRestore()
  expect(await keptFor(userId)).toBeUndefined()
})

it('is gone when it is to be forgotten', async () => {
  await keepFor(userId, { pack: JSON.parse(aPack(userId)) as never, mark: '', heardAt: AT, learned: {} })
  expect(await keptFor(userId)).toBeDefined()
  await forget(userId)
  expect(await keptFor(userId)).toBeUndefined()
})

it('is kept anew from the page where the browser has thrown its store away', async () => {
  await refresh(userId)
  await deleteDB('keg-device')
  await vi.waitFor(async () => expect((await keptFor(userId))?.pack.cylinders).toHaveLength(1))
})
