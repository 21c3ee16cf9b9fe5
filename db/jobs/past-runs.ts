import type { PastRun } from '#core/recovery'
import type { ShopTx } from '../connection'

const MOST = 30

/**
 * What a machine took out before, pull by pull on one scale, the newest first: how much, and in how long. Struck and
 * corrected ones are left out.
 */
export async function pastRuns(tx: ShopTx, kitId: string, notOf: string): Promise<PastRun[]> {
  const rows = await tx<{ massMg: number; seconds: number }[]>`
    select (e.body ->> 'weightMg')::bigint - (s.body ->> 'weightMg')::bigint as mass_mg,
      date_part('epoch', e.at - s.at) as seconds
    from job_kit k
      join entry s on s.shop_id = k.shop_id and s.job_id = k.job_id and s.kind = 'run-started'
        and s.body ->> 'use' = 'recover'
      join entry e on e.shop_id = s.shop_id and e.job_id = s.job_id and e.kind = 'run-ended'
        and e.body ->> 'runId' = s.body ->> 'runId' and e.device_id = s.device_id and e.at > s.at
    where k.kit_id = ${kitId} and k.job_id <> ${notOf}
      and not exists (
        select 1 from entry x where x.shop_id = s.shop_id and x.job_id = s.job_id
          and (x.kind = 'scale-changed' and x.body ->> 'runId' = s.body ->> 'runId'
            or x.kind = 'correction' and x.body ->> 'entryId' in (s.entry_id::text, e.entry_id::text)))
    order by s.at desc limit ${MOST}`
  return rows.map(({ massMg, seconds }) => ({ massKg: massMg / 1e6, seconds }))
}
