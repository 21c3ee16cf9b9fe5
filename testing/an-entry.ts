// The one builder of entries.
import { v4 as uuid } from 'uuid'
import { type Entry, ENTRY_VERSION, type EntryBodies, type EntryKind } from '#core/tape'

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
    version: ENTRY_VERSION,
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
