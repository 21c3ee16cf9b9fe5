import type { DBSchema, IDBPDatabase } from 'idb'
import type { Entry } from '#core/tape'
import type { Reason } from '#core/verdict'
import { database } from './database'
import type { MakingKept } from './making'
import type { Sealed } from './seal'

/** An entry that the server has not confirmed yet. */
export interface WaitingEntry {
  entryId: string
  jobId: string
  /** Whose it is: nobody else's session sends it. */
  userId: string
  /** As others on this device see it. */
  userName?: string
  entry: Entry
}

/** An entry that the server did not take, with the reason. It stays until its writer sends it again or throws it away. */
export interface EntryAside extends WaitingEntry {
  reasons: Reason[]
}

/** A photo that is not on the server yet; what it is a photo of is noted once it is. */
export interface PhotoWaiting {
  photoId: string
  jobId: string
  userId: string
  userName: string
  /** The note of it. */
  entry: Extract<Entry, { kind: 'photo-noted' }>
  /** The picture, in base 64. */
  jpeg: string
}

/** One that the server did not take, with its sentence. */
export type PhotoAside = PhotoWaiting & { sentence: string }

export interface Kept {
  /** In the order in which they were made. */
  waiting: WaitingEntry[]
  aside: EntryAside[]
  makings: MakingKept[]
  photos: (PhotoWaiting | PhotoAside)[]
  locked: Locked[]
}

export const STORES = ['waiting', 'aside', 'makings', 'photos'] as const
export type Store = (typeof STORES)[number]

/** Something of somebody who has left: it can be read again once they are back. */
export interface Locked {
  id: string
  /** Where it belongs. */
  store: Store
  userId: string
  userName: string
  /** It waits to be sent, and is not only kept to be read. */
  unsent: boolean
  sealed: Sealed
}

interface Schema extends DBSchema {
  waiting: { key: string; value: WaitingEntry }
  aside: { key: string; value: EntryAside }
  makings: { key: string; value: MakingKept }
  photos: { key: string; value: PhotoWaiting | PhotoAside }
  locked: { key: string; value: Locked }
}

const kept = database<Schema>('keg', 5, (db, oldVersion) => {
  if (oldVersion < 1) db.createObjectStore('waiting', { keyPath: 'entryId' })
  if (oldVersion < 2) db.createObjectStore('aside', { keyPath: 'entryId' })
  if (oldVersion < 3) db.createObjectStore('makings', { keyPath: 'id' })
  if (oldVersion < 4) db.createObjectStore('locked', { keyPath: 'id' })
  db.createObjectStore('photos', { keyPath: 'photoId' })
})

/** The browser has thrown away what was kept. */
export const onRoomEmptied = kept.onEmptied

const OPEN_MS = 3_000

/**
 * Kept on the device: leaving the page or reloading it loses nothing.
 * @throws Error while it cannot be opened: an older page in another tab may hold it
 */
export function room(): Promise<IDBPDatabase<Schema>> {
  let timer: ReturnType<typeof setTimeout> | undefined
  const late = new Promise<never>((_, reject) => {
    // Whoever has waited in vain once does not wait again at every note.
    timer = setTimeout(
      () => {
        heldUp = true
        reject(new Error('The store of this device does not open.'))
      },
      heldUp ? 0 : OPEN_MS,
    )
  })
  // A browser without any store throws at once.
  const opening = Promise.resolve().then(openRoom)
  return Promise.race([opening, late]).finally(() => clearTimeout(timer))
}

let heldUp = false

function openRoom(): Promise<IDBPDatabase<Schema>> {
  const opening = kept.open()
  opening.then(
    () => (heldUp = false),
    () => undefined,
  )
  return opening
}

/** Begun at once, in the same press: a reload a moment later finds it, even while the room is still being opened. */
export async function putWaiting(entries: WaitingEntry[]): Promise<void> {
  try {
    for (const each of entries) localStorage.setItem(THRESHOLD + each.entryId, JSON.stringify(each))
  } catch {
    // No byte more on the threshold: the room is another store, and may have some left.
  }
  const tx = (await room()).transaction('waiting', 'readwrite')
  await Promise.all([...entries.map((entry) => tx.store.put(entry)), tx.done])
  stepOver(entries.map(({ entryId }) => entryId))
}

/** They are in the room now, or gone. */
export function stepOver(entryIds: readonly string[]) {
  for (const id of entryIds) localStorage.removeItem(THRESHOLD + id)
}

export async function dropWaiting(entryIds: string[]): Promise<void> {
  stepOver(entryIds)
  const tx = (await room()).transaction('waiting', 'readwrite')
  await Promise.all([...entryIds.map((id) => tx.store.delete(id)), tx.done])
}

/** Out of the queue, and kept beside it. */
export async function putAside(entries: EntryAside[]): Promise<void> {
  const tx = (await room()).transaction(['waiting', 'aside'], 'readwrite')
  await Promise.all([
    ...entries.map((entry) => tx.objectStore('aside').put(entry)),
    ...entries.map(({ entryId }) => tx.objectStore('waiting').delete(entryId)),
    tx.done,
  ])
  stepOver(entries.map(({ entryId }) => entryId))
}

export async function dropAside(entryId: string): Promise<void> {
  stepOver([entryId])
  await (await room()).delete('aside', entryId)
}

/** A cylinder or a system that was made here; or what became of it, in its place. */
export async function putMaking(making: MakingKept): Promise<void> {
  await (await room()).put('makings', making)
}

export async function dropMaking(id: string): Promise<void> {
  await (await room()).delete('makings', id)
}

/** A photo that was taken here; or why it was not taken there, in its place. */
export async function putPhoto(photo: PhotoWaiting | PhotoAside): Promise<void> {
  await (await room()).put('photos', photo)
}

export async function dropPhoto(photoId: string): Promise<void> {
  await (await room()).delete('photos', photoId)
}

/** All but the photos: they are large, and no page is made of them. */
type KeptWords = Omit<Kept, 'photos'>

let lastRead: KeptWords | undefined

/** What was read last: a page that opens from the device has it before anything is shown. */
export const lastKept = () => lastRead

/** Everybody's. */
export async function allKept(): Promise<Kept> {
  const [words, photos] = await Promise.all([wordsKept(), room().then((db) => db.getAll('photos'))])
  return { ...words, photos }
}

/** Everybody's, without the photos: what cannot be read any more is set aside as it is, and holds up nothing. */
export async function wordsKept(): Promise<KeptWords> {
  const db = await room()
  const [stored, aside, makings, locked] = await Promise.all([
    db.getAll('waiting'),
    db.getAll('aside'),
    db.getAll('makings'),
    db.getAll('locked'),
  ])
  const found = new Map<string, unknown>([
    ...onThreshold(),
    ...stored.map((each) => [each.entryId, each] as const),
  ])
  const waiting: WaitingEntry[] = []
  for (const [key, each] of found)
    if (isWaiting(each)) waiting.push(each)
    else if (!aside.some(({ entryId }) => entryId === key)) aside.push(unreadable(key, each))
  return (lastRead = {
    waiting: waiting.sort((a, b) => a.entry.deviceSeq - b.entry.deviceSeq || a.entry.at - b.entry.at),
    aside: aside.filter(isWaiting),
    makings,
    locked,
  })
}

/** Where entries stand that are not in the room yet: this store writes without waiting, but has little space. */
const THRESHOLD = 'keg-waiting '

/** Whether a name in the other store is one of an entry that waits. */
export const isOnThreshold = (key: string) => key.startsWith(THRESHOLD)

function onThreshold(): [key: string, value: unknown][] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(THRESHOLD))
    .map((key) => [key.slice(THRESHOLD.length), parsed(localStorage.getItem(key) ?? '')])
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    // Cut off when the device was full or went dark: shown as it is.
    return text
  }
}

function isWaiting(value: unknown): value is WaitingEntry {
  const each = value as Partial<WaitingEntry> | null
  const entry = each?.entry as Partial<Entry> | null | undefined
  return (
    [each?.entryId, each?.jobId, each?.userId, entry?.entryId, entry?.kind].every(
      (id) => typeof id === 'string',
    ) &&
    [entry?.at, entry?.deviceSeq].every(Number.isFinite) &&
    typeof entry?.body === 'object' &&
    entry.body !== null
  )
}

/** Whose it was cannot be known: it belongs to whoever looks. */
function unreadable(key: string, value: unknown): EntryAside {
  const text = (typeof value === 'string' ? value : JSON.stringify(value)).slice(0, 4_000)
  const entry = { entryId: key, kind: 'note', version: 1, at: 0, deviceId: '', deviceSeq: 0, body: { text } }
  return { entryId: key, jobId: '', userId: '', entry: entry as Entry, reasons: [{ code: 'unreadable' }] }
}
