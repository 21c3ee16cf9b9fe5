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

export async function putWaiting(entries: WaitingEntry[]): Promise<void> {
  const tx = (await room()).transaction('waiting', 'readwrite')
  await Promise.all([...entries.map((entry) => tx.store.put(entry)), tx.done])
}

export async function dropWaiting(entryIds: string[]): Promise<void> {
  const tx = (await room()).transaction('waiting', 'readwrite')
  await Promise.all([...entryIds.map((id) => tx.store.delete(id)), tx.done])
}

/** This person's waiting entries in the order in which they were made. */
export async function allWaiting(userId: string): Promise<WaitingEntry[]> {
  const all = await (await room()).getAll('waiting')
  return all
    .filter((each) => each.userId === userId)
    .sort((a, b) => a.entry.deviceSeq - b.entry.deviceSeq || a.entry.at - b.entry.at)
}
