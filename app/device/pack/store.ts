import type { DBSchema } from 'idb'
import type { Entry } from '#core/tape'
import { database } from '../room/database'
import { type Pack, packIn } from './pack'

/** What a device has kept of a shop for one person. */
export interface Kept {
  pack: Pack
  /** The server's name for this state of it. */
  mark: string
  /** When the server said so last, by this device's own clock, ms. */
  heardAt: number
  /** Entries that the server has confirmed since, by job. */
  learned: Record<string, Entry[]>
}

interface Schema extends DBSchema {
  packs: { key: string; value: Omit<Kept, 'pack'> & { pack: unknown } }
}

const packs = database<Schema>('keg-device', 1, (db) => void db.createObjectStore('packs'))

/** The browser has thrown away what was kept. */
export const onPacksGone = packs.onEmptied

/** @returns undefined: nothing is kept for this person, or nothing that this program reads */
export async function keptFor(userId: string): Promise<Kept | undefined> {
  const found = await (await packs.open()).get('packs', userId)
  const pack = packIn(found?.pack)
  return found && pack ? { ...found, pack } : undefined
}

/** Keeps it, and forgets what was kept for anybody else: the next person on this device finds nothing of the one before. */
export async function keepFor(userId: string, kept: Kept): Promise<void> {
  const tx = (await packs.open()).transaction('packs', 'readwrite')
  for (const other of await tx.store.getAllKeys()) if (other !== userId) await tx.store.delete(other)
  await Promise.all([tx.store.put(kept, userId), tx.done])
}

/** Whoever leaves takes it with them. @param userId undefined: whoever it was */
export async function forget(userId: string | undefined): Promise<void> {
  const db = await packs.open()
  await (userId === undefined ? db.clear('packs') : db.delete('packs', userId))
}
