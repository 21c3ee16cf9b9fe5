// Who is on a device that is shared: what goes with somebody who leaves, and what stays of whoever comes.
import 'fake-indexeddb/auto'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { allKept, putWaiting } from '../room/waiting-room'
import { aBrowser } from '../../../testing/a-browser'
import { anEntry } from '../../../testing/an-entry'
import { PACK_FORMAT } from '../pack/pack'
import { keepFor, keptFor } from '../pack/store'
import { isHere, onSomebodyElse, signOut, signOutOwed, whoIsHere } from './who'

let count = 0
let [ines, teo] = ['', '']
let signal: boolean
let toldServer: number
const assign = vi.fn()

async function packFor(userId: string) {
  const person = { userId, deviceKey: 'ab'.repeat(32) }
  const pack = { format: PACK_FORMAT, at: 0, person, jobs: [] }
  await keepFor(userId, { pack: pack as never, mark: '', heardAt: Date.now(), learned: {} })
}
async function aNoteOf(userId: string) {
  const entry = anEntry('note', { text: 'oil is black' })
  await putWaiting([{ entryId: entry.entryId, jobId: 'job', userId, userName: 'Ines', entry }])
  return entry.entryId
}
const lockedOf = async (userId: string) =>
  (await allKept()).locked.filter((each) => each.userId === userId).map(({ id }) => id)

beforeEach(() => {
  aBrowser(async () => {
    if (!signal) throw new TypeError('no way to the server')
    toldServer++
    return { ok: false, status: 0, type: 'opaqueredirect' as const }
  })
  vi.stubGlobal('location', { assign })
  ;[ines, teo] = [`ines-${++count}`, `teo-${count}`]
  signal = true
  toldServer = 0
  assign.mockClear()
})
afterEach(() => vi.unstubAllGlobals())

it('whoever comes without a sign-out before finds nothing of the one before, who loses nothing', async () => {
  isHere(ines, 'dark')
  localStorage.setItem('keg-last-scale', 'Scale 2')
  localStorage.setItem('keg-device-id', 'phone')
  await packFor(ines)
  const note = await aNoteOf(ines)
  isHere(teo, 'light')
  await vi.waitFor(async () => expect(await keptFor(ines)).toBeUndefined())
  expect(await lockedOf(ines)).toEqual([note])
  // Nothing of whoever came went with it.
  expect(whoIsHere()).toBe(teo)
  expect(localStorage.getItem('keg-theme')).toBe('light')
  expect(localStorage.getItem('keg-last-scale')).toBeNull()
  expect(localStorage.getItem('keg-device-id')).toBe('phone')
})

it('a pack of whoever came stays, however late the one before is forgotten', async () => {
  isHere(ines, 'dark')
  await packFor(ines)
  isHere(teo, 'light')
  await packFor(teo)
  await vi.waitFor(async () => expect(await keptFor(ines)).toBeUndefined())
  await aNoteOf(teo)
  expect(await keptFor(teo)).toBeDefined()
  expect(await lockedOf(teo)).toEqual([])
})

it('a sign-out with signal tells the server, empties the device and owes nothing', async () => {
  isHere(ines, 'dark')
  await packFor(ines)
  const note = await aNoteOf(ines)
  await signOut()
  expect(toldServer).toBe(1)
  expect(await keptFor(ines)).toBeUndefined()
  expect(await lockedOf(ines)).toEqual([note])
  expect(whoIsHere()).toBeUndefined()
  expect(assign).toHaveBeenCalledWith('/sign-in')
  expect(await signOutOwed()).toBe('nothing')
})

it('a sign-out without signal is owed to the server until it has heard it', async () => {
  isHere(ines, 'dark')
  await packFor(ines)
  signal = false
  await signOut()
  expect(await keptFor(ines)).toBeUndefined()
  expect(await signOutOwed()).toBe('owed')
  signal = true
  expect(await signOutOwed()).toBe('told')
  expect(await signOutOwed()).toBe('nothing')
  expect(toldServer).toBe(1)
})

it('what answers in between is not Keg: a sign-out is still owed', async () => {
  isHere(ines, 'dark')
  vi.stubGlobal('fetch', async () => ({ ok: true, status: 200, type: 'basic' }))
  await signOut()
  expect(await signOutOwed()).toBe('owed')
})

it('what the worker has told the server meanwhile is not told again', async () => {
  isHere(ines, 'dark')
  signal = false
  await signOut()
  vi.stubGlobal('caches', { match: async (path: string) => (path === '/heard' ? {} : undefined) })
  expect(await signOutOwed()).toBe('told')
  expect(toldServer).toBe(0)
})

it('a sign-out that is cut off before the server has answered is one all the same', async () => {
  isHere(ines, 'dark')
  await packFor(ines)
  vi.stubGlobal('fetch', () => new Promise(() => {}))
  void signOut()
  // The phone is put away here: its next page opens nothing of theirs, and tells the server first.
  expect(whoIsHere()).toBeUndefined()
  vi.stubGlobal('fetch', async () => ({ ok: false, type: 'opaqueredirect' }))
  expect(await signOutOwed()).toBe('told')
  expect(whoIsHere()).toBeUndefined()
  expect(await keptFor(ines)).toBeUndefined()
  isHere(teo, 'light')
  expect(whoIsHere()).toBe(teo)
})

it('a page hears that somebody else is here: from another tab, and when the browser brings it back', () => {
  const page = new EventTarget()
  vi.stubGlobal('window', page)
  const leave = vi.fn()
  isHere(ines, 'dark')
  const stop = onSomebodyElse(ines, leave)
  const stored = (key: string, newValue: string | null) =>
    page.dispatchEvent(Object.assign(new Event('storage'), { key, newValue }))
  const back = (persisted: boolean) => page.dispatchEvent(Object.assign(new Event('pageshow'), { persisted }))
  stored('keg-signed-in', ines)
  stored('keg-theme', null)
  back(true)
  expect(leave).not.toHaveBeenCalled()
  stored('keg-signed-in', null)
  expect(leave).toHaveBeenCalledTimes(1)
  localStorage.removeItem('keg-signed-in')
  back(false)
  expect(leave).toHaveBeenCalledTimes(1)
  back(true)
  expect(leave).toHaveBeenCalledTimes(2)
  stop()
  back(true)
  expect(leave).toHaveBeenCalledTimes(2)
})
