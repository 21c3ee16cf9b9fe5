// The one builder of entries.
import { v4 as uuid } from 'uuid'
import {
  type BooksBeside,
  type Entry,
  type EntryBodies,
  type EntryKind,
  NOTHING_BESIDE,
  versionOf,
} from '#core/tape'

export const NOW = new Date('2026-06-01T10:00:00Z')

let count = 0

/** An entry as a device would write it, a second after the one before. */
export function anEntry<K extends EntryKind>(
  kind: K,
  body: EntryBodies[K],
  over: Partial<Entry> = {},
): Entry {
  const deviceSeq = ++count
  return {
    entryId: uuid(),
    kind,
    version: versionOf(kind),
    at: NOW.getTime() + deviceSeq * 1000,
    deviceId: 'device-1',
    deviceSeq,
    body,
    ...over,
  } as Entry
}

/** The same at a time of its own, in ms; else a second after the one before, counted from nothing. */
export const wrote = <K extends EntryKind>(kind: K, body: EntryBodies[K], at = ++count * 1000): Entry =>
  anEntry(kind, body, { at })

/** Books that had so much in the system before, and nothing else beside the job. */
export const books = (massMg: number): BooksBeside => ({
  ...NOTHING_BESIDE,
  others: massMg === 0 ? [] : [{ at: -1, changeMg: massMg }],
})
