import { randomUUID } from 'node:crypto'
import { asPiece } from '#core/kit'
import {
  type AgainstCode,
  decided,
  decidesOn,
  type Entry,
  type JobState,
  kitInUse,
  type Made,
  offsetOf,
  refsOf,
  refusalsOf,
  type RefusalCode,
  type Transfer,
  versionOf,
} from '#core/tape'
import type { Reason } from '#core/verdict'
import { announce } from '../changes'
import type { ShopTx } from '../connection'
import { cylinderOf } from '../cylinders'
import { kitOf } from '../kit/kit'
import { lock } from '../locks'
import { jobsWithCylinder } from '../ledger/movements'
import { readShop } from '../shop'
import { systemOf } from '../systems'
import { settle } from './settle'
import { runsElsewhere } from './summary'
import { entriesOf, foldOpen, keepCheckpoint, openTape, type OpenTape, writeEntries } from './tape'

export interface AppendRequest {
  jobId: string
  userId: string
  entries: Entry[]
  /** The device's own clock when it sent them: tells a decision from a thing that has happened. */
  sentAt: number
  /** Ids of those that were made when no answer came: whatever they decided has happened. */
  unheard?: readonly string[]
  /** How far that clock was ahead of the server's, ms. */
  offsetMs: number
  /** When it sent them by what nobody can set. */
  made?: Made | undefined
  /** The server's time. */
  now: Date
  /** `2026-11-24` where the shop is. */
  today: string
}

export interface RefusedEntry {
  entryId: string
  /** Codes; the interface has the words. */
  reasons: Reason<RefusalCode>[]
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
 * when they name what is not there. What comes last costs the same on a long tape as on a short one.
 * @throws NoSuchJobError
 */
export async function append(tx: ShopTx, request: AppendRequest): Promise<Appended> {
  const { jobId, userId, now } = request
  await lock(tx, { jobId })
  const [job] = await tx<{ nextSeq: number }[]>`select next_seq from job where job_id = ${jobId}`
  if (!job) throw new NoSuchJobError('There is no such job in this shop: open it from the Bench.')
  const known = await entriesOf(
    tx,
    jobId,
    request.entries.map((entry) => entry.entryId),
  )
  const ids = new Set(known.map((entry) => entry.entryId))
  // The same id twice in one batch is one entry, too: the first of them.
  const fresh = request.entries
    .filter((entry) => !ids.has(entry.entryId) && ids.add(entry.entryId))
    .map((entry) => onServerTime(entry, request))
  if (fresh.length === 0) return { entries: known, refused: [] }
  const tape = await openTape(tx, jobId)
  const before = await foldOpen(tx, jobId, tape)
  const there = await lock(tx, namedIn(before.named, fresh))
  const { accepted, refused } = await admit(tx, request, tape, fresh, there)
  accepted.push(...(await foundAgainst(tx, request, tape, accepted, job.nextSeq + accepted.length)))
  const numbered = accepted.map((entry, i) => ({ ...entry, seq: job.nextSeq + i, userId }))
  if (numbered.length > 0) {
    const lastSeq = job.nextSeq + numbered.length - 1
    await writeEntries(tx, jobId, numbered, now)
    await tx`update job set next_seq = ${lastSeq + 1} where job_id = ${jobId}`
    tape.entries = [...tape.entries, ...numbered]
    const state = await foldOpen(tx, jobId, tape)
    await settle(tx, { jobId, lastSeq, userId, now }, state)
    await keepCheckpoint(tx, jobId, tape)
    await announce(tx, { kind: 'job', id: jobId })
  }
  return { entries: [...known, ...numbered], refused }
}

/**
 * With what its device's clock is off by the server's; what would lie in the future happened now. A time that was said
 * by hand is no clock's.
 */
function onServerTime({ made, ...entry }: Entry, request: AppendRequest): Entry {
  const offsetMs = entry.backdated ? 0 : offsetOf({ at: entry.at, made }, request)
  return { ...entry, offsetMs: Math.max(offsetMs, entry.at - request.now.getTime()) } as Entry
}

/** When it was sent, by the clock as it was set when the entry was made. */
const sentFor = (entry: Entry, { sentAt, offsetMs }: AppendRequest) =>
  entry.backdated ? sentAt : sentAt + ((entry.offsetMs ?? offsetMs) - offsetMs)

/** @param there the cylinders, systems and kit that this shop has, of those that the tape names */
async function admit(
  tx: ShopTx,
  request: AppendRequest,
  tape: OpenTape,
  fresh: Entry[],
  there: ReadonlySet<string>,
) {
  const accepted: Entry[] = []
  const refused: RefusedEntry[] = []
  for (const entry of fresh) {
    const { cylinders, systems, kit } = refsOf(entry)
    const missing = [...cylinders, ...systems, ...kit].some((id) => !there.has(id))
    const reasons: Reason<RefusalCode>[] = missing
      ? [{ code: 'not-there' }]
      : await refusals(tx, request, tape, entry, accepted)
    if (reasons.length === 0) accepted.push(entry)
    else refused.push({ entryId: entry.entryId, reasons })
  }
  return { accepted, refused }
}

async function refusals(
  tx: ShopTx,
  request: AppendRequest,
  tape: OpenTape,
  entry: Entry,
  accepted: Entry[],
): Promise<Reason<RefusalCode>[]> {
  if (!decidesOn(entry, sentFor(entry, request)) || request.unheard?.includes(entry.entryId)) return []
  return judged(tx, request, tape, entry, accepted)
}

/**
 * What a decision has against it, as things stand now; empty where it decides nothing.
 * @param takenAt when it was taken, ms, where that is long ago: what kit has pulled since is not held against it
 */
async function judged(
  tx: ShopTx,
  request: AppendRequest,
  tape: OpenTape,
  entry: Entry,
  before: Entry[],
  takenAt = Infinity,
): Promise<Reason<RefusalCode>[]> {
  const about = decided(entry)
  if (!about) return []
  const state = await foldOpen(tx, request.jobId, tape, before)
  const { cylinderId } = about
  const kitIds = about.kitId ? [about.kitId] : kitInUse(state).map((each) => each.kitId)
  const [cylinder, shop, system, busyElsewhere, kit] = await Promise.all([
    cylinderId ? cylinderOf(tx, cylinderId, request.jobId) : undefined,
    readShop(tx),
    state.systemId ? systemOf(tx, state.systemId) : undefined,
    cylinderId ? runsElsewhere(tx, cylinderId, request.jobId) : false,
    kitOf(tx, kitIds),
  ])
  return refusalsOf(entry, state, {
    cylinder,
    kit: kit
      .map((row) => (row.gasAt && row.gasAt.getTime() > takenAt ? { ...row, lastGas: null } : row))
      .map(asPiece),
    today: Number.isFinite(takenAt) ? dayAt(takenAt, shop.timeZone) : request.today,
    marginPct: shop.fillMarginPct,
    customerId: system?.customerId ?? null,
    busyElsewhere,
  })
}

/** `2026-11-24` where the shop is; Swedish writes it like that. */
const dayAt = (at: number, timeZone: string) => new Intl.DateTimeFormat('sv-SE', { timeZone }).format(at)

/**
 * What was decided without signal stands as it happened. Where it would have been refused, or others had the cylinder
 * meanwhile, the tape says so, for somebody to look at.
 * @param firstSeq the device's own count of whatever is written here
 */
async function foundAgainst(
  tx: ShopTx,
  request: AppendRequest,
  tape: OpenTape,
  accepted: readonly Entry[],
  firstSeq: number,
): Promise<Entry[]> {
  const found: Entry[] = []
  let after: JobState | undefined
  for (const [i, entry] of accepted.entries()) {
    const about = decided(entry)
    const fresh = decidesOn(entry, sentFor(entry, request)) && !request.unheard?.includes(entry.entryId)
    if (!about || fresh || entry.backdated) continue
    const { cylinderId = null } = about
    const takenAt = entry.at - (entry.offsetMs ?? 0)
    const reasons = await judged(tx, request, tape, entry, accepted.slice(0, i), takenAt)
    let jobs: number[] = []
    let over = true
    if (entry.kind === 'run-started') {
      after ??= await foldOpen(tx, request.jobId, tape, [...accepted])
      const run = after.transfers.find((each) => each.transferId === entry.body.runId)
      if (run) jobs = await jobsOnCylinder(tx, run, request)
      over = run?.endedAt !== undefined
    }
    const codes: AgainstCode[] = [
      ...(jobs.length > 0 ? (['used-meanwhile'] as const) : []),
      ...reasons
        .map(({ code }) => code)
        // Whoever has it now may have taken it after this one was done with it.
        .filter((code) => !ONLY_TO_LOOK_AT.includes(code) && !(code === 'in-use' && over)),
    ]
    if (codes.length === 0) continue
    const body = { entryId: entry.entryId, cylinderId, codes, jobs }
    found.push({
      entryId: randomUUID(),
      kind: 'found-against',
      version: versionOf('found-against'),
      at: request.now.getTime(),
      offsetMs: 0,
      deviceId: 'keg',
      deviceSeq: firstSeq + found.length,
      body,
    })
  }
  return found
}

/** Other jobs that moved gas in or out of a cylinder while this one had it. */
const jobsOnCylinder = (
  tx: ShopTx,
  { cylinderId, startedAt, endedAt }: Transfer,
  { jobId, now }: AppendRequest,
) =>
  jobsWithCylinder(
    tx,
    cylinderId,
    jobId,
    new Date(startedAt),
    endedAt === undefined ? now : new Date(endedAt),
  )

/** Said beforehand, and no reason to look again. */
const ONLY_TO_LOOK_AT: RefusalCode[] = ['amount-unknown', 'test-due-soon']

/** All that a tape ever named: whatever it books or has booked is among them. */
function namedIn(
  known: JobState['named'],
  fresh: Entry[],
): { systemIds: string[]; cylinderIds: string[]; kitIds: string[] } {
  const refs = [known, ...fresh.map(refsOf)]
  return {
    systemIds: refs.flatMap((each) => each.systems),
    cylinderIds: refs.flatMap((each) => each.cylinders),
    kitIds: refs.flatMap((each) => each.kit),
  }
}
