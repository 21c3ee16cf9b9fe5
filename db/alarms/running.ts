import { announce } from '../changes'
import { askDirectory, type ShopTx } from '../connection'

/** What goes on in a running recovery, as it was judged last. */
export interface Running {
  /** Of a pull, as the judge names it. */
  code: string
  kgPerS: number | null
  /** What has come in this pull, mg. */
  movedMg: number
  /** What should come in all; null: nobody knows. */
  expectedMg: number | null
  /** How full the cylinder is, as a share of its limit. */
  share: number | null
  cylinder: string
  /** Time left, s: a range, open where it has no most. */
  leastS: number | null
  mostS: number | null
}

export interface RunningJob extends Running {
  jobId: string
  number: number
  title: string
  refrigerant: string | null
  judgedAt: Date
}

interface JobWithClocks {
  shopId: string
  jobId: string
  lastSeq: number
}

/** In all shops: the jobs in which something runs against the clock. */
export async function runningEverywhere(): Promise<JobWithClocks[]> {
  return askDirectory((sql) => sql<JobWithClocks[]>`select shop_id, job_id, last_seq from jobs_with_clocks()`)
}

/** Keeps what goes on; others are told where it is something else than before. */
export async function keepRunning(
  tx: ShopTx,
  jobId: string,
  transferId: string,
  running: Running,
  now: Date,
): Promise<void> {
  const [before] = await tx<{ code: string }[]>`
    select running ->> 'code' as code from job_running where job_id = ${jobId} and transfer_id = ${transferId}`
  await tx`
    insert into job_running (shop_id, job_id, transfer_id, judged_at, running)
    values (current_shop(), ${jobId}, ${transferId}, ${now}, ${tx.json(running as never)})
    on conflict (shop_id, job_id) do update set transfer_id = excluded.transfer_id, judged_at = excluded.judged_at,
      running = excluded.running`
  if (before?.code !== running.code) await announce(tx, { kind: 'alarm', id: jobId })
}

/** Nothing goes on any more. */
export async function forgetRunning(tx: ShopTx, jobId: string): Promise<void> {
  await tx`delete from job_running where job_id = ${jobId}`
}

/** Recoveries that run in the shop, the newest first. */
export async function runningJobs(tx: ShopTx): Promise<RunningJob[]> {
  const rows = await tx<(Omit<RunningJob, keyof Running> & { running: Running })[]>`
    select r.job_id, r.judged_at, r.running, j.number, m.refrigerant,
      coalesce(nullif(m.title, ''), y.name, '') as title
    from job_running r join job j on j.shop_id = r.shop_id and j.job_id = r.job_id
      join job_summary m on m.shop_id = r.shop_id and m.job_id = r.job_id
      left join system y on y.shop_id = m.shop_id and y.system_id = m.system_id
    where m.clocks <> '[]' and m.status = 'open'
    order by m.last_at desc limit 20`
  return rows.map(({ running, ...row }) => ({ ...row, ...running }))
}
