import { type Channel, isChannel, rangeOf } from '#core/samples'
import type { KitFacts } from '#core/kit'
import type { ShopTx } from '../connection'

/** A sample as it came, before anybody has looked at it. */
export interface SentSample {
  device?: unknown
  channel?: unknown
  seq?: unknown
  at?: unknown
  value?: unknown
}

export type SampleProblem =
  | 'no-sample'
  | 'other-device'
  | 'unknown-channel'
  | 'no-sequence'
  | 'no-time'
  | 'in-the-future'
  | 'too-old'
  | 'no-number'
  | 'out-of-range'

export interface RefusedSample {
  /** Its place in the batch. */
  index: number
  problem: SampleProblem
}

export interface Taken {
  accepted: number
  /** Had been taken before: sending it again changes nothing. */
  known: number
  refused: RefusedSample[]
  /** The number of this batch, where anything was new. */
  batch?: number
}

/** A device's clock may be ahead by so much; what it kept while it was away may be so old. */
const AHEAD_MS = 60_000
const OLDEST_MS = 30 * 86_400_000

interface Fit {
  channel: Channel
  at: Date
  seq: number
  value: number
}

/**
 * Takes a batch: what is good is kept, what is not is said one by one and counted on the device.
 * @returns undefined when the device has been revoked
 */
export async function takeSamples(
  tx: ShopTx,
  deviceId: string,
  sent: readonly unknown[],
  now: Date,
): Promise<Taken | undefined> {
  const ranges = await rangesOf(tx, deviceId)
  if (!ranges) return undefined
  const good: Fit[] = []
  const refused: RefusedSample[] = []
  for (const [index, each] of sent.entries()) {
    const fit = look(each, deviceId, ranges, now.getTime())
    if (typeof fit === 'string') refused.push({ index, problem: fit })
    else good.push(fit)
  }
  const { accepted, batch } = await write(tx, deviceId, good, refused, now)
  return { accepted, known: good.length - accepted, refused, ...(accepted > 0 ? { batch } : {}) }
}

type Ranges = Map<string, { least: number; most: number }>

/**
 * Its row is held until the end: batches of one device are numbered in the order in which they are committed.
 * @returns undefined when it has been revoked
 */
async function rangesOf(tx: ShopTx, deviceId: string): Promise<Ranges | undefined> {
  const rows = await tx<{ channel: Channel; facts: KitFacts | null }[]>`
    select c.channel, k.facts from device d
      join device_channel c on c.shop_id = d.shop_id and c.device_id = d.device_id
      left join channel_use u on u.shop_id = c.shop_id and u.device_id = c.device_id and u.channel = c.channel and u.until is null
      left join kit k on k.shop_id = u.shop_id and k.kit_id = u.kit_id
    where d.device_id = ${deviceId} and d.revoked_at is null for no key update of d`
  if (rows.length === 0) return undefined
  return new Map(
    rows
      .filter((row) => isChannel(row.channel))
      .map((row) => [row.channel, rangeOf(row.channel, row.facts ?? {})]),
  )
}

function look(sent: unknown, deviceId: string, ranges: Ranges, nowMs: number): Fit | SampleProblem {
  if (typeof sent !== 'object' || sent === null) return 'no-sample'
  const { device, channel, seq, at, value } = sent as SentSample
  if (device !== undefined && device !== deviceId) return 'other-device'
  if (typeof channel !== 'string') return 'unknown-channel'
  const range = ranges.get(channel)
  if (!range) return 'unknown-channel'
  if (!Number.isSafeInteger(seq) || (seq as number) < 0) return 'no-sequence'
  // ISO 8601 with a zone, or milliseconds since 1970.
  const ms =
    typeof at === 'number'
      ? at
      : typeof at === 'string' && /(Z|[+-]\d\d:?\d\d)$/.test(at)
        ? Date.parse(at)
        : NaN
  if (!Number.isFinite(ms)) return 'no-time'
  if (ms > nowMs + AHEAD_MS) return 'in-the-future'
  if (ms < nowMs - OLDEST_MS) return 'too-old'
  if (typeof value !== 'number' || !Number.isFinite(value)) return 'no-number'
  if (value < range.least || value > range.most) return 'out-of-range'
  return { channel: channel as Channel, at: new Date(Math.round(ms)), seq: seq as number, value }
}

/** Writes, numbers the batch where anything was new, and keeps what was refused in sight: in one statement. */
async function write(
  tx: ShopTx,
  deviceId: string,
  good: Fit[],
  refused: RefusedSample[],
  now: Date,
): Promise<{ accepted: number; batch: number }> {
  const times = good.map((each) => each.at.getTime())
  const [from, to] = good.length > 0 ? [Math.min(...times), Math.max(...times)] : [0, 0]
  const why = refused.at(-1)?.problem ?? ''
  const [row] = await tx<{ accepted: number; batch: number }[]>`
    with written as (
      insert into sample (shop_id, device_id, channel, at, seq, value)
      select current_shop(), ${deviceId}, * from unnest(${good.map((each) => each.channel)}::text[],
        ${good.map((each) => each.at.toISOString())}::timestamptz[], ${good.map((each) => each.seq)}::bigint[],
        ${good.map((each) => each.value)}::float8[])
      on conflict do nothing returning 1
    ), counted as (
      select count(*)::integer as accepted from written
    ), numbered as (
      update device set heard_at = ${now}, batches = batches + least(1, (select accepted from counted)),
        refused = refused + ${refused.length},
        refused_why = case when ${refused.length} > 0 then ${why} else refused_why end,
        refused_at = case when ${refused.length} > 0 then ${now} else refused_at end
      where device_id = ${deviceId} returning batches
    ), placed as (
      insert into sample_batch (shop_id, device_id, nr, from_at, to_at, arrived_at)
      select current_shop(), ${deviceId}, n.batches, ${new Date(from)}, ${new Date(to)}, ${now}
      from numbered n, counted c where c.accepted > 0
    )
    select c.accepted, n.batches as batch from counted c, numbered n`
  return row!
}

/** Counts a batch that could not even be read. @returns false when the device has been revoked */
export async function countRefused(tx: ShopTx, deviceId: string, why: string, now: Date): Promise<boolean> {
  const changed = await tx`
    update device set refused = refused + 1, refused_why = ${why}, refused_at = ${now}
    where device_id = ${deviceId} and revoked_at is null`
  return changed.count > 0
}
