import type { ShopTx } from '../connection'

const MOST = 12

/** How late a person's last charges were closed, s, the newest first; not those of one job. */
export async function chargeLags(tx: ShopTx, userId: string, notOf: string): Promise<number[]> {
  const rows = await tx<{ seconds: number }[]>`
    select charge_lag_s as seconds from job_summary
    where charged_by = ${userId} and charge_lag_s is not null and job_id <> ${notOf}
    order by last_at desc limit ${MOST}`
  return rows.map((row) => row.seconds)
}
