import {
  type Checkpoint,
  checkpointOf,
  type Entry,
  FOLD_VERSION,
  foldFrom,
  foldTape,
  type JobState,
  wantsCheckpoint,
} from '#core/tape'
import type { ShopTx } from '../connection'

interface EntryRow {
  entryId: string
  kind: string
  version: number
  at: Date
  deviceId: string
  deviceSeq: number
  offsetMs: number | null
  backdated: boolean
  sample: Entry['sample'] | null
  seq: number
  userId: string
  body: unknown
}

const entryOf = ({ at, offsetMs, backdated, sample, ...row }: EntryRow): Entry =>
  ({
    ...row,
    at: at.getTime(),
    ...(offsetMs === null ? {} : { offsetMs }),
    ...(backdated ? { backdated } : {}),
    ...(sample ? { sample } : {}),
  }) as Entry

const SELECT = (tx: ShopTx) => tx`
  select entry_id, kind, version, at, device_id, device_seq, offset_ms, backdated, sample, seq, user_id, body from entry`

/** The entries of a job after the given one, in the order in which the server took them. @param upTo that one included */
export async function tapeOf(tx: ShopTx, jobId: string, after = 0, upTo?: number): Promise<Entry[]> {
  const rows = await tx<EntryRow[]>`
    ${SELECT(tx)} where job_id = ${jobId} and seq > ${after} ${upTo === undefined ? tx`` : tx`and seq <= ${upTo}`}
    order by seq`
  return rows.map(entryOf)
}

/** Those of some entries that a job has already. */
export async function entriesOf(tx: ShopTx, jobId: string, entryIds: string[]): Promise<Entry[]> {
  if (entryIds.length === 0) return []
  const rows = await tx<EntryRow[]>`
    ${SELECT(tx)} where job_id = ${jobId} and entry_id in ${tx(entryIds)} order by seq`
  return rows.map(entryOf)
}

/** A tape as far as it must be read: a long one from its checkpoint on. */
export interface OpenTape {
  checkpoint: Checkpoint | null
  /** What comes after the checkpoint; without one, everything. */
  entries: Entry[]
}

export async function openTape(tx: ShopTx, jobId: string): Promise<OpenTape> {
  const [kept] = await tx<{ body: Checkpoint }[]>`
    select body from tape_checkpoint where job_id = ${jobId} and fold_version = ${FOLD_VERSION}`
  const checkpoint = kept?.body ?? null
  return { checkpoint, entries: await tapeOf(tx, jobId, checkpoint?.seq ?? 0) }
}

/** The state of a tape with more entries; the whole is read where some of them fall before the checkpoint. */
export async function foldOpen(
  tx: ShopTx,
  jobId: string,
  tape: OpenTape,
  more: Entry[] = [],
): Promise<JobState> {
  if (tape.checkpoint) {
    const state = foldFrom(tape.checkpoint, [...tape.entries, ...more])
    if (state) return state
    tape.entries = await tapeOf(tx, jobId)
    tape.checkpoint = null
  }
  return foldTape([...tape.entries, ...more])
}

/** The state of a job by its tape. */
export async function stateOf(tx: ShopTx, jobId: string): Promise<JobState> {
  return foldOpen(tx, jobId, await openTape(tx, jobId))
}

/**
 * Keeps the checkpoint of a tape not far behind its end. The caller holds the job's lock.
 * @param tape as it was folded, with everything that is written
 */
export async function keepCheckpoint(tx: ShopTx, jobId: string, tape: OpenTape): Promise<void> {
  if (!wantsCheckpoint(tape.entries.length)) {
    // One that could not be folded on from is no use to anybody.
    if (!tape.checkpoint) await tx`delete from tape_checkpoint where job_id = ${jobId}`
    return
  }
  const checkpoint = checkpointOf(tape.checkpoint ? await tapeOf(tx, jobId) : tape.entries)
  if (!checkpoint) return
  await tx`
    insert into tape_checkpoint (shop_id, job_id, fold_version, body)
    values (current_shop(), ${jobId}, ${FOLD_VERSION}, ${tx.json(checkpoint as never)})
    on conflict (shop_id, job_id) do update set fold_version = excluded.fold_version, body = excluded.body`
}

/** Writes entries that have their sequence already. The caller holds the job's lock. */
export async function writeEntries(
  tx: ShopTx,
  jobId: string,
  entries: (Entry & { seq: number; userId: string })[],
  receivedAt: Date,
): Promise<void> {
  if (entries.length === 0) return
  const rows = entries.map((e) => ({
    entry_id: e.entryId,
    seq: e.seq,
    kind: e.kind,
    version: e.version,
    at: new Date(e.at).toISOString(),
    device_id: e.deviceId,
    device_seq: e.deviceSeq,
    offset_ms: e.offsetMs,
    backdated: e.backdated ?? false,
    sample: e.sample ?? null,
    user_id: e.userId,
    body: e.body,
  }))
  await tx`
    insert into entry (shop_id, job_id, received_at, entry_id, seq, kind, version, at, device_id, device_seq, offset_ms,
      backdated, sample, user_id, body)
    select current_shop(), ${jobId}, ${receivedAt}, r.*
    from jsonb_to_recordset(${tx.json(rows as never)}) as r(entry_id uuid, seq integer, kind text, version integer,
      at timestamptz, device_id text, device_seq integer, offset_ms bigint, backdated boolean, sample jsonb, user_id uuid, body jsonb)`
}
