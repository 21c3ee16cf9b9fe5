// Where a page comes from: the server, the device, or nowhere; and that what stands there is not taken away.
import 'fake-indexeddb/auto'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { aBrowser } from '../../../testing/a-browser'
import { PACK_FORMAT } from '../pack/pack'
import { askOrLook } from './ask-or-look'
import { arrivedAt, type FromDevice, NotKept, onLateAnswer, openPage, SLOW_MS, whatStands } from './page'
import { forget, keepFor } from '../pack/store'

const PACKED_AT = 1_000
let count = 0
let userId: string
const none = new TypeError('no way to the server')
/** As the router gives the answers of a server. */
const said = (status: number) => ({ status, statusText: '', internal: true, data: null })
const own: FromDevice<string> = () => 'of the device'
const looked = vi.fn(own)

type Rack = ReturnType<typeof openPage<string>>

/** Asks for a page of `rack`, answered as it says; what comes is not looked at. */
function asks(rack: Rack, serverLoader: () => Promise<string>, address = '/rack') {
  location.pathname = address
  return rack({ request: new Request(`http://keg.test${address}`), params: {}, serverLoader })
}

/** Goes to a page of `rack`, answered as it says. */
async function opens(rack: Rack, serverLoader: () => Promise<string>, address = '/rack') {
  const data = await asks(rack, serverLoader, address)
  arrivedAt(address)
  return data
}
const rackPage = (device: FromDevice<string> | undefined = looked) => openPage<string>(async () => device)
const inMs = <T>(ms: number, then: () => T) =>
  new Promise<T>((resolve) => setTimeout(() => resolve(then()), ms))
const at = { answered: async () => 'of the server', lost: () => Promise.reject(none) }

beforeEach(async () => {
  aBrowser(async () => Promise.reject(none))
  vi.stubGlobal('location', { pathname: '/', search: '', origin: 'http://keg.test' })
  vi.stubGlobal('navigator', { onLine: true })
  userId = `user-${++count}`
  localStorage.setItem('keg-signed-in', userId)
  looked.mockClear()
  await forget(undefined)
  const pack = {
    format: PACK_FORMAT,
    at: PACKED_AT,
    person: { userId },
    jobs: [],
    cylinders: [],
    systems: [],
  }
  await keepFor(userId, { pack: pack as never, mark: '', heardAt: Date.now(), learned: {} })
})
afterEach(() => vi.unstubAllGlobals())

describe('what is asked for beside a page', () => {
  const find = (kept: string[]) =>
    askOrLook<{ cylinders: string[] }>('/cylinders/find?label=tern', async () => () => ({ cylinders: kept }))
  const server = (answer: () => Promise<object>) =>
    vi.stubGlobal('fetch', async () => ({ ok: true, redirected: false, json: answer }))
  const late = () => inMs(4 * SLOW_MS, () => ({ cylinders: ['made just now'] }))

  it('is looked up here where the answer is late', async () => {
    server(late)
    expect(await find(['kept here'])).toMatchObject({ cylinders: ['kept here'], at: PACKED_AT })
  })
  it('and is not said to be nowhere by a device that only knows less: the server says that', async () => {
    server(late)
    expect(await find([])).toEqual({ cylinders: ['made just now'] })
    vi.stubGlobal('fetch', () => Promise.reject(none))
    expect(await find([])).toMatchObject({ cylinders: [], at: PACKED_AT })
  })
})

describe('a page', () => {
  it('is the server’s where it answers in time', async () => {
    expect(await opens(rackPage(), at.answered)).toBe('of the server')
    expect(looked).not.toHaveBeenCalled()
    expect(whatStands()).toBeUndefined()
  })
  it('is the device’s without signal, and says of when', async () => {
    expect(await opens(rackPage(), at.lost)).toBe('of the device')
    expect(whatStands()).toEqual({ address: '/rack', since: PACKED_AT })
  })
  it('is the device’s first on a slow line; the answer is told of when it comes, and is there for the next load', async () => {
    const rack = rackPage()
    const told = vi.fn()
    const stop = onLateAnswer(told)
    const asked = inMs(SLOW_MS + 200, () => 'of the server')
    expect(await opens(rack, () => asked)).toBe('of the device')
    expect(told).not.toHaveBeenCalled()
    await asked
    await vi.waitFor(() => expect(told).toHaveBeenCalledOnce())
    stop()
    const again = vi.fn(at.lost)
    expect(await opens(rack, again)).toBe('of the server')
    expect(again).not.toHaveBeenCalled()
    expect(whatStands()).toBeUndefined()
  })
  it('has its own late answer, and not that of what stands around it', async () => {
    const [rack, frame] = [
      rackPage(),
      openPage<string>(async () => () => 'frame of the device', { around: true }),
    ]
    const asked = {
      rack: inMs(SLOW_MS + 100, () => 'the rack'),
      frame: new Promise<string>(() => {}),
    }
    const [shown, around] = await Promise.all([asks(rack, () => asked.rack), asks(frame, () => asked.frame)])
    expect([shown, around]).toEqual(['of the device', 'frame of the device'])
    await asked.rack
    await inMs(20, () => undefined)
    // The router asks both again, the frame first.
    const again = [await asks(frame, async () => 'the frame'), await asks(rack, at.lost)]
    expect(again).toEqual(['the frame', 'the rack'])
  })
  it('takes an answer with nothing in it for none', async () => {
    expect(await opens(rackPage(), async () => undefined as never)).toBe('of the device')
    await expect(
      opens(
        rackPage(() => undefined),
        async () => undefined as never,
      ),
    ).rejects.toThrow(NotKept)
  })
  it('that somebody has left meanwhile is told nothing', async () => {
    const told = vi.fn()
    const stop = onLateAnswer(told)
    const asked = inMs(SLOW_MS + 100, () => 'of the server')
    await opens(rackPage(), () => asked)
    location.pathname = '/elsewhere'
    await asked
    await inMs(20, () => undefined)
    stop()
    expect(told).not.toHaveBeenCalled()
  })
  it('that stands there from the server waits for a slow answer rather than go back to an older state', async () => {
    const rack = rackPage(() => undefined)
    await opens(rack, at.answered)
    expect(await opens(rack, () => inMs(SLOW_MS + 100, () => 'newer'))).toBe('newer')
  })
  it('that somebody went elsewhere from says nothing of the page that stands there then', async () => {
    const gone = new AbortController()
    const request = new Request('http://keg.test/rack', { signal: gone.signal })
    const serverLoader = () => inMs(100, () => 'of the server')
    const left = rackPage()({ request, params: {}, serverLoader })
    gone.abort()
    await opens(rackPage(), at.lost, '/systems')
    await left
    expect(whatStands()).toMatchObject({ address: '/systems' })
  })
  it('that was asked for, and never came on the screen, is opened from the device when it is asked for again', async () => {
    const rack = rackPage()
    const never = new Promise<string>(() => {})
    arrivedAt('/')
    // Going back moves the address first; a change that is told just then asks anew.
    expect(await asks(rack, () => never)).toBe('of the device')
    expect(await asks(rack, () => never)).toBe('of the device')
  })
  it('that the device knows nothing of stays as it stands, and is nowhere where none stands', async () => {
    const rack = rackPage(() => undefined)
    await expect(opens(rack, at.lost)).rejects.toThrow(NotKept)
    await opens(rack, at.answered)
    expect(await opens(rack, at.lost)).toBe('of the server')
    expect(whatStands()).toMatchObject({ address: '/rack' })
  })
  it('of another address is not what stands', async () => {
    const rack = rackPage(() => undefined)
    await opens(rack, at.answered)
    await expect(opens(rack, at.lost, '/rack-of-teo')).rejects.toThrow(NotKept)
  })
  it.each([
    ['is just starting', said(503)],
    ['has a fault', said(500)],
    ['is another network’s', new SyntaxError('not what was asked for')],
  ])('is the device’s where the server %s', async (_what, error) => {
    expect(await opens(rackPage(), () => Promise.reject(error as Error))).toBe('of the device')
  })
  it.each([
    ['a way to the door', new Response(null, { status: 302, headers: { location: '/sign-in' } })],
    ['a refusal', said(403)],
  ])('is not the device’s where the answer is %s', async (_what, answer) => {
    const error: unknown = answer
    await expect(opens(rackPage(), () => Promise.reject(error as Error))).rejects.toBe(answer)
    expect(looked).not.toHaveBeenCalled()
  })
  it('that the server does not know is the device’s where it was made there, and a 404 where not', async () => {
    const made: FromDevice<string> = (_, { unknownThere }) => (unknownThere ? 'made here' : undefined)
    expect(await opens(rackPage(made), () => Promise.reject(said(404) as never))).toBe('made here')
    const error: unknown = said(404)
    await expect(
      opens(
        rackPage(() => undefined),
        () => Promise.reject(error as Error),
      ),
    ).rejects.toBe(error)
  })
  it('without signal is nowhere where nothing is kept, where nobody is signed in, or where the program is not here', async () => {
    const notHere = openPage<string>(() => Promise.reject(new TypeError('not fetched')))
    await expect(opens(notHere, at.lost)).rejects.toThrow(NotKept)
    await expect(opens(openPage<string>(), at.lost)).rejects.toThrow(NotKept)
    localStorage.removeItem('keg-signed-in')
    await expect(opens(rackPage(), at.lost)).rejects.toThrow(NotKept)
  })
  it('does not move where it is the same as before', async () => {
    const list: FromDevice<{ cylinders: string[] }> = () => ({ cylinders: ['Gull'] })
    const rack = openPage<{ cylinders: string[] }>(async () => list)
    const load = () =>
      rack({
        request: new Request('http://keg.test/rack'),
        params: {},
        serverLoader: () => Promise.reject(none),
      })
    const first = await load()
    expect(await load()).toBe(first)
  })
})
