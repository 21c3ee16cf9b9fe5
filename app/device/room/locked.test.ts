// What waits on a device that is shared: whoever comes next reads none of it, and whoever wrote it loses none.
import 'fake-indexeddb/auto'
import { openDB } from 'idb'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { PACK_FORMAT } from '../pack/pack'
import type { Making } from './making'
import { aBrowser } from '../../../testing/a-browser'
import { anEntry } from '../../../testing/an-entry'
import { makeEntry } from '~/tape/device'
import { lockFor, unlockFor } from './locked'
import { Outbox } from '../outbox/outbox'
import { allKept, putAside, putMaking, putPhoto, putWaiting, type WaitingEntry } from './waiting-room'

const KEY = 'ab'.repeat(32)
let count = 0
let [ines, teo] = ['', '']
const written = (userId: string, text: string): WaitingEntry => {
  const entry = anEntry('note', { text })
  return { entryId: entry.entryId, jobId: 'job-of-the-roof', userId, userName: 'Ines', entry }
}
const cylinder = (userId: string) =>
  ({
    id: `Gull-${userId}`,
    userId,
    kind: 'cylinder',
    typed: {},
    units: {},
    at: 1,
    row: { label: 'Gull 9' },
  }) as unknown as Making
const photo = (userId: string) => {
  const entry = makeEntry('photo-noted', { photoId: `photo-of-${userId}`, of: 'before', text: '' })
  return {
    photoId: entry.body.photoId,
    jobId: 'job',
    userId,
    userName: 'Ines',
    entry,
    jpeg: 'pixels of the door',
  }
}
/** Everything that developer tools would show, but for names and ids of whose it is. */
async function rawly(): Promise<string> {
  const db = await openDB('keg')
  const stores = await Promise.all([...db.objectStoreNames].map((store) => db.getAll(store)))
  db.close()
  const all = [...stores.flat(), ...Object.entries(localStorage)] as unknown[]
  return JSON.stringify(all, (_, value: unknown) =>
    value instanceof ArrayBuffer ? Buffer.from(value).toString('latin1') : value,
  )
}
const ownOf = async (userId: string) => {
  const kept = await allKept()
  return [kept.waiting, kept.aside, kept.makings, kept.photos].flat().filter((each) => each.userId === userId)
}

/** Who is signed in, as the server has it; what it was sent. */
let signedIn: string | undefined
let sent: string[] = []
async function server(path: string, init?: RequestInit): Promise<Partial<Response>> {
  if (path === '/pack') {
    const person = { userId: signedIn, deviceKey: KEY }
    const text = async () => JSON.stringify({ format: PACK_FORMAT, person, jobs: [] })
    if (!signedIn) throw new TypeError('no way to the server')
    return { ok: true, status: 200, headers: new Headers(), text }
  }
  const { entries } = JSON.parse(String(init?.body)) as { entries: { entryId: string }[] }
  sent.push(...entries.map(({ entryId }) => entryId))
  const headers = new Headers({ 'content-type': 'application/json' })
  return { ok: true, status: 200, headers, json: async () => ({ entries, refused: [] }) }
}

beforeEach(() => {
  aBrowser(server)
  ;[ines, teo] = [`ines-${++count}`, `teo-${count}`]
  signedIn = undefined
  sent = []
})
afterEach(() => vi.unstubAllGlobals())

it('is unreadable in every store as long as it is locked, and comes back as it was', async () => {
  const [first, second] = [written(ines, 'oil is black'), written(ines, 'acid in it')]
  localStorage.setItem(`keg-waiting ${first.entryId}`, JSON.stringify(first))
  await putAside([{ ...second, reasons: [{ code: 'full' }] }])
  await putMaking(cylinder(ines))
  await putPhoto(photo(ines))
  const before = await ownOf(ines)
  expect(before).toHaveLength(4)
  expect(await rawly()).toMatch(/oil is black/)
  await lockFor(ines, KEY)
  expect(await ownOf(ines)).toEqual([])
  for (const word of [/oil is black/, /acid in it/, /Gull 9/, /job-of-the-roof/, /pixels of the door/])
    expect(await rawly()).not.toMatch(word)
  await unlockFor(ines, KEY)
  expect(await ownOf(ines)).toEqual(before)
  expect((await allKept()).locked.filter(({ userId }) => userId === ines)).toEqual([])
})

it('opens with no other key, for nobody else, and loses nothing by the attempt', async () => {
  const note = written(ines, 'oil is black')
  await putWaiting([note])
  await lockFor(ines, KEY)
  await unlockFor(ines, 'cd'.repeat(32))
  await unlockFor(teo, KEY)
  expect(await ownOf(ines)).toEqual([])
  expect(await ownOf(teo)).toEqual([])
  await unlockFor(ines, KEY)
  expect(await ownOf(ines)).toEqual([note])
})

it('leaves what others wrote as it is', async () => {
  const [own, others] = [written(ines, 'mine'), written(teo, 'his')]
  await putWaiting([own, others])
  await lockFor(ines, KEY)
  expect(await ownOf(teo)).toEqual([others])
})

it('tells whoever comes next that something waits, and sends nothing of it', async () => {
  await putWaiting([written(ines, 'oil is black')])
  await putMaking(cylinder(ines))
  await putPhoto(photo(ines))
  // What only waits to be read is no unsent note.
  await putAside([{ ...written(ines, 'acid in it'), reasons: [{ code: 'full' }] }])
  await putPhoto({ ...photo(ines), photoId: `other-${ines}`, sentence: 'It is no picture.' })
  await putMaking({ ...cylinder(ines), id: `Auk-${ines}`, renamed: 'Auk 3 (2)' })
  await lockFor(ines, KEY)
  signedIn = teo
  const outbox = new Outbox(teo)
  const stop = outbox.start()
  await vi.waitFor(() => expect(outbox.snapshot().others).toContainEqual({ name: 'Ines', count: 3 }))
  await outbox.flush()
  stop()
  expect(outbox.snapshot()).toMatchObject({ waiting: [], makings: [], locked: 0 })
  expect(sent).toEqual([])
})

it('is sent once its writer is back and the server has given the key, not before', async () => {
  const note = written(ines, 'oil is black')
  await putWaiting([note])
  await lockFor(ines, KEY)
  // Back without signal: nobody can give the key.
  const outbox = new Outbox(ines)
  const stop = outbox.start()
  await vi.waitFor(() => expect(outbox.snapshot().locked).toBe(1))
  await outbox.flush()
  expect(sent).toEqual([])
  signedIn = ines
  await outbox.flush()
  stop()
  expect(sent).toEqual([note.entryId])
  expect(outbox.snapshot()).toMatchObject({ waiting: [], locked: 0, kept: true })
  expect(await rawly()).not.toMatch(new RegExp(note.entryId))
})

it('says so where the server has another key than it was locked with, and stays', async () => {
  await putWaiting([written(ines, 'oil is black')])
  await lockFor(ines, 'cd'.repeat(32))
  signedIn = ines
  const outbox = new Outbox(ines)
  const stop = outbox.start()
  await vi.waitFor(() => expect(outbox.snapshot()).toMatchObject({ locked: 1, shut: true }))
  stop()
  expect(sent).toEqual([])
  await unlockFor(ines, 'cd'.repeat(32))
  expect(await ownOf(ines)).toHaveLength(1)
})
