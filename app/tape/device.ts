import { v4 as uuid } from 'uuid'
import { ENTRY_VERSION, type Entry, type EntryBodies, type EntryKind } from '#core/tape'

/** An entry made here and now. @param at when it was so, if not now */
export function makeEntry<K extends EntryKind>(kind: K, body: EntryBodies[K], at = Date.now()): Entry {
  return {
    entryId: uuid(),
    kind,
    version: ENTRY_VERSION,
    at,
    deviceId: deviceId(),
    deviceSeq: nextSeq(),
    body,
  } as Entry
}

/** An entry put right before anybody has it: another id, the same time. */
export function remade(entry: Entry, body: Record<string, unknown>): Entry {
  return { ...makeEntry(entry.kind, body as never, entry.at), version: entry.version }
}

/** An id for something that an entry starts: a run, a hold. */
export const newId = (): string => uuid()

function deviceId(): string {
  let id = localStorage.getItem('keg-device')
  if (!id) localStorage.setItem('keg-device', (id = uuid()))
  return id
}

function nextSeq(): number {
  const next = Number(localStorage.getItem('keg-device-seq') ?? 0) + 1
  localStorage.setItem('keg-device-seq', String(next))
  return next
}
