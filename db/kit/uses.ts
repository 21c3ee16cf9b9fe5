import { type JobState, kitUses } from '#core/tape'
import type { ShopTx } from '../connection'
import { projectPassed, projectPurged } from './acts'

interface Use {
  kit_id: string
  transfer_id: string
  use: string
  cylinder_id: string
  refrigerant: string | null
  mass_mg: number
  at: string
  purged_at: string | null
}

/** Keeps which kit each transfer of a job was made with. The caller holds the locks of all that the tape names. */
export async function keepUses(tx: ShopTx, jobId: string, state: JobState): Promise<void> {
  const wanted = usesIn(state)
  const known = await tx<{ row: Use }[]>`
    select jsonb_build_object('kit_id', kit_id, 'transfer_id', transfer_id, 'use', use, 'cylinder_id', cylinder_id,
      'refrigerant', refrigerant, 'mass_mg', mass_mg, 'at', at, 'purged_at', purged_at) as row
    from kit_use where job_id = ${jobId}`
  if (asText(known.map(({ row }) => row)) === asText(wanted)) return
  await tx`delete from kit_use where job_id = ${jobId}`
  if (wanted.length > 0)
    await tx`
      insert into kit_use (shop_id, job_id, kit_id, transfer_id, use, cylinder_id, refrigerant, mass_mg, at, purged_at)
      select current_shop(), ${jobId}, r.* from jsonb_to_recordset(${tx.json(wanted as never)}) as r(kit_id uuid,
        transfer_id uuid, use text, cylinder_id uuid, refrigerant text, mass_mg bigint, at timestamptz,
        purged_at timestamptz)`
  const touched = [...new Set([...known.map(({ row }) => row.kit_id), ...wanted.map((each) => each.kit_id)])]
  await projectPassed(tx, touched)
  await projectPurged(tx, touched)
  await tx`
    update kit k set (last_gas, gas_at) = (
      select u.refrigerant, u.at from kit_use u
      where u.shop_id = k.shop_id and u.kit_id = k.kit_id and u.use = 'recover' and u.refrigerant is not null
      order by u.at desc limit 1)
    where k.kit_id = any(${touched}::uuid[]) and k.kind in ('machine', 'station')`
}

const usesIn = (state: JobState): Use[] =>
  kitUses(state).map((each) => ({
    kit_id: each.kitId,
    transfer_id: each.transferId,
    use: each.use,
    cylinder_id: each.cylinderId,
    refrigerant: each.refrigerant,
    mass_mg: each.massMg,
    at: new Date(each.at).toISOString(),
    purged_at: each.purgedAt === null ? null : new Date(each.purgedAt).toISOString(),
  }))

/** The same whichever way round, and however the database writes a time. */
function asText(uses: Use[]): string {
  const time = (text: string | null) => (text === null ? null : Date.parse(text))
  return JSON.stringify(
    uses
      .map((u) => [
        u.kit_id,
        u.transfer_id,
        u.use,
        u.cylinder_id,
        u.refrigerant,
        u.mass_mg,
        time(u.at),
        time(u.purged_at),
      ])
      .sort((a, b) => `${a[0]}${a[1]}`.localeCompare(`${b[0]}${b[1]}`)),
  )
}

/** A transfer that was weighed on a scale between its last good check and the next one, with a bad one between them. */
export interface DoubtfulTransfer {
  kitId: string
  kit: string
  jobId: string
  number: number
  title: string
  transferId: string
  use: 'recover' | 'charge'
  cylinderId: string
  cylinder: string
  refrigerant: string | null
  massMg: number
  at: Date
  /** The check that was not passed, and how far off it was. */
  checkedAt: Date
  known: number
  read: number
}

const DOUBTS = (tx: ShopTx) => tx`
  select distinct on (u.job_id, u.transfer_id, u.kit_id) u.kit_id, k.label as kit, u.job_id, j.number,
    coalesce(nullif(m.title, ''), y.name, '') as title, u.transfer_id, u.use, u.cylinder_id, c.label as cylinder,
    u.refrigerant, u.mass_mg, u.at, a.at as checked_at, (a.body->>'known')::bigint as known,
    (a.body->>'read')::bigint as read
  from kit_use u
    join kit k on k.shop_id = u.shop_id and k.kit_id = u.kit_id
    join kit_done a on a.shop_id = u.shop_id and a.kit_id = u.kit_id and a.what = 'scale-check' and not a.passed
    join job j on j.shop_id = u.shop_id and j.job_id = u.job_id
    join job_summary m on m.shop_id = u.shop_id and m.job_id = u.job_id
    left join system y on y.shop_id = m.shop_id and y.system_id = m.system_id
    join cylinder c on c.shop_id = u.shop_id and c.cylinder_id = u.cylinder_id
  where u.at > coalesce((select max(g.at) from kit_done g where g.shop_id = a.shop_id and g.kit_id = a.kit_id
        and g.what = 'scale-check' and g.passed and g.at < a.at), '-infinity')
    and u.at < coalesce((select min(g.at) from kit_done g where g.shop_id = a.shop_id and g.kit_id = a.kit_id
        and g.what = 'scale-check' and g.passed and g.at > a.at), 'infinity')
    and not exists (select 1 from kit_done d where d.shop_id = a.shop_id and d.kit_id = a.kit_id and d.what = 'decided'
        and (d.body->>'transferId' = u.transfer_id::text or (d.body->>'transferId' = 'all' and u.at <= d.at))
        and d.booked_at >= a.booked_at)`

/** What a scale that failed its check has weighed, as long as nobody has decided on it, the newest first. */
export async function doubtsOfScale(tx: ShopTx, kitId: string): Promise<DoubtfulTransfer[]> {
  const rows = await tx<DoubtfulTransfer[]>`
    ${DOUBTS(tx)} and u.kit_id = ${kitId} order by u.job_id, u.transfer_id, u.kit_id, a.at limit 1000`
  return rows.toSorted((a, b) => b.at.getTime() - a.at.getTime())
}

/** The same of one job, for its verdicts and its report. */
export async function doubtsOfJob(tx: ShopTx, jobId: string): Promise<DoubtfulTransfer[]> {
  return tx<DoubtfulTransfer[]>`
    ${DOUBTS(tx)} and u.job_id = ${jobId} order by u.job_id, u.transfer_id, u.kit_id, a.at limit 200`
}

/** The transfers that a piece was used for, the newest first. */
export async function usesOf(
  tx: ShopTx,
  kitId: string,
  limit: number,
): Promise<Pick<DoubtfulTransfer, 'jobId' | 'number' | 'use' | 'refrigerant' | 'massMg' | 'at'>[]> {
  return tx`
    select u.job_id, j.number, u.use, u.refrigerant, u.mass_mg, u.at from kit_use u
      join job j on j.shop_id = u.shop_id and j.job_id = u.job_id
    where u.kit_id = ${kitId} order by u.at desc limit ${limit}`
}
