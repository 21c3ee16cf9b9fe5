import type { ShopTx } from '../connection'
import { announce } from '../changes'

/** Something that calls, as it was raised. */
export interface RaisedAlarm {
  jobId: string
  cause: string
  code: string
  urgent: boolean
  raisedAt: Date
}

/** One that nobody has seen yet, with the job that it is about. */
export interface UnseenAlarm extends RaisedAlarm {
  number: number
  title: string
  /** Of a job on which this person has written. */
  mine: boolean
}

/** Raises what is not raised yet: doing so twice changes nothing. @returns how many are new */
export async function raiseAlarms(
  tx: ShopTx,
  jobId: string,
  alarms: readonly Omit<RaisedAlarm, 'jobId' | 'raisedAt'>[],
  now: Date,
): Promise<number> {
  if (alarms.length === 0) return 0
  const made = await tx`
    insert into alarm (shop_id, job_id, cause, code, urgent, raised_at)
    select current_shop(), ${jobId}, a.cause, a.code, a.urgent::boolean, ${now}
    from unnest(${alarms.map((each) => each.cause)}::text[], ${alarms.map((each) => each.code)}::text[],
      ${alarms.map((each) => String(each.urgent))}::text[]) a (cause, code, urgent)
    on conflict do nothing returning 1`
  if (made.length > 0) await announce(tx, { kind: 'alarm', id: jobId })
  return made.length
}

/** Causes that were raised in a job already, seen or not. */
export async function raisedIn(tx: ShopTx, jobId: string): Promise<Set<string>> {
  const rows = await tx<{ cause: string }[]>`select cause from alarm where job_id = ${jobId}`
  return new Set(rows.map((row) => row.cause))
}

/** By its tape: what somebody has seen calls no more. */
export async function seeAlarms(
  tx: ShopTx,
  jobId: string,
  seen: Readonly<Record<string, number>>,
): Promise<void> {
  const causes = Object.keys(seen)
  const at = causes.map((cause) => seen[cause]!)
  const changed = await tx`
    update alarm a set seen_at = to_timestamp(v.at / 1000)
    from unnest(${causes}::text[], ${at}::double precision[]) v (cause, at)
    where a.job_id = ${jobId} and a.cause = v.cause and a.seen_at is distinct from to_timestamp(v.at / 1000)
    returning 1`
  if (changed.length > 0) await announce(tx, { kind: 'alarm', id: jobId })
}

const MOST = 20

/** What calls and nobody has seen, in jobs that are not over: what is urgent first, then the newest. */
export async function unseenAlarms(tx: ShopTx, userId: string): Promise<UnseenAlarm[]> {
  return tx<UnseenAlarm[]>`
    select a.job_id, a.cause, a.code, a.urgent, a.raised_at, j.number,
      coalesce(nullif(m.title, ''), y.name, '') as title,
      exists (select 1 from entry e where e.job_id = a.job_id and e.user_id = ${userId}) as mine
    from alarm a join job j on j.shop_id = a.shop_id and j.job_id = a.job_id
      join job_summary m on m.shop_id = a.shop_id and m.job_id = a.job_id
      left join system y on y.shop_id = m.shop_id and y.system_id = m.system_id
    where a.seen_at is null and m.status in ('open', 'waiting')
      -- What was due calls until it was answered.
      and (a.code <> 'hand-wanted' or exists (
        select 1 from programme p where p.job_id = a.job_id and p.ask_id::text = split_part(a.cause, ':', 2)))
      and (a.code <> 'due' or m.clocks @> jsonb_build_array(jsonb_build_object('clockId', split_part(a.cause, ':', 2))))
    order by a.urgent desc, a.raised_at desc limit ${MOST}`
}
