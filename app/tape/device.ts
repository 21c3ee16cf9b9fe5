import { v4 as uuid } from 'uuid'
import {
  type Entry,
  type EntryBodies,
  type EntryKind,
  type JobState,
  type ReadOff,
  versionOf,
} from '#core/tape'
import { madeNow } from './made-now'

/** An entry made here and now. @param at when it was so, if not now @param sample off which it was read */
export function makeEntry<K extends EntryKind>(
  kind: K,
  body: EntryBodies[K],
  at?: number,
  sample?: ReadOff,
): Extract<Entry, { kind: K }> {
  // Counted first: that may find that this page is a device of its own.
  const deviceSeq = nextSeq()
  return {
    entryId: uuid(),
    kind,
    version: versionOf(kind),
    at: at ?? Date.now(),
    ...(at === undefined ? {} : { backdated: true }),
    made: madeNow(),
    deviceId: deviceId(),
    deviceSeq,
    ...(sample ? { sample } : {}),
    body,
  } as unknown as Extract<Entry, { kind: K }>
}

/** An entry put right before anybody has it: another id, the same time. @param body in today's version */
export function remade(entry: Entry, body: Record<string, unknown>): Entry {
  return makeEntry(entry.kind, body as never, entry.at)
}

/** Now by the server's clock, as far as this device's offset is known from what it has sent. */
export function serverNow(state: Pick<JobState, 'clocks'>): number {
  return Date.now() - deviceOffsetMs(state)
}

/** This device's clock less the server's, as far as it is known from what it has sent, ms. */
export function deviceOffsetMs({ clocks }: Pick<JobState, 'clocks'>): number {
  const own = deviceId()
  return Object.hasOwn(clocks, own) ? clocks[own]!.offsetMs : 0
}

/** Clock, name and count of this device, for so many entries that are written elsewhere for it. */
export function deviceStamp(entries: number): { at: number; deviceId: string; deviceSeq: number } {
  const deviceSeq = nextSeq()
  for (let more = 1; more < entries; more++) nextSeq()
  return { at: Date.now(), deviceId: deviceId(), deviceSeq }
}

/** An id for something that an entry starts: a run, a hold. */
export const newId = (): string => uuid()

/** Where nothing can be kept, each page is a device of its own, with a count of its own: a press makes its entry all the same. */
let page: { deviceId: string; seq: number } | undefined
const thisPage = () => (page ??= { deviceId: uuid(), seq: 0 })

function deviceId(): string {
  if (page) return page.deviceId
  try {
    let id = localStorage.getItem('keg-device')
    if (!id) localStorage.setItem('keg-device', (id = uuid()))
    return id
  } catch {
    return thisPage().deviceId
  }
}

function nextSeq(): number {
  if (page) return ++page.seq
  try {
    const next = Number(localStorage.getItem('keg-device-seq') ?? 0) + 1
    localStorage.setItem('keg-device-seq', String(next))
    return next
  } catch {
    return ++thisPage().seq
  }
}
