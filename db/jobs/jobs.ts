import type { Clock, JobStatus, NextStep, Stage } from '#core/tape'
import type { ShopTx } from '../connection'
import { lock } from '../locks'

export interface JobHead {
  jobId: string
  number: number
  openedBy: string
  openedAt: Date
}

/** Opens a job; sending it twice opens one. @returns its number */
export async function openJob(tx: ShopTx, jobId: string, userId: string, at: Date): Promise<number> {
  // The shop's row is the counter's lock: numbers have no gaps and are given once.
  await lock(tx, { shop: true })
  const [shop] = await tx<{ nextJobNumber: number }[]>`
    select next_job_number from shop where shop_id = current_shop()`
  const known = await jobHead(tx, jobId)
  if (known) return known.number
  const number = shop!.nextJobNumber
  await tx`update shop set next_job_number = ${number + 1} where shop_id = current_shop()`
  await tx`
    insert into job (shop_id, job_id, number, opened_by, opened_at)
    values (current_shop(), ${jobId}, ${number}, ${userId}, ${at})`
  return number
}

export async function jobHead(tx: ShopTx, jobId: string): Promise<JobHead | undefined> {
  const [job] = await tx<JobHead[]>`
    select job_id, number, opened_by, opened_at from job where job_id = ${jobId}`
  return job
}

/** A job as lists show it: a projection of its tape. */
export interface JobSummary {
  jobId: string
  number: number
  status: JobStatus
  stage: Stage
  next: NextStep
  title: string
  systemId: string | null
  system: string | null
  site: string | null
  customer: string | null
  refrigerant: string | null
  recoveredMg: number
  chargedMg: number
  /** Beyond what came out: what had been lost. */
  addedMg: number
  chargedAt: Date | null
  targetMg: number | null
  waitingFor: string
  flags: string[]
  openedAt: Date
  lastAt: Date
  closedAt: Date | null
}

const SELECT = (tx: ShopTx) => tx`
  select m.job_id, j.number, m.status, m.stage, m.next, m.title, m.system_id, y.name as system, s.name as site,
    c.name as customer, m.refrigerant, m.recovered_mg, m.charged_mg, m.added_mg, m.charged_at, m.target_mg, m.waiting_for, m.flags, m.opened_at,
    m.last_at, m.closed_at
  from job_summary m join job j on j.shop_id = m.shop_id and j.job_id = m.job_id
    left join system y on y.shop_id = m.shop_id and y.system_id = m.system_id
    left join site s on s.shop_id = m.shop_id and s.site_id = y.site_id
    left join customer c on c.shop_id = m.shop_id and c.customer_id = s.customer_id`

/** One job as lists show it. */
export async function jobSummary(tx: ShopTx, jobId: string): Promise<JobSummary | undefined> {
  const [job] = await tx<JobSummary[]>`${SELECT(tx)} where m.job_id = ${jobId}`
  return job
}

/** The jobs in hand, the one touched last first. */
export async function jobsInHand(tx: ShopTx, limit = 60): Promise<JobSummary[]> {
  return tx<JobSummary[]>`
    ${SELECT(tx)} where m.status in ('open', 'waiting') order by m.last_at desc limit ${limit}`
}

/** The jobs closed last. */
export async function jobsFinished(tx: ShopTx, limit: number): Promise<JobSummary[]> {
  return tx<JobSummary[]>`
    ${SELECT(tx)} where m.status = 'closed' order by m.last_at desc limit ${limit}`
}

export interface JobFilter {
  status?: string
  /** Part of a title, a system or a customer, or a number. */
  search?: string
}
export type JobSort = 'lastAt' | 'number'

const JOB_ORDER = {
  lastAt: (tx: ShopTx) => tx`m.last_at`,
  number: (tx: ShopTx) => tx`j.number`,
} satisfies Record<JobSort, (tx: ShopTx) => unknown>

const matching = (tx: ShopTx, { status, search }: JobFilter) => {
  const like = `%${(search ?? '').replace(/[\\%_]/g, '\\$&')}%`
  return tx`
    where true ${status ? tx`and m.status = ${status}` : tx``}
    ${
      search
        ? tx`and (m.title ilike ${like} or y.name ilike ${like} or c.name ilike ${like} or j.number::text = ${search})`
        : tx``
    }`
}

/** One page of all jobs, and how many there are. */
export async function jobPage(
  tx: ShopTx,
  filter: JobFilter,
  page: { number: number; size: number; sort: JobSort; down: boolean },
): Promise<{ jobs: JobSummary[]; count: number }> {
  const [jobs, [total]] = await Promise.all([
    tx<JobSummary[]>`
      ${SELECT(tx)} ${matching(tx, filter)}
      order by ${JOB_ORDER[page.sort](tx)} ${page.down ? tx`desc` : tx`asc`}
      limit ${page.size} offset ${(page.number - 1) * page.size}`,
    filter.search
      ? tx<{ count: number }[]>`select count(*) from (${SELECT(tx)} ${matching(tx, filter)}) found`
      : tx<{ count: number }[]>`
          select count(*) from job_summary m ${filter.status ? tx`where m.status = ${filter.status}` : tx``}`,
  ])
  return { jobs, count: total!.count }
}

/** Jobs by their number, or by a part of their title or system, the latest first. */
export async function findJobs(tx: ShopTx, search: string, limit: number): Promise<JobSummary[]> {
  if (/^\d{1,9}$/.test(search)) return tx<JobSummary[]>`${SELECT(tx)} where j.number = ${Number(search)}`
  const like = `%${search.replace(/[\\%_]/g, '\\$&')}%`
  return tx<JobSummary[]>`
    ${SELECT(tx)} where m.title ilike ${like} or y.name ilike ${like} order by m.last_at desc limit ${limit}`
}

/** The jobs on one system, the latest first. */
export async function jobsOn(tx: ShopTx, systemId: string): Promise<JobSummary[]> {
  return tx<JobSummary[]>`${SELECT(tx)} where m.system_id = ${systemId} order by m.last_at desc limit 200`
}

/** Which jobs in hand count on a cylinder. */
export async function jobsWaitingFor(
  tx: ShopTx,
  cylinderId: string,
): Promise<{ jobId: string; number: number; title: string; roomMg: number }[]> {
  return tx<{ jobId: string; number: number; title: string; roomMg: number }[]>`
    select r.job_id, j.number, coalesce(nullif(m.title, ''), y.name, '') as title, r.room_mg
    from reservation r join job j on j.shop_id = r.shop_id and j.job_id = r.job_id
      join job_summary m on m.shop_id = r.shop_id and m.job_id = r.job_id
      left join system y on y.shop_id = r.shop_id and y.system_id = m.system_id
    where r.cylinder_id = ${cylinderId} order by j.number`
}

/** What runs in jobs against the clock. */
export interface JobClocks {
  jobId: string
  number: number
  title: string
  clocks: Clock[]
}

/** The jobs in which something runs, the one begun last first. */
export async function jobsWithClocks(tx: ShopTx, limit = 20): Promise<JobClocks[]> {
  return tx<JobClocks[]>`
    select m.job_id, j.number, coalesce(nullif(m.title, ''), y.name, '') as title, m.clocks
    from job_summary m join job j on j.shop_id = m.shop_id and j.job_id = m.job_id
      left join system y on y.shop_id = m.shop_id and y.system_id = m.system_id
    where m.clocks <> '[]' order by m.last_at desc limit ${limit}`
}
