import { type Channel, isChannel, rangeOf } from '#core/samples'
import type { KitFacts } from '#core/kit'
import type { ShopTx } from '../connection'
import { type Fit, look, type Ranges, type RefusedSample } from './look'

export interface Taken {
  accepted: number
  /** Had been taken before: sending it again changes nothing. */
  known: number
  refused: RefusedSample[]
  /** The number of this batch, where anything was new. */
  batch?: number
}

/** What a device has sent at once. */
export interface Post {
  deviceId: string
  sent: readonly unknown[]
  now: Date
}

interface Looked extends Post {
  good: Fit[]
  refused: RefusedSample[]
}

/**
 * Takes batches of several devices, one of each: what is good is kept, what is not is said one by one and counted on
 * the device.
 * @returns for each post what was taken and what of it is good; undefined where the device has been revoked
 */
export async function takePosts(
  tx: ShopTx,
  posts: readonly Post[],
): Promise<({ taken: Taken; good: Fit[] } | undefined)[]> {
  const ranges = await rangesOf(
    tx,
    posts.map((each) => each.deviceId),
  )
  const looked = posts.flatMap((post) => {
    const own = ranges.get(post.deviceId)
    return own ? [lookAll(post, own)] : []
  })
  const written = looked.length > 0 ? await write(tx, looked) : new Map<string, Written>()
  return posts.map(({ deviceId }) => {
    const row = written.get(deviceId)
    const own = looked.find((each) => each.deviceId === deviceId)
    if (!row || !own) return undefined
    const { accepted, batch } = row
    const { good, refused } = own
    return {
      taken: { accepted, known: good.length - accepted, refused, ...(accepted > 0 ? { batch } : {}) },
      good,
    }
  })
}

function lookAll(post: Post, ranges: Ranges): Looked {
  const good: Fit[] = []
  const refused: RefusedSample[] = []
  for (const [index, each] of post.sent.entries()) {
    const fit = look(each, post.deviceId, ranges, post.now.getTime())
    if (typeof fit === 'string') refused.push({ index, problem: fit })
    else good.push(fit)
  }
  return { ...post, good, refused }
}

/**
 * Their rows are held until the end, in the order of their ids: batches of one device are numbered in the order in which
 * they are committed, and two processes do not wait for one another.
 * @returns nothing for devices that have been revoked
 */
async function rangesOf(tx: ShopTx, deviceIds: string[]): Promise<Map<string, Ranges>> {
  const rows = await tx<{ deviceId: string; channel: Channel; facts: KitFacts | null }[]>`
    select d.device_id, c.channel, k.facts from device d
      join device_channel c on c.shop_id = d.shop_id and c.device_id = d.device_id
      left join channel_use u on u.shop_id = c.shop_id and u.device_id = c.device_id and u.channel = c.channel and u.until is null
      left join kit k on k.shop_id = u.shop_id and k.kit_id = u.kit_id
    where d.device_id = any(${deviceIds}::uuid[]) and d.in_force
    order by d.device_id for no key update of d`
  const of = new Map<string, Ranges>()
  for (const { deviceId, channel, facts } of rows) {
    const own = of.get(deviceId) ?? new Map<string, { least: number; most: number }>()
    of.set(deviceId, own)
    if (isChannel(channel)) own.set(channel, rangeOf(channel, facts ?? {}))
  }
  return of
}

interface Written {
  deviceId: string
  accepted: number
  batch: number
}

/** Writes, numbers each batch where anything was new, and keeps what was refused in sight: in one statement. */
async function write(tx: ShopTx, posts: readonly Looked[]): Promise<Map<string, Written>> {
  const all = posts.flatMap(({ deviceId, good }) => good.map((each) => ({ ...each, deviceId })))
  const spans = posts.map(({ good, now }) =>
    good.reduce(([from, to], { at }) => [Math.min(from, at), Math.max(to, at)] as const, [
      good[0]?.at ?? now.getTime(),
      good[0]?.at ?? now.getTime(),
    ] as const),
  )
  const rows = await tx<Written[]>`
    with written as (
      insert into sample (shop_id, device_id, channel, at, seq, value)
      select current_shop(), d, c, to_timestamp(ms / 1000), s, v
      from unnest(${all.map((each) => each.deviceId)}::uuid[], ${all.map((each) => each.channel)}::text[],
        ${all.map((each) => each.at)}::float8[], ${all.map((each) => each.seq)}::bigint[],
        ${all.map((each) => each.value)}::float8[]) as sent (d, c, ms, s, v)
      on conflict do nothing returning device_id
    ), counted as (
      select device_id, count(*)::integer as accepted from written group by device_id
    ), post as (
      select p.*, coalesce(c.accepted, 0) as accepted
      from unnest(${posts.map((each) => each.deviceId)}::uuid[], ${spans.map(([from]) => from)}::float8[],
        ${spans.map(([, to]) => to)}::float8[], ${posts.map((each) => each.now.getTime())}::float8[],
        ${posts.map((each) => each.refused.length)}::integer[],
        ${posts.map((each) => each.refused.at(-1)?.problem ?? '')}::text[])
        as p (device_id, from_ms, to_ms, now_ms, refused, why)
        left join counted c using (device_id)
    ), numbered as (
      update device d set heard_at = to_timestamp(p.now_ms / 1000), batches = d.batches + least(1, p.accepted),
        refused = d.refused + p.refused,
        refused_why = case when p.refused > 0 then p.why else d.refused_why end,
        refused_at = case when p.refused > 0 then to_timestamp(p.now_ms / 1000) else d.refused_at end
      from post p where d.device_id = p.device_id
      returning d.device_id, d.batches as batch, p.accepted, p.from_ms, p.to_ms, p.now_ms
    ), placed as (
      insert into sample_batch (shop_id, device_id, nr, from_at, to_at, arrived_at)
      select current_shop(), device_id, batch, to_timestamp(from_ms / 1000), to_timestamp(to_ms / 1000),
        to_timestamp(now_ms / 1000)
      from numbered where accepted > 0
    )
    select device_id, accepted, batch from numbered`
  return new Map(rows.map((row) => [row.deviceId, row]))
}

/** Counts a batch that could not even be read. @returns false when the device has been revoked */
export async function countRefused(tx: ShopTx, deviceId: string, why: string, now: Date): Promise<boolean> {
  const changed = await tx`
    update device set refused = refused + 1, refused_why = ${why}, refused_at = ${now}
    where device_id = ${deviceId} and in_force`
  return changed.count > 0
}
