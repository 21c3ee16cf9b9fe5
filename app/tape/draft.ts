import type { EntryBodies, EntryKind, ReadOff } from '#core/tape'

export interface Draft<K extends EntryKind = EntryKind> {
  kind: K
  body: EntryBodies[K]
  /** Where it was read off a live instrument. */
  sample?: ReadOff
}

/** One entry to note. */
export const draft = <K extends EntryKind>(kind: K, body: EntryBodies[K]): Draft => ({ kind, body }) as Draft

/** The same, read off a live instrument; typed where there is none. */
export const readOff = (made: Draft, from: ReadOff | undefined): Draft =>
  from ? { ...made, sample: from } : made
