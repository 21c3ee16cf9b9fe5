import { differences } from '#core/ledger'
import {
  bookings,
  cylinderEffects,
  decidesOn,
  type Entry,
  foldTape,
  type JobState,
  refusalsOf,
  reservations,
} from '#core/tape'
import type { Reason } from '#core/verdict'
import { announce } from '../changes'
import type { ShopTx } from '../connection'
import { type CylinderRow, cylinderOf } from '../cylinders'
import { lock } from '../locks'
import { book, bookedFor, systemBeforeMg } from '../ledger/movements'
import { readShop } from '../shop'
import { summarise } from './summary'
import { systemOf } from '../systems'
import { tapeOf, writeEntries } from './tape'

export interface AppendRequest {
  jobId: string
  userId: string
  entries: Entry[]
  /** The device's own clock when it sent them: tells a decision from a thing that has happened. */
  sentAt: number
  /** The server's time. */
  now: Date
  /** `2026-11-24` where the shop is. */
  today: string
}

export interface RefusedEntry {
  entryId: string
  /** Codes; the interface has the words. */
  reasons: Reason[]
}

export interface Appended {
  /** Every entry of the tape that the server took, or had already, among those sent. */
  entries: Entry[]
  refused: RefusedEntry[]
}

/** There is no such job in this shop. */
export class NoSuchJobError extends Error {
  override name = 'NoSuchJobError'
}

/**
 * The one way to write on a tape: appends what is new, books the movements it calls for, keeps summary and
 * reservations, and says so to whoever listens; all in the caller's transaction, under the locks of the job and of all
 * that its tape names. Sending an entry twice changes nothing. Decisions may be refused; observations are only refused
 * when they name what is not there.
 * @throws NoSuchJobError
 */
export async function append(tx: ShopTx, request: AppendRequest): Promise<Appended> {
  const { jobId, userId, now } = request
  await lock(tx, { jobId })
  const [job] = await tx<{ nextSeq: number }[]>`select next_seq from job where job_id = ${jobId}`
  if (!job) throw new NoSuchJobError('There is no such job in this shop: open it from the Bench.')
  const before = await tapeOf(tx, jobId)

  const known = new Set(before.map((entry) => entry.entryId))
  // The same id twice in one batch is one entry, too: the first of them.
  const fresh = request.entries.filter((entry) => !known.has(entry.entryId) && known.add(entry.entryId))
  const there = fresh.length > 0 ? await lock(tx, namedIn([...before, ...fresh])) : new Set<string>()
  const { accepted, refused } = await judge(tx, request, before, fresh, there)
  const numbered = accepted.map((entry, i) => ({ ...entry, seq: job.nextSeq + i, userId }))
  const tape = [...before, ...numbered]

  if (numbered.length > 0) {
    await writeEntries(tx, jobId, numbered, now)
    await tx`update job set next_seq = ${job.nextSeq + numbered.length} where job_id = ${jobId}`
    await settle(tx, jobId, tape, userId, now)
    await announce(tx, { kind: 'job', id: jobId })
  }
  const asked = new Set(request.entries.map((entry) => entry.entryId))
  return { entries: tape.filter((entry) => asked.has(entry.entryId)), refused }
}

/** Brings books, cylinders, summary and reservations to what a tape says. The caller holds its locks. */
async function settle(tx: ShopTx, jobId: string, tape: Entry[], userId: string, now: Date) {
  const state = foldTape(tape)
  const changed = await bookJob(tx, jobId, state, userId, now)
  await affectCylinders(tx, state)
  await summarise(tx, jobId, state, tape)
  await reserve(tx, jobId, state)
  if (changed)
    for (const systemId of namedIn(tape).systemIds)
      await bookLaterJobs(tx, jobId, systemId, state, userId, now)
}

/** @param there the cylinders and systems that this shop has, of those that the tape names */
async function judge(
  tx: ShopTx,
  request: AppendRequest,
  before: Entry[],
  fresh: Entry[],
  there: ReadonlySet<string>,
) {
  const accepted: Entry[] = []
  const refused: RefusedEntry[] = []
  const missing = (entry: Entry) =>
    [named(entry, 'cylinderId'), named(entry, 'systemId')].some((id) => id !== undefined && !there.has(id))
  for (const entry of fresh) {
    const reasons = missing(entry)
      ? [{ code: 'not-there' }]
      : await refusals(tx, request, entry, [...before, ...accepted])
    if (reasons.length === 0) accepted.push(entry)
    else refused.push({ entryId: entry.entryId, reasons })
  }
  return { accepted, refused }
}

async function refusals(tx: ShopTx, request: AppendRequest, entry: Entry, tape: Entry[]): Promise<Reason[]> {
  const cylinderId = decidesOn(entry, request.sentAt)
  if (!cylinderId) return []
  const state = foldTape(tape)
  const [cylinder, shop, system] = await Promise.all([
    cylinderOf(tx, cylinderId, request.jobId),
    readShop(tx),
    state.systemId ? systemOf(tx, state.systemId) : undefined,
  ])
  return refusalsOf(entry, state, {
    cylinder: cylinder!,
    today: request.today,
    marginPct: shop.fillMarginPct,
    customerId: system?.customerId ?? null,
  })
}

/** The cylinder or system that an entry, or what it puts in another's place, is about. */
function named(entry: Entry, key: 'cylinderId' | 'systemId'): string | undefined {
  const body = (entry.kind === 'correction' ? entry.body.body : entry.body) as Record<string, unknown> | null
  return (body?.[key] as string | null | undefined) ?? undefined
}

/** All that a tape ever named: whatever it books or has booked is among them. */
function namedIn(tape: Entry[]): { systemIds: string[]; cylinderIds: string[] } {
  const all = (key: 'cylinderId' | 'systemId') => [
    ...new Set(tape.map((entry) => named(entry, key)).filter((id) => id !== undefined)),
  ]
  return { systemIds: all('systemId'), cylinderIds: all('cylinderId') }
}

/** @returns whether anything had to be booked */
async function bookJob(
  tx: ShopTx,
  jobId: string,
  state: JobState,
  userId: string,
  now: Date,
): Promise<boolean> {
  const beforeMg = state.systemId
    ? await systemBeforeMg(tx, state.systemId, jobId, new Date(state.openedAt))
    : 0
  // Read anew: another job on the same system may have booked for this one while it waited for the system's lock.
  const due = differences(await bookedFor(tx, jobId), bookings(state, beforeMg))
  await book(tx, { jobId }, due, userId, now)
  return due.length > 0
}

/** What was in a system before a later job depends on this one: late corrections carry on to it. */
async function bookLaterJobs(
  tx: ShopTx,
  jobId: string,
  systemId: string,
  state: JobState,
  userId: string,
  now: Date,
) {
  const later = await tx<{ jobId: string }[]>`
    select job_id from job_summary
    where system_id = ${systemId} and job_id <> ${jobId} and opened_at > ${new Date(state.openedAt)}
    order by opened_at, job_id`
  for (const other of later)
    await bookJob(tx, other.jobId, foldTape(await tapeOf(tx, other.jobId)), userId, now)
}

async function affectCylinders(tx: ShopTx, state: JobState) {
  const ids = [...new Set([...state.runs.map((r) => r.cylinderId), ...Object.keys(state.gas)])]
  if (ids.length === 0) return
  const rows = await tx<Pick<CylinderRow, 'cylinderId' | 'refrigerant' | 'condition'>[]>`
    select cylinder_id, refrigerant, condition from cylinder where cylinder_id in ${tx(ids)}`
  for (const effect of cylinderEffects(state, new Map(rows.map((r) => [r.cylinderId, r])))) {
    if (effect.refrigerant)
      await tx`update cylinder set refrigerant = ${effect.refrigerant} where cylinder_id = ${effect.cylinderId}`
    if (effect.condition)
      await tx`update cylinder set condition = ${effect.condition} where cylinder_id = ${effect.cylinderId}`
  }
}

async function reserve(tx: ShopTx, jobId: string, state: JobState) {
  await tx`delete from reservation where job_id = ${jobId}`
  for (const { cylinderId, roomMg } of reservations(state))
    await tx`
      insert into reservation (shop_id, job_id, cylinder_id, room_mg)
      values (current_shop(), ${jobId}, ${cylinderId}, ${roomMg})`
}
