import { type ActCode, dueOf, type KitFacts, type KitKind, type LastDone } from '#core/kit'
import { announce } from '../changes'
import type { ShopTx } from '../connection'

/** Something that was done with a piece of kit. Values: mg, Pa, K, mL, hours. */
export interface ActBody {
  known?: number
  read?: number
  massMg?: number
  ml?: number
  hours?: number
  /** purged: into this cylinder; missing: let go. */
  cylinderId?: string
  /** decided: on this transfer, or on all up to then, and how. */
  transferId?: string
  jobId?: string
  how?: 'reweighed' | 'accepted'
  text?: string
}

export interface ActRow {
  actId: string
  what: ActCode
  at: Date
  passed: boolean | null
  body: ActBody
  by: string
  /** Why it was struck; null: it counts. */
  struck: string | null
}

export interface NewAct {
  actId: string
  kitId: string
  what: ActCode
  at: Date
  now: Date
  userId: string
  /** null: nothing to pass. */
  passed: boolean | null
  body: ActBody
}

/** What was done with a piece, the newest first. */
export async function actsOf(tx: ShopTx, kitId: string, limit = 200): Promise<ActRow[]> {
  return tx<ActRow[]>`
    select a.act_id, a.what, a.at, a.passed, a.body, p.display_name as by,
      (select s.body->>'text' from kit_act s
        where s.shop_id = a.shop_id and s.what = 'struck' and s.body->>'actId' = a.act_id::text
        order by s.booked_at limit 1) as struck
    from kit_act a join person p on p.shop_id = a.shop_id and p.user_id = a.user_id
    where a.kit_id = ${kitId} and a.what <> 'struck' order by a.at desc, a.booked_at desc limit ${limit}`
}

/**
 * Writes what was done, and what follows from it for the piece. The caller holds its lock. Sending it twice writes one.
 * @returns whether it is new
 */
export async function writeAct(tx: ShopTx, act: NewAct): Promise<boolean> {
  const [fresh] = await tx`
    insert into kit_act (shop_id, act_id, kit_id, what, at, booked_at, user_id, passed, body)
    values (current_shop(), ${act.actId}, ${act.kitId}, ${act.what}, ${act.at}, ${act.now}, ${act.userId}, ${act.passed},
      ${tx.json(act.body as never)})
    on conflict do nothing returning 1`
  if (!fresh) return false
  await project(tx, act.kitId)
  return true
}

/**
 * Strikes what was written by mistake: it stays there with the reason, and counts no more. Not a purge, which has moved
 * gas. The caller holds the lock of the piece. Sending it twice strikes once.
 * @returns whether there is such an act of this piece
 */
export async function strikeAct(
  tx: ShopTx,
  strike: { strikeId: string; actId: string; kitId: string; now: Date; userId: string; text: string },
): Promise<boolean> {
  const { strikeId, actId, kitId, now, userId, text } = strike
  const [there] = await tx`
    select 1 from kit_act where kit_id = ${kitId} and act_id = ${actId} and what not in ('struck', 'purged')`
  if (!there) return false
  await tx`
    insert into kit_act (shop_id, act_id, kit_id, what, at, booked_at, user_id, body)
    values (current_shop(), ${strikeId}, ${kitId}, 'struck', ${now}, ${now}, ${userId}, ${tx.json({ actId, text })})
    on conflict do nothing`
  await project(tx, kitId)
  return true
}

/** What follows from all that was done with a piece. */
async function project(tx: ShopTx, kitId: string) {
  await projectPurged(tx, [kitId])
  await projectPassed(tx, [kitId])
  await projectFailed(tx, kitId)
  await projectDue(tx, kitId)
  await announce(tx, { kind: 'kit', id: kitId })
}

/** What has gone through filters since they were fitted, from what the jobs say. */
export async function projectPassed(tx: ShopTx, kitIds: string[]): Promise<void> {
  if (kitIds.length === 0) return
  await tx`
    update kit k set passed_mg = coalesce((
        select sum(greatest(u.mass_mg, 0)) from kit_use u
        where u.shop_id = k.shop_id and u.kit_id = k.kit_id and u.use = 'recover' and u.at > coalesce((
          select max(a.at) from kit_done a where a.shop_id = k.shop_id and a.kit_id = k.kit_id and a.what = 'filter-fitted'),
          '-infinity')), 0)::bigint
    where k.kit_id = any(${kitIds}::uuid[]) and k.kind in ('machine', 'station')`
}

/** When it was purged last: by itself in a job, or by an act of its own. */
export async function projectPurged(tx: ShopTx, kitIds: string[]): Promise<void> {
  await tx`
    update kit k set purged_at = greatest(
      (select max(u.purged_at) from kit_use u where u.shop_id = k.shop_id and u.kit_id = k.kit_id),
      (select max(a.at) from kit_done a where a.shop_id = k.shop_id and a.kit_id = k.kit_id and a.what = 'purged'))
    where k.kit_id = any(${kitIds}::uuid[])`
}

export async function projectFailed(tx: ShopTx, kitId: string) {
  await tx`
    update kit k set failed_at = (
      select case when a.passed then null else a.at end from kit_done a
      where a.shop_id = k.shop_id and a.kit_id = k.kit_id and a.passed is not null
      order by a.at desc, a.booked_at desc limit 1)
    where k.kit_id = ${kitId}`
}

/** What is due next by the calendar, days where the shop is. What was not passed is not done. */
export async function projectDue(tx: ShopTx, kitId: string): Promise<void> {
  const [piece] = await tx<{ kind: KitKind; facts: KitFacts; here: string; zone: string }[]>`
    select k.kind, k.facts, (k.created_at at time zone s.time_zone)::date as here, s.time_zone as zone
    from kit k join shop s using (shop_id) where k.kit_id = ${kitId}`
  const { zone } = piece!
  const done = await tx<{ what: ActCode; on: string }[]>`
    select what, max((at at time zone ${zone})::date) as "on" from kit_done
    where kit_id = ${kitId} and passed is distinct from false group by what`
  const last = Object.fromEntries(done.map((each) => [each.what, each.on])) as LastDone
  const ran = piece!.facts.oilHours ? await hoursRun(tx, kitId) : 0
  const [first] = dueOf(piece!.kind, piece!.facts, { last, here: piece!.here, hoursRun: ran })
  await tx`
    update kit set due_on = ${first?.on ?? null}::date, due_what = ${first?.what ?? null} where kit_id = ${kitId}`
}

/** Hours that a pump ran since its oil was changed. */
export async function hoursRun(tx: ShopTx, kitId: string): Promise<number> {
  const [row] = await tx<{ hours: number }[]>`
    select coalesce(sum((a.body->>'hours')::double precision), 0) as hours from kit_done a
    where a.kit_id = ${kitId} and a.what = 'hours-run' and a.at > coalesce((
      select max(o.at) from kit_done o where o.kit_id = ${kitId} and o.what = 'oil-changed'), '-infinity')`
  return row!.hours
}
