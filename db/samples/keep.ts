import type { JobState } from '#core/tape'
import { askDirectory, inShop, type ShopTx } from '../connection'
import { OLDEST_DAYS } from './look'

/** Partitions for yesterday and the week to come; asking twice makes nothing twice. */
export async function makeSamplePartitions(today: Date): Promise<number> {
  const first = new Date(today.getTime() - 86_400_000).toISOString().slice(0, 10)
  const [row] = await askDirectory(
    (sql) => sql<{ made: number }[]>`select make_sample_partitions(${first}::date, 9) as made`,
  )
  return row!.made
}

/** Forgets where batches of long ago lay. */
export async function tidyBatches(): Promise<void> {
  await askDirectory((sql) => sql`select tidy_samples()`)
}

/** Days that are thinned in one go; the others wait for the next hour. */
const MOST_DAYS = 100

/**
 * Thins what is older than a shop keeps whole, each day once, from the first that its devices can have spoken of.
 * @returns how many samples went
 */
export async function thinOld(shopId: string, today: Date): Promise<number> {
  const days = await inShop(shopId, async (tx) => {
    const rows = await tx<{ day: string }[]>`
      select s.day from (
        select generate_series(
          (select min(paired_at) - make_interval(days => ${OLDEST_DAYS}) from device) at time zone 'UTC',
          (select ${today}::timestamptz - make_interval(days => sample_days + 1) from shop
            where shop_id = current_shop()) at time zone 'UTC',
          interval '1 day')::date as day) s
      where not exists (select 1 from sample_thinned t where t.day = s.day)
      order by s.day limit ${MOST_DAYS}`
    return rows.map((row) => row.day)
  })
  let gone = 0
  for (const day of days)
    gone += await inShop(shopId, async (tx) => {
      const [row] = await tx<{ gone: number }[]>`select thin_samples(${day}::date) as gone`
      return row!.gone
    })
  return gone
}

/** Which kit a job used and how long, by its tape: what those said then is never thinned. */
export async function keepJobKit(tx: ShopTx, jobId: string, state: JobState): Promise<void> {
  const wanted = spansOf(state)
  const known = await tx<{ kitId: string; since: Date; until: Date | null }[]>`
    select kit_id, since, until from job_kit where job_id = ${jobId} order by kit_id, since`
  const text = (rows: { kitId: string; since: Date; until: Date | null }[]) =>
    rows
      .map((row) => `${row.kitId} ${row.since.getTime()} ${row.until?.getTime() ?? ''}`)
      .sort()
      .join()
  if (text(known) === text(wanted)) return
  await tx`delete from job_kit where job_id = ${jobId}`
  if (wanted.length > 0)
    await tx`
      insert into job_kit (shop_id, job_id, kit_id, since, until)
      select current_shop(), ${jobId}, * from unnest(${wanted.map((each) => each.kitId)}::uuid[],
        ${wanted.map((each) => each.since.toISOString())}::timestamptz[],
        ${wanted.map((each) => each.until?.toISOString() ?? null)}::timestamptz[])
      on conflict do nothing`
}

/** Kit by its entries; scales by what stood on them, too. A job that is closed uses nothing any more. */
function spansOf(state: JobState) {
  const closedAt = state.status === 'closed' || state.status === 'cancelled' ? state.lastAt : undefined
  const end = (until: number | undefined) => until ?? closedAt
  const spans = state.kit.map(({ kitId, since, until }) => ({ kitId, since, until: end(until) }))
  for (const transfer of state.transfers)
    for (const [i, segment] of transfer.segments.entries()) {
      if (!segment.scaleId) continue
      const since =
        i === 0
          ? transfer.startedAt
          : (transfer.weighings.find((each) => each.segment === i)?.at ?? transfer.startedAt)
      const next = transfer.weighings.find((each) => each.segment === i + 1)?.at
      spans.push({ kitId: segment.scaleId, since, until: end(next ?? transfer.endedAt) })
    }
  return spans.map(({ kitId, since, until }) => ({
    kitId,
    since: new Date(since),
    until: until === undefined ? null : new Date(Math.max(since, until)),
  }))
}
