import {
  booksSay,
  chargeLag,
  clocksOf,
  everEmptied,
  FOLD_VERSION,
  inShort,
  type JobState,
  type Reference,
  runsOn,
  unanswered,
  wholeByPlate,
} from '#core/tape'
import type { ShopTx } from '../connection'
import { systemOf } from '../systems'
import { systemBefore } from '../ledger/movements'

/** Keeps the projection of a tape that lists read. */
export async function summarise(tx: ShopTx, jobId: string, state: JobState, lastSeq: number): Promise<void> {
  const reference = await referenceOf(tx, jobId, state)
  const lag = chargeLag(state)
  const looked = state.leakChecks.at(-1)
  const row = {
    foldVersion: FOLD_VERSION,
    lastSeq,
    ...inShort(state, reference),
    emptied: everEmptied(state),
    runningOn: runsOn(state),
    clocks: tx.json(clocksOf(state, null) as never),
    recheckOn: state.recheck?.on ?? null,
    chargeLagS: lag ? lag.seconds : null,
    chargedBy: lag?.userId ?? null,
    leaksLookedAt: looked === undefined ? null : new Date(looked.at),
    leftOff: tx.json(leftOff(state) as never),
  }
  await tx`
    insert into job_summary (shop_id, job_id, fold_version, last_seq, status, stage, next, title, system_id, refrigerant,
      recovered_mg, charged_mg, added_mg, charged_at, target_mg, waiting_for, flags, emptied, running_on, clocks, opened_at, last_at, closed_at,
      recheck_on, charge_lag_s, charged_by, leaks_looked_at, left_off)
    values (current_shop(), ${jobId}, ${row.foldVersion}, ${row.lastSeq}, ${row.status}, ${row.stage}, ${row.next},
      ${row.title}, ${row.systemId}, ${row.refrigerant}, ${row.recoveredMg}, ${row.chargedMg}, ${row.addedMg}, ${row.chargedAt}, ${row.targetMg},
      ${row.waitingFor}, ${row.flags}, ${row.emptied}, ${row.runningOn}::uuid[], ${row.clocks}, ${row.openedAt}, ${row.lastAt},
      ${row.closedAt}, ${row.recheckOn}, ${row.chargeLagS}, ${row.chargedBy}, ${row.leaksLookedAt}, ${row.leftOff})
    on conflict (shop_id, job_id) do update set ${tx(row)}`
}

/** What books and plate had in its system, where somebody has to say what became of it. */
async function referenceOf(tx: ShopTx, jobId: string, state: JobState): Promise<Reference | undefined> {
  if (!state.systemId || !unanswered(state)) return undefined
  const books = await systemBefore(tx, state.systemId, jobId, new Date(state.openedAt))
  const { massMg, whole } = books
  const system = (await systemOf(tx, state.systemId)) ?? null
  return {
    books: whole ? booksSay(massMg) : null,
    inBooksMg: massMg,
    plate: wholeByPlate({ jobId, system }, state),
  }
}

const leftOff = ({ takenOff }: JobState) =>
  takenOff.flatMap(({ what, leftOff: because, backAt }) =>
    because !== undefined && backAt === undefined ? [{ what, because }] : [],
  )

/** Whether a transfer of another job is running on a cylinder. */
export async function runsElsewhere(tx: ShopTx, cylinderId: string, jobId: string): Promise<boolean> {
  const [row] = await tx`
    select 1 from job_summary where running_on @> ${[cylinderId]}::uuid[] and job_id <> ${jobId} limit 1`
  return row !== undefined
}

/** Cylinders and scales that transfers of other jobs are running on. */
export async function busyElsewhere(tx: ShopTx, jobId?: string): Promise<string[]> {
  const rows = await tx<{ id: string }[]>`
    select distinct c as id from job_summary m, unnest(m.running_on) c
    where m.running_on <> '{}' and m.job_id is distinct from ${jobId ?? null} order by c`
  return rows.map(({ id }) => id)
}

export interface LeftOff {
  jobId: string
  number: number
  name: string
  what: string
  because: string
  /** The day of its close. */
  on: string
}

/** What stayed off at the close of a job, as long as no later one has come to its system. */
export async function leftOffItems(tx: ShopTx, most: number): Promise<LeftOff[]> {
  return tx<LeftOff[]>`
    select m.job_id, j.number, coalesce(s.name, nullif(m.title, ''), 'Job ' || j.number) as name, i.item->>'what' as what,
      i.item->>'because' as because, to_char(m.closed_at, 'YYYY-MM-DD') as on
    from job_summary m join job j using (shop_id, job_id)
      left join system s on s.shop_id = m.shop_id and s.system_id = m.system_id
      cross join lateral jsonb_array_elements(m.left_off) as i(item)
    where m.shop_id = current_shop() and m.left_off <> '[]' and m.status = 'closed'
      and not exists (select 1 from job_summary later where later.shop_id = m.shop_id and later.system_id = m.system_id
        and later.opened_at > m.opened_at)
    order by m.closed_at, j.number limit ${most}`
}

export interface AgainstTheBooks {
  jobId: string
  number: number
  name: string
  /** The day of its last note. */
  on: string
}

/** Jobs with something that was done without signal and stands against the books, until somebody says how it was. */
export async function jobsAgainstTheBooks(tx: ShopTx, most: number): Promise<AgainstTheBooks[]> {
  return tx<AgainstTheBooks[]>`
    select m.job_id, j.number, coalesce(s.name, nullif(m.title, ''), 'Job ' || j.number) as name,
      to_char(m.last_at, 'YYYY-MM-DD') as on
    from job_summary m join job j using (shop_id, job_id)
      left join system s on s.shop_id = m.shop_id and s.system_id = m.system_id
    where m.shop_id = current_shop() and m.flags @> ${['against-the-books']}::text[]
    order by m.last_at, j.number limit ${most}`
}

/** When leaks were last looked for on each system in use, in jobs that are closed: the newest. */
export async function leaksLookedFor(tx: ShopTx): Promise<{ systemId: string; at: Date }[]> {
  return tx`
    select m.system_id, max(m.leaks_looked_at) as at
    from job_summary m join system s on s.shop_id = m.shop_id and s.system_id = m.system_id
    where m.leaks_looked_at is not null and m.status = 'closed' and s.retired_at is null
    group by m.system_id limit 2000`
}

export interface Recheck {
  jobId: string
  number: number
  system: string
  on: string
}

/** Systems to be looked at again for a slow leak, up to a day, where no later job has come to them. */
export async function dueRechecks(tx: ShopTx, upTo: string, most: number): Promise<Recheck[]> {
  return tx<Recheck[]>`
    select m.job_id, j.number, s.name as system, to_char(m.recheck_on, 'YYYY-MM-DD') as on
    from job_summary m join job j using (shop_id, job_id) join system s on s.shop_id = m.shop_id and s.system_id = m.system_id
    where m.shop_id = current_shop() and m.recheck_on <= ${upTo}
      and not exists (select 1 from job_summary later where later.shop_id = m.shop_id and later.system_id = m.system_id
        and later.opened_at > m.opened_at)
    order by m.recheck_on, j.number limit ${most}`
}
