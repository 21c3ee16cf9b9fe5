import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import type { Entry } from '#core/tape'

/** An entry that the server has not confirmed yet. */
export interface WaitingEntry {
  entryId: string
  jobId: string
  /** Whose it is: nobody else's session sends it. */
  userId: string
  entry: Entry
}

interface Schema extends DBSchema {
  waiting: { key: string; value: WaitingEntry }
}

let opened: Promise<IDBPDatabase<Schema>> | undefined

/** Kept on the device: leaving the page or reloading it loses nothing. */
function room(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('keg', 1, {
    upgrade: (db) => void db.createObjectStore('waiting', { keyPath: 'entryId' }),
  })
  return opened
}

/** Begun at once, in the same press: a reload a moment later finds it, even while the room is still being opened. */
export async function putWaiting(entries: WaitingEntry[]): Promise<void> {
  for (const each of entries) localStorage.setItem(THRESHOLD + each.entryId, JSON.stringify(each))
  const tx = (await room()).transaction('waiting', 'readwrite')
  await Promise.all([...entries.map((entry) => tx.store.put(entry)), tx.done])
  for (const { entryId } of entries) localStorage.removeItem(THRESHOLD + entryId)
}

export async function dropWaiting(entryIds: string[]): Promise<void> {
  for (const id of entryIds) localStorage.removeItem(THRESHOLD + id)
  const tx = (await room()).transaction('waiting', 'readwrite')
  await Promise.all([...entryIds.map((id) => tx.store.delete(id)), tx.done])
}

/** This person's waiting entries in the order in which they were made. */
export async function allWaiting(userId: string): Promise<WaitingEntry[]> {
  const all = new Map(
    [...onThreshold(), ...(await (await room()).getAll('waiting'))].map((each) => [each.entryId, each]),
  )
  return [...all.values()]
    .filter((each) => each.userId === userId)
    .sort((a, b) => a.entry.deviceSeq - b.entry.deviceSeq || a.entry.at - b.entry.at)
}

/** Where entries stand that are not in the room yet: this store writes without waiting, but has little space. */
const THRESHOLD = 'keg-waiting '

function onThreshold(): WaitingEntry[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(THRESHOLD))
    .map((key) => JSON.parse(localStorage.getItem(key)!) as WaitingEntry)
}
