// Photos that were taken without signal: after their job, before their note, once each, and none lost.
import 'fake-indexeddb/auto'
import { deleteDB, openDB } from 'idb'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { aBrowser } from '../../../testing/a-browser'
import { makeEntry } from '~/tape/device'
import { Outbox } from './outbox'
import { allKept, onRoomEmptied, room } from '../room/waiting-room'

type Answer = 'fine' | 'down' | 'cut' | 'stranger' | 'signed-out' | { status: number; says: string }
let count = 0
let userId: string
let outbox: Outbox
let stop: () => void
let answer: Answer
/** Photos and notes as they came to the server. */
let came: string[]
/** One that the server falls over. */
let poison: string | undefined
/** The way of the notes is closed. */
let notesDown: boolean
/** Holds an answer back until it is let go. */
let gate: Promise<void> | undefined

async function server(path: string, init?: RequestInit): Promise<Partial<Response>> {
  const headers = new Headers()
  if (!path.endsWith('/photos')) {
    if (notesDown) throw new TypeError('no way to the server')
    const { entries } = JSON.parse(String(init?.body)) as { entries: { kind: string; entryId: string }[] }
    came.push(...entries.map(({ kind, entryId }) => `${kind} ${entryId}`))
    return { ok: true, status: 200, headers, json: async () => ({ entries, refused: [] }) }
  }
  if (answer === 'down') throw new TypeError('no way to the server')
  if (answer === 'signed-out') return { ok: true, status: 200, redirected: true }
  const form = init?.body as FormData
  const photoId = form.get('photoId') as string
  expect(form.get('userId')).toBe(userId)
  const bytes = await (form.get('photo') as File).text()
  came.push(`photo ${photoId} ${bytes}`)
  await gate
  if (photoId === poison) return { ok: false, status: 500 }
  if (typeof answer === 'object')
    return { ok: false, status: answer.status, headers, text: async () => (answer as { says: string }).says }
  if (answer === 'cut') return { ok: true, status: 200, json: async () => JSON.parse('{"pho') as never }
  return { ok: true, status: 200, json: async () => ({ photoId: answer === 'stranger' ? '' : photoId }) }
}

function open() {
  outbox = new Outbox(userId)
  stop = outbox.start()
}
async function reload() {
  stop()
  await allKept()
  open()
  await outbox.flush()
}
const noted = () => {
  const entry = makeEntry('photo-noted', { photoId: `photo-${++count}`, of: 'before', text: '' })
  const { photoId } = entry.body
  return { entry, photoId, here: `photo ${photoId} pixels`, there: `photo-noted ${entry.entryId}` }
}
const pixels = btoa('pixels')
const waiting = () => outbox.snapshot().photos.map(({ photoId }) => photoId)
const aside = () => outbox.snapshot().photosAside.map(({ photoId, sentence }) => [photoId, sentence])

beforeEach(async () => {
  aBrowser(server)
  userId = `user-${++count}`
  answer = 'fine'
  came = []
  poison = undefined
  notesDown = false
  gate = undefined
  open()
  await allKept()
})
afterEach(() => {
  stop()
  vi.unstubAllGlobals()
})

it('is sent, and only then noted', async () => {
  const { entry, here, there } = noted()
  await outbox.photo('job', entry, pixels)
  await outbox.flush()
  expect(came).toEqual([here, there])
  expect(outbox.snapshot()).toMatchObject({ photos: [], waiting: [], unsent: 0, kept: true })
  expect((await allKept()).photos.filter((each) => each.userId === userId)).toEqual([])
})

it('waits until its job is there: a job that was begun here goes first', async () => {
  notesDown = true
  await outbox.put('job', [makeEntry('job-described', { jobNumber: '' } as never)])
  const { entry, photoId, here, there } = noted()
  await outbox.photo('job', entry, pixels)
  expect(came).toEqual([])
  expect(waiting()).toEqual([photoId])
  expect(outbox.snapshot()).toMatchObject({ signal: 'lost', unsent: 2 })
  notesDown = false
  await outbox.flush()
  await vi.waitFor(() => expect(came.slice(1)).toEqual([here, there]))
  expect(came[0]).toMatch(/^job-described/)
})

it('survives a reload, and is there once', async () => {
  answer = 'down'
  const { entry, photoId, here, there } = noted()
  await outbox.photo('job', entry, pixels)
  expect(outbox.snapshot()).toMatchObject({ signal: 'lost', unsent: 1 })
  await reload()
  await vi.waitFor(() => expect(waiting()).toEqual([photoId]))
  answer = 'fine'
  await outbox.flush()
  await outbox.flush()
  expect(came).toEqual([here, there])
})

it.each<Answer>(['cut', 'stranger', 'signed-out', { status: 429, says: '' }, { status: 503, says: '' }])(
  'stays where the answer is %o, and is sent again',
  async (said) => {
    answer = said
    const { entry, photoId, there } = noted()
    await outbox.photo('job', entry, pixels)
    expect(waiting()).toEqual([photoId])
    expect(outbox.snapshot().signal).not.toBe('here')
    answer = 'fine'
    await outbox.flush()
    expect(waiting()).toEqual([])
    await vi.waitFor(() => expect(came.filter((each) => each === there)).toHaveLength(1))
  },
)

it('goes no further where somebody else has signed in', async () => {
  answer = { status: 409, says: '' }
  const { entry, photoId } = noted()
  await outbox.photo('job', entry, pixels)
  expect(outbox.snapshot().signal).toBe('another-person')
  answer = 'fine'
  await outbox.flush()
  expect(waiting()).toEqual([photoId])
})

it('that the server never takes is set aside with its sentence, sent again or thrown away', async () => {
  answer = { status: 422, says: '"This file is no picture."' }
  const [first, second] = [noted(), noted()]
  await outbox.photo('job', first.entry, pixels)
  await outbox.photo('job', second.entry, pixels)
  expect(aside()).toEqual([
    [first.photoId, 'This file is no picture.'],
    [second.photoId, 'This file is no picture.'],
  ])
  expect(outbox.snapshot().unsent).toBe(0)
  await reload()
  await vi.waitFor(() => expect(aside()).toHaveLength(2))
  answer = 'fine'
  came = []
  await outbox.throwPhotoAway(first.photoId)
  await outbox.photoAgain(second.photoId)
  await outbox.flush()
  expect(came).toEqual([second.here, second.there])
  expect((await allKept()).photos.filter((each) => each.userId === userId)).toEqual([])
})

it('that the server falls over holds up no other', async () => {
  const [bad, good] = [noted(), noted()]
  poison = bad.photoId
  answer = 'down'
  await outbox.photo('job', bad.entry, pixels)
  await outbox.photo('job', good.entry, pixels)
  answer = 'fine'
  await outbox.flush()
  await vi.waitFor(() => expect(came).toContain(good.there))
  expect(waiting()).toEqual([bad.photoId])
})

it('that is thrown away on its way is not noted', async () => {
  let letGo = () => {}
  gate = new Promise((resolve) => (letGo = resolve))
  const { entry, photoId, here } = noted()
  const sending = outbox.photo('job', entry, pixels)
  await vi.waitFor(() => expect(came).toEqual([here]))
  await outbox.throwPhotoAway(photoId)
  letGo()
  await sending
  await outbox.flush()
  expect(came).toEqual([here])
})

it('is on its way beside the notes of its job, and holds up none', async () => {
  let letGo = () => {}
  gate = new Promise((resolve) => (letGo = resolve))
  const { entry, here } = noted()
  const sending = outbox.photo('job', entry, pixels)
  await vi.waitFor(() => expect(came).toEqual([here]))
  await outbox.put('job', [makeEntry('note', { text: 'oil is black' })])
  expect(came[1]).toMatch(/^note /)
  letGo()
  await sending
})

it('stays where the page ends between its coming and its note', async () => {
  const { entry, photoId, there } = noted()
  notesDown = true
  await outbox.photo('job', entry, pixels)
  await vi.waitFor(() => expect(outbox.snapshot().waiting).toHaveLength(1))
  expect(waiting()).not.toContain(photoId)
  notesDown = false
  await reload()
  await vi.waitFor(() => expect(came.filter((each) => each === there)).toHaveLength(1))
})

it('that finds no room says so as long as it waits, though smaller things find some', async () => {
  answer = 'down'
  notesDown = true
  const full = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw new DOMException('full', 'QuotaExceededError')
  })
  const { entry, photoId } = noted()
  await outbox.photo('job', entry, pixels)
  full.mockRestore()
  await outbox.put('other-job', [makeEntry('note', { text: 'oil is black' })])
  expect(waiting()).toEqual([photoId])
  expect(outbox.snapshot().kept).toBe(false)
  answer = 'fine'
  await outbox.flush()
  expect(waiting()).toEqual([])
  expect(outbox.snapshot().kept).toBe(true)
})

it('is kept anew where the browser has thrown its store away', async () => {
  answer = 'down'
  const { entry, photoId } = noted()
  await outbox.photo('job', entry, pixels)
  const emptied = new Promise<void>((resolve) => onRoomEmptied(resolve))
  await deleteDB('keg')
  await emptied
  await vi.waitFor(async () =>
    expect((await allKept()).photos.map((each) => each.photoId)).toContain(photoId),
  )
})

it('finds room on a device that an older Keg was on, and what waits there is still there', async () => {
  ;(await room()).close()
  await deleteDB('keg')
  const older = await openDB('keg', 4, {
    upgrade(db) {
      db.createObjectStore('waiting', { keyPath: 'entryId' })
      db.createObjectStore('aside', { keyPath: 'entryId' })
      db.createObjectStore('makings', { keyPath: 'id' })
      db.createObjectStore('locked', { keyPath: 'id' })
    },
  })
  const entry = makeEntry('note', { text: 'of before' })
  await older.put('waiting', { entryId: entry.entryId, jobId: 'job', userId, userName: '', entry })
  older.close()
  vi.resetModules()
  const fresh = await import('../room/waiting-room')
  const kept = await fresh.allKept()
  expect(kept.waiting.map(({ entryId }) => entryId)).toEqual([entry.entryId])
  expect(kept.photos).toEqual([])
  ;(await fresh.room()).close()
})
