import { worse } from '#core/cylinders'
import { differences } from '#core/ledger'
import {
  bookings,
  type CylinderEffect,
  cylinderEffects,
  firstGross,
  FOLD_VERSION,
  type JobState,
  reservations,
} from '#core/tape'
import { seeAlarms } from '../alarms/alarms'
import { announce } from '../changes'
import type { ShopTx } from '../connection'
import type { CylinderRow } from '../cylinders'
import { keepUses } from '../kit/uses'
import { keepOil } from '../oil/keep'
import { keepProgrammes } from '../programmes/keep'
import { keepJobKit } from '../samples/keep'
import { book, bookedFor, booksBeside } from '../ledger/movements'
import { keepRetrofit } from './retrofits'
import { summarise } from './summary'
import { stateOf } from './tape'

/**
 * Brings books, cylinders, summary and reservations to what a tape says. The caller holds its locks.
 * @param mark also what it makes of the cylinders; not where nothing new was written: they were marked then, and may
 * have been judged or freed since
 */
export async function settle(
  tx: ShopTx,
  job: { jobId: string; lastSeq: number; userId: string; now: Date },
  state: JobState,
  { mark = true } = {},
): Promise<void> {
  const { jobId, lastSeq, userId, now } = job
  const changedFrom = await bookJob(tx, jobId, state, userId, now)
  if (mark) {
    await markCylinders(tx, jobId, state)
    await markWeighedOff(tx, jobId, state)
    await keepPlate(tx, jobId, state)
    await keepRetrofit(tx, jobId, state)
  }
  await keepUses(tx, jobId, state)
  await keepOil(tx, jobId, state)
  await keepProgrammes(tx, jobId, state)
  await keepJobKit(tx, jobId, state)
  await summarise(tx, jobId, state, lastSeq)
  await seeAlarms(tx, jobId, state.acknowledged)
  await reserve(tx, jobId, state)
  if (changedFrom !== undefined)
    for (const systemId of state.named.systems)
      await bookBeside(tx, jobId, systemId, changedFrom, userId, now)
}

/** @returns the earliest time that was booked differently, where anything was */
async function bookJob(
  tx: ShopTx,
  jobId: string,
  state: JobState,
  userId: string,
  now: Date,
): Promise<number | undefined> {
  const beside = state.systemId ? await booksBeside(tx, state.systemId, jobId) : undefined
  // Read anew: another job on the same system may have booked for this one while it waited for the system's lock.
  const due = differences(await bookedFor(tx, jobId), bookings(state, beside))
  await book(tx, { jobId }, due, userId, now)
  return due.length > 0 ? Math.min(...due.map((each) => each.at)) : undefined
}

/** More rounds than jobs that can sensibly overlap; each only moves what lies later in time. */
const MOST_ROUNDS = 60

/**
 * What was in a system at a time depends on everything booked before it: other jobs on it that go on after a change are
 * booked again, until nothing changes any more.
 */
async function bookBeside(
  tx: ShopTx,
  jobId: string,
  systemId: string,
  changedFrom: number,
  userId: string,
  now: Date,
): Promise<void> {
  const due: { jobId: string; from: number }[] = await othersAfter(tx, systemId, jobId, changedFrom)
  for (let round = 0; due.length > 0 && round < MOST_ROUNDS; round++) {
    const next = due.shift()!
    const changed = await bookJob(tx, next.jobId, await stateOf(tx, next.jobId), userId, now)
    if (changed === undefined) continue
    await announce(tx, { kind: 'job', id: next.jobId })
    for (const other of await othersAfter(tx, systemId, next.jobId, changed))
      if (!due.some((each) => each.jobId === other.jobId)) due.push(other)
  }
}

/** Those that another version of the fold has made come to their turn by themselves. */
async function othersAfter(tx: ShopTx, systemId: string, jobId: string, from: number) {
  const rows = await tx<{ jobId: string }[]>`
    select job_id from job_summary
    where system_id = ${systemId} and job_id <> ${jobId} and last_at >= ${new Date(from)}
      and fold_version = ${FOLD_VERSION}
    order by opened_at, job_id`
  return rows.map((row) => ({ jobId: row.jobId, from }))
}

/** A plate that was read in a job stays with its system, where nobody has entered one; what is corrected follows. */
async function keepPlate(tx: ShopTx, jobId: string, { plate, systemId }: JobState) {
  await tx`
    update system set plate_mg = null, plate_text = '', plate_job = null
    where plate_job = ${jobId} and ${plate === null || systemId === null ? tx`true` : tx`system_id <> ${systemId}`}`
  if (!plate || !systemId) return
  await tx`
    update system set plate_mg = ${plate.massMg}, plate_text = ${plate.text}, plate_job = ${jobId}
    where system_id = ${systemId} and panel_total_mg is null and (plate_mg is null or plate_job = ${jobId})
      and (plate_mg, plate_text) is distinct from (${plate.massMg}::bigint, ${plate.text}::text)`
}

interface Mark {
  cylinderId: string
  wasRefrigerant: string | null
  wasCondition: CylinderRow['condition']
  madeRefrigerant: string | null
  madeCondition: CylinderRow['condition']
}

/**
 * Marks the cylinders that a tape used. What this job made of them before is taken back first, where nobody has changed
 * them since: a cylinder that was named by mistake loses the mark that the mistake gave it.
 */
async function markCylinders(tx: ShopTx, jobId: string, state: JobState) {
  const marks = await tx<Mark[]>`
    select cylinder_id, was_refrigerant, was_condition, made_refrigerant, made_condition
    from cylinder_mark where job_id = ${jobId}`
  const ids = [
    ...new Set([
      ...state.transfers.map((each) => each.cylinderId),
      ...Object.keys(state.gas),
      ...marks.map((mark) => mark.cylinderId),
    ]),
  ]
  if (ids.length === 0) return
  const rows = await tx<
    (Pick<CylinderRow, 'cylinderId' | 'refrigerant' | 'condition'> & { shared: boolean; judged: boolean })[]
  >`
    select c.cylinder_id, c.refrigerant, c.condition, exists (
        select 1 from movement m where m.to_cylinder = c.cylinder_id and m.job_id <> ${jobId}
          and m.booked_at >= (select min(o.booked_at) from movement o where o.job_id = ${jobId} and o.to_cylinder = c.cylinder_id)
      ) as shared, exists (
        select 1 from voucher v where v.kind in ('judge', 'recondition')
          and v.body->>'cylinderId' = c.cylinder_id::text
          and v.booked_at > (select max(o.booked_at) from movement o
            where o.job_id = ${jobId} and c.cylinder_id in (o.to_cylinder, o.from_cylinder))
      ) as judged
    from cylinder c where c.cylinder_id in ${tx(ids)}`
  const before = new Map(
    rows.map((row) => {
      const mark = marks.find((each) => each.cylinderId === row.cylinderId)
      const ours =
        mark &&
        !row.shared &&
        !row.judged &&
        mark.madeRefrigerant === row.refrigerant &&
        mark.madeCondition === row.condition
      return [row.cylinderId, ours ? { refrigerant: mark.wasRefrigerant, condition: mark.wasCondition } : row]
    }),
  )
  const effects = new Map(cylinderEffects(state, before).map((effect) => [effect.cylinderId, effect]))
  for (const row of rows) {
    const was = before.get(row.cylinderId)!
    // A person has judged or freed it since this job last moved gas: only what is judged here counts any more.
    const effect = row.judged ? judgedHere(state, row) : effects.get(row.cylinderId)
    const made = {
      refrigerant: effect?.refrigerant ?? was.refrigerant,
      condition: effect?.condition ? worse(effect.condition, was.condition) : was.condition,
    }
    if (made.refrigerant !== row.refrigerant || made.condition !== row.condition)
      await tx`update cylinder set ${tx(made, 'refrigerant', 'condition')} where cylinder_id = ${row.cylinderId}`
    if (effect)
      await tx`
        insert into cylinder_mark (shop_id, job_id, cylinder_id, was_refrigerant, was_condition, made_refrigerant, made_condition)
        values (current_shop(), ${jobId}, ${row.cylinderId}, ${was.refrigerant}, ${was.condition}, ${made.refrigerant},
          ${made.condition})
        on conflict (shop_id, job_id, cylinder_id) do update set was_refrigerant = excluded.was_refrigerant,
          was_condition = excluded.was_condition, made_refrigerant = excluded.made_refrigerant,
          made_condition = excluded.made_condition`
    else await tx`delete from cylinder_mark where job_id = ${jobId} and cylinder_id = ${row.cylinderId}`
  }
}

/**
 * What scale and books differ by stays marked on the cylinder: the newest comparison counts, whichever job made it. One
 * that was struck goes with it.
 */
async function markWeighedOff(tx: ShopTx, jobId: string, state: JobState) {
  const found = firstGross(state)
  await tx`
    update cylinder set weighed_gross_mg = null, weighed_job = null
    where weighed_job = ${jobId} and not (cylinder_id = any(${found.map((each) => each.cylinderId)}::uuid[]))`
  for (const { cylinderId, at, grossMg } of found) {
    const when = new Date(at)
    await tx`
      update cylinder set weighed_gross_mg = ${grossMg}, weighed_at = ${when}, weighed_job = ${jobId}
      where cylinder_id = ${cylinderId} and (weighed_at is null or weighed_job = ${jobId} or weighed_at < ${when})
        and (weighed_gross_mg, weighed_at, weighed_job) is distinct from
          (${grossMg}::bigint, ${when}::timestamptz, ${jobId}::uuid)`
    // As far as a scale can tell they agree: nothing to mark.
    await tx`
      update cylinder c set weighed_gross_mg = null
      where cylinder_id = ${cylinderId} and weighed_job = ${jobId} and weighed_gross_mg is not null
        and weighed_off(c) = 0`
  }
}

/** What the tape judges a cylinder's gas to be, where that is worse than it is marked. */
function judgedHere(
  state: JobState,
  { cylinderId, condition }: Pick<CylinderRow, 'cylinderId' | 'condition'>,
): CylinderEffect | undefined {
  const judged = state.gas[cylinderId]
  const worst = judged && worse(judged, condition)
  return worst && worst !== condition ? { cylinderId, condition: worst } : undefined
}

async function reserve(tx: ShopTx, jobId: string, state: JobState) {
  await tx`delete from reservation where job_id = ${jobId}`
  for (const { cylinderId, roomMg } of reservations(state))
    await tx`
      insert into reservation (shop_id, job_id, cylinder_id, room_mg)
      values (current_shop(), ${jobId}, ${cylinderId}, ${roomMg})`
}
