// Whoever signed out without signal is signed out: the server is told before it is asked for anything else.
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

let kept: Map<string, Map<string, Response>>
let answers: () => Promise<Partial<Response>>
let told: number

/** The worker, begun anew. */
async function aWorker() {
  vi.resetModules()
  return import('./owed')
}

beforeEach(() => {
  kept = new Map()
  told = 0
  const open = async (name: string) => {
    const own = kept.get(name) ?? new Map<string, Response>()
    kept.set(name, own)
    return {
      put: async (path: string, response: Response) => void own.set(path, response),
      delete: async (path: string) => own.delete(path),
    }
  }
  vi.stubGlobal('caches', {
    open,
    match: async (path: string, { cacheName }: { cacheName: string }) => kept.get(cacheName)?.get(path),
  })
  vi.stubGlobal('fetch', async () => {
    told++
    return answers()
  })
})
afterEach(() => vi.unstubAllGlobals())

const owe = async (name: string) => void (await (await caches.open(name)).put('/owed', new Response()))

it('nothing is asked where nothing is owed', async () => {
  const { stillOwed, nothingOwed } = await aWorker()
  expect(nothingOwed()).toBe(false)
  expect(await stillOwed(() => {})).toBe(false)
  expect(nothingOwed()).toBe(true)
  expect(told).toBe(0)
})

it('a worker that begins anew knows what is owed, tells it once, and says so', async () => {
  const { OWED, stillOwed, nothingOwed } = await aWorker()
  await owe(OWED)
  answers = async () => ({ type: 'opaqueredirect' })
  const heard = vi.fn()
  expect(await Promise.all([stillOwed(heard), stillOwed(heard)])).toEqual([false, false])
  expect(told).toBe(1)
  expect(nothingOwed()).toBe(true)
  expect(kept.get(OWED)!.has('/heard')).toBe(true)
  const again = await aWorker()
  expect(await again.stillOwed(heard)).toBe(false)
  expect(told).toBe(1)
})

it.each<[string, () => Promise<Partial<Response>>]>([
  ['no signal', () => Promise.reject(new TypeError('none'))],
  ['a page of something in between', async () => ({ type: 'basic', ok: true })],
  ['a fault', async () => ({ type: 'basic', ok: false, status: 500 })],
])('%s: it is still owed, and asked again', async (_, answer) => {
  const { OWED, stillOwed, nothingOwed, pageSaid } = await aWorker()
  await owe(OWED)
  answers = answer
  expect(await stillOwed(() => {})).toBe(true)
  expect(nothingOwed()).toBe(false)
  answers = async () => ({ type: 'opaqueredirect' })
  expect(await stillOwed(() => {})).toBe(false)
  pageSaid(true)
  expect(nothingOwed()).toBe(false)
})
