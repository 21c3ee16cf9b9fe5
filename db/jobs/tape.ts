import type { Entry } from '#core/tape'
import type { ShopTx } from '../connection'

interface EntryRow {
  entryId: string
  kind: string
  version: number
  at: Date
  deviceId: string
  deviceSeq: number
  seq: number
  userId: string
  body: unknown
}

/** The entries of a job after the given one, in the order in which the server took them. */
export async function tapeOf(tx: ShopTx, jobId: string, after = 0): Promise<Entry[]> {
  const rows = await tx<EntryRow[]>`
    select entry_id, kind, version, at, device_id, device_seq, seq, user_id, body
    from entry where job_id = ${jobId} and seq > ${after} order by seq`
  return rows.map((row) => ({ ...row, at: row.at.getTime() }) as Entry)
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
    user_id: e.userId,
    body: e.body,
  }))
  await tx`
    insert into entry (shop_id, job_id, received_at, entry_id, seq, kind, version, at, device_id, device_seq, user_id, body)
    select current_shop(), ${jobId}, ${receivedAt}, r.*
    from jsonb_to_recordset(${tx.json(rows as never)}) as r(entry_id uuid, seq integer, kind text, version integer,
      at timestamptz, device_id text, device_seq integer, user_id uuid, body jsonb)`
}
