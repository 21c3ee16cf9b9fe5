import type { Channel } from '#core/samples'
import type { ShopTx } from '../connection'

/** A channel that was a piece of kit of a job for a while. */
export interface LiveChannel {
  deviceId: string
  device: string
  standIn: boolean
  channel: Channel
  kitId: string
  kit: string
  since: Date
  /** null: it still is. */
  until: Date | null
}

/** What was live on a job, and is: its kit, and the channels that this kit was meanwhile. */
export async function liveChannels(tx: ShopTx, jobId: string): Promise<LiveChannel[]> {
  return tx<LiveChannel[]>`
    select u.device_id, d.name as device, d.stand_in, u.channel, u.kit_id, k.label as kit,
      greatest(u.since, j.since) as since, least(u.until, j.until) as until
    from job_kit j
      join channel_use u on u.shop_id = j.shop_id and u.kit_id = j.kit_id
        and u.since <= coalesce(j.until, 'infinity') and coalesce(u.until, 'infinity') >= j.since
      join device d on d.shop_id = u.shop_id and d.device_id = u.device_id
      join kit k on k.shop_id = u.shop_id and k.kit_id = u.kit_id
    where j.job_id = ${jobId} order by since, u.device_id, u.channel limit 200`
}

/** Kit that says something live now. */
export async function liveKit(tx: ShopTx): Promise<{ kitId: string; channel: Channel; deviceId: string }[]> {
  return tx`
    select u.kit_id, u.channel, u.device_id from channel_use u
      join device d on d.shop_id = u.shop_id and d.device_id = u.device_id
    where u.until is null and d.in_force order by u.kit_id, u.channel limit 500`
}

export interface ChannelSamples {
  deviceId: string
  channel: Channel
  /** Times in ms, sequence numbers and values, in order of time. */
  at: number[]
  seq: number[]
  value: number[]
}

/** The samples of one channel in a span of time, both ends included. */
export async function samplesOf(
  tx: ShopTx,
  { deviceId, channel }: { deviceId: string; channel: Channel },
  from: Date,
  to: Date,
  limit = 200_000,
): Promise<ChannelSamples> {
  // As bytes: rows, or numbers as text, would take the driver several times as long as the database takes to find them.
  const [row] = await tx<{ bytes: Buffer | null }[]>`
    select string_agg(timestamptz_send(at) || int8send(seq) || float8send(value), ''::bytea) as bytes
    from (select at, seq, value from sample
      where device_id = ${deviceId} and channel = ${channel} and at >= ${from} and at <= ${to}
      order by at, seq limit ${limit}) s`
  return { deviceId, channel, ...unpacked(row?.bytes ?? Buffer.alloc(0)) }
}

const SAMPLE_BYTES = 24
/** PostgreSQL counts microseconds from the year 2000. */
const EPOCH_2000_MS = Date.UTC(2000, 0, 1)

function unpacked(bytes: Buffer): Pick<ChannelSamples, 'at' | 'seq' | 'value'> {
  const count = bytes.length / SAMPLE_BYTES
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const at = new Array<number>(count)
  const seq = new Array<number>(count)
  const value = new Array<number>(count)
  for (let i = 0; i < count; i++) {
    at[i] = EPOCH_2000_MS + Math.round(safeInteger(view, i * SAMPLE_BYTES) / 1_000)
    seq[i] = safeInteger(view, i * SAMPLE_BYTES + 8)
    value[i] = view.getFloat64(i * SAMPLE_BYTES + 16)
  }
  return { at, seq, value }
}

/** Eight bytes of a number below 2^53; a BigInt for each would take longer than all the rest. */
function safeInteger(view: DataView, at: number): number {
  return view.getInt32(at) * 2 ** 32 + view.getUint32(at + 4)
}

/** The number of a device's last batch. */
export async function lastBatch(tx: ShopTx, deviceIds: readonly string[]): Promise<Map<string, number>> {
  if (deviceIds.length === 0) return new Map()
  const rows = await tx<{ deviceId: string; batches: number }[]>`
    select device_id, batches from device where device_id in ${tx([...deviceIds])}`
  return new Map(rows.map((row) => [row.deviceId, row.batches]))
}

export interface News {
  /** The last batch that is in it. */
  batch: number
  samples: [channel: Channel, at: number, value: number, seq: number][]
}

/** More than so many batches behind, and one loads the page anew. */
const MOST_BATCHES = 500

/** What a device has said after a batch. @returns undefined when that lies too far back to be told one by one */
export async function samplesAfter(tx: ShopTx, deviceId: string, after: number): Promise<News | undefined> {
  const [span] = await tx<{ last: number | null; first: number | null; fromAt: Date; toAt: Date }[]>`
    select max(nr) as last, min(nr) as first, min(from_at) as from_at, max(to_at) as to_at
    from sample_batch where device_id = ${deviceId} and nr > ${after}`
  if (!span?.last) return { batch: after, samples: [] }
  if (span.first !== after + 1 || span.last - after > MOST_BATCHES) return undefined
  const rows = await tx<{ channel: Channel; at: number; value: number; seq: number }[]>`
    select s.channel, round(date_part('epoch', s.at) * 1000) as at, s.value, s.seq
    from device_channel c cross join lateral (
      select channel, at, value, seq from sample
      where device_id = c.device_id and channel = c.channel and at >= ${span.fromAt} and at <= ${span.toAt}) s
    where c.device_id = ${deviceId} order by s.at, s.seq limit 20000`
  return { batch: span.last, samples: rows.map(({ channel, at, value, seq }) => [channel, at, value, seq]) }
}
