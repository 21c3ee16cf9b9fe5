import type { Booking, KnownBy, Place, PlaceKind } from '#core/ledger'
import { place } from '#core/ledger'
import type { BooksBeside } from '#core/tape'
import type { ShopTx } from '../connection'
import { knowTheWhole } from './known'
import { ofPart, type SheetPart } from './sheet'

interface MovementColumns {
  booking: string
  at: Date
  fromPlace: PlaceKind
  fromCylinder: string | null
  fromSystem: string | null
  fromKit: string | null
  toPlace: PlaceKind
  toCylinder: string | null
  toSystem: string | null
  toKit: string | null
  refrigerant: string | null
  massMg: number
  knownBy: KnownBy
  uncertaintyMg: number
}

/** Appends movements of a job or of a voucher. */
export async function book(
  tx: ShopTx,
  behind: { jobId: string } | { voucherId: string },
  movements: Booking[],
  userId: string,
  bookedAt: Date,
): Promise<void> {
  if (movements.length === 0) return
  const idAt = (p: Place, kind: PlaceKind) => (p.kind === kind ? p.id : null)
  const rows = movements.map((m) => ({
    at: new Date(m.at).toISOString(),
    booking: m.key,
    from_place: m.from.kind,
    from_cylinder: idAt(m.from, 'cylinder'),
    from_system: idAt(m.from, 'system'),
    from_kit: idAt(m.from, 'rig'),
    to_place: m.to.kind,
    to_cylinder: idAt(m.to, 'cylinder'),
    to_system: idAt(m.to, 'system'),
    to_kit: idAt(m.to, 'rig'),
    refrigerant: m.refrigerant,
    mass_mg: m.massMg,
    known_by: m.knownBy,
    uncertainty_mg: m.uncertaintyMg,
  }))
  await tx`
    insert into movement (shop_id, movement_id, booked_at, user_id, job_id, voucher_id, at, booking, from_place,
      from_cylinder, from_system, from_kit, to_place, to_cylinder, to_system, to_kit, refrigerant, mass_mg, known_by,
      uncertainty_mg)
    select current_shop(), gen_random_uuid(), ${bookedAt}, ${userId}, ${'jobId' in behind ? behind.jobId : null}::uuid,
      ${'voucherId' in behind ? behind.voucherId : null}::uuid, r.*
    from jsonb_to_recordset(${tx.json(rows as never)}) as r(at timestamptz, booking text, from_place text,
      from_cylinder uuid, from_system uuid, from_kit uuid, to_place text, to_cylinder uuid, to_system uuid, to_kit uuid,
      refrigerant text,
      mass_mg bigint, known_by text, uncertainty_mg bigint)`
}

/** What is booked for a job. */
export async function bookedFor(tx: ShopTx, jobId: string): Promise<Booking[]> {
  const rows = await tx<MovementColumns[]>`
    select booking, at, from_place, from_cylinder, from_system, from_kit, to_place, to_cylinder, to_system, to_kit,
      refrigerant, mass_mg,
      known_by, uncertainty_mg
    from movement where job_id = ${jobId} order by nr`
  return rows.map((row) => ({
    key: row.booking,
    at: row.at.getTime(),
    from: place(row.fromPlace, row.fromCylinder ?? row.fromSystem ?? row.fromKit),
    to: place(row.toPlace, row.toCylinder ?? row.toSystem ?? row.toKit),
    refrigerant: row.refrigerant,
    massMg: row.massMg,
    knownBy: row.knownBy,
    uncertaintyMg: row.uncertaintyMg,
  }))
}

/** What the books say of a system apart from one job. */
export async function booksBeside(tx: ShopTx, systemId: string, jobId: string): Promise<BooksBeside> {
  const rows = await tx<
    { at: Date; massMg: number; fromPlace: PlaceKind; toPlace: PlaceKind; into: boolean }[]
  >`
    select at, mass_mg, from_place, to_place, to_system is not distinct from ${systemId} as into
    from movement
    where (to_system = ${systemId} or from_system = ${systemId}) and job_id is distinct from ${jobId}
    order by at, nr`
  let lost: BooksBeside['lost'] = []
  for (const { at, massMg, fromPlace, toPlace, into } of rows) {
    if (toPlace === 'lost') lost.push({ at: at.getTime(), massMg })
    // Taken back by another job; or moved back by a correction.
    else if (fromPlace === 'lost') lost = less(lost, massMg)
    // Gas that goes in is new: what was lost before is gone.
    else if (into && fromPlace === 'cylinder') lost = []
  }
  return {
    others: rows.map(({ at, massMg, into }) => ({ at: at.getTime(), changeMg: into ? massMg : -massMg })),
    lost,
  }
}

function less(lost: BooksBeside['lost'], massMg: number): BooksBeside['lost'] {
  let leftMg = massMg
  return lost.flatMap((each) => {
    const takenMg = Math.min(leftMg, each.massMg)
    leftMg -= takenMg
    return each.massMg > takenMg ? [{ ...each, massMg: each.massMg - takenMg }] : []
  })
}

/**
 * What the books had in a system before a time, this job's own movements left out, mg.
 * @returns whole: false where they know only what they have themselves: no job before had emptied it, or one since has topped
 * it up, which says that it had lost something
 */
export async function systemBefore(
  tx: ShopTx,
  systemId: string,
  jobId: string,
  before: Date,
): Promise<{ massMg: number; whole: boolean }> {
  const earlier = (job: 'e' | 't') => tx`${tx(job)}.job_id <> ${jobId} and ${tx(job)}.opened_at < ${before}`
  const [row] = await tx<{ massMg: number; whole: boolean }[]>`
    select coalesce(sum(case when to_system = ${systemId} then mass_mg else 0 end
      - case when from_system = ${systemId} then mass_mg else 0 end), 0)::bigint as mass_mg,
      ${knowTheWhole(tx, tx`${systemId}::uuid`, earlier)} as whole
    from movement
    where (to_system = ${systemId} or from_system = ${systemId}) and job_id is distinct from ${jobId} and at < ${before}`
  return row!
}

/** When anybody charged a system last, before a job; null: the books know of none. */
export async function lastCharged(
  tx: ShopTx,
  systemId: string,
  jobId: string,
  before: Date,
): Promise<Date | null> {
  const [row] = await tx<{ at: Date | null }[]>`
    select max(at) as at from movement
    where to_system = ${systemId} and from_cylinder is not null and job_id is distinct from ${jobId} and at < ${before}`
  return row!.at
}

/** Numbers of the other jobs that moved gas in or out of a cylinder in a time. */
export async function jobsWithCylinder(
  tx: ShopTx,
  cylinderId: string,
  jobId: string,
  from: Date,
  to: Date,
): Promise<number[]> {
  const rows = await tx<{ number: number }[]>`
    select distinct j.number from movement m join job j on j.shop_id = m.shop_id and j.job_id = m.job_id
    where (m.to_cylinder = ${cylinderId} or m.from_cylinder = ${cylinderId}) and m.job_id <> ${jobId} and m.at between ${from} and ${to}
    order by j.number limit 20`
  return rows.map((row) => row.number)
}

/** What each cylinder has gained from a job so far, mg. */
export async function cylinderGains(tx: ShopTx, jobId: string): Promise<Map<string, number>> {
  const rows = await tx<{ cylinderId: string; massMg: number }[]>`
    select cylinder_id, sum(mass_mg)::bigint as mass_mg from (
      select to_cylinder as cylinder_id, mass_mg from movement where job_id = ${jobId} and to_cylinder is not null
      union all
      select from_cylinder, -mass_mg from movement where job_id = ${jobId} and from_cylinder is not null) m
    group by cylinder_id`
  return new Map(rows.map((r) => [r.cylinderId, r.massMg]))
}

/** A movement with the words that a person needs to read it. */
export interface MovementRow extends MovementColumns {
  movementId: string
  nr: number
  bookedAt: Date
  jobId: string | null
  jobNumber: number | null
  voucherKind: string | null
  voucherText: string | null
  fromLabel: string | null
  toLabel: string | null
  by: string
}

export interface LedgerFilter {
  cylinderId?: string
  systemId?: string
  kitId?: string
  jobId?: string
  refrigerant?: string
  /** First day, included. */
  from?: Date
  /** Up to here, excluded. */
  to?: Date
  /** What a figure of the month sheet is made of. */
  part?: SheetPart
}

const matching = (
  tx: ShopTx,
  { cylinderId, systemId, kitId, jobId, refrigerant, from, to, part }: LedgerFilter,
) => tx`
      ${cylinderId ? tx`and (m.from_cylinder = ${cylinderId} or m.to_cylinder = ${cylinderId})` : tx``}
      ${systemId ? tx`and (m.from_system = ${systemId} or m.to_system = ${systemId})` : tx``}
      ${kitId ? tx`and (m.from_kit = ${kitId} or m.to_kit = ${kitId})` : tx``}
      ${jobId ? tx`and m.job_id = ${jobId}` : tx``}
      ${refrigerant ? tx`and m.refrigerant = ${refrigerant}` : tx``}
      ${from ? tx`and m.at >= ${from}` : tx``} ${to ? tx`and m.at < ${to}` : tx``}
      ${part ? tx`and ${ofPart(tx, part)}` : tx``}`

/** How many movements there are, and what they put into cylinders and took out of them, mg. */
export async function movementSums(
  tx: ShopTx,
  filter: LedgerFilter,
): Promise<{ count: number; intoMg: number; outMg: number }> {
  const [sums] = await tx<{ count: number; intoMg: number; outMg: number }[]>`
    select count(*) as count,
      coalesce(sum(m.mass_mg) filter (where m.to_place = 'cylinder'), 0)::bigint as into_mg,
      coalesce(sum(m.mass_mg) filter (where m.from_place = 'cylinder'), 0)::bigint as out_mg
    from movement m where true ${matching(tx, filter)}`
  return sums!
}

/** Movements, the newest first. @param before key of the last row of the page before */
export async function movements(
  tx: ShopTx,
  filter: LedgerFilter,
  limit: number,
  before?: { at: Date; nr: number },
): Promise<MovementRow[]> {
  return tx<MovementRow[]>`
    select m.movement_id, m.nr, m.at, m.booked_at, m.booking, m.job_id, j.number as job_number, v.kind as voucher_kind,
      v.body->>'text' as voucher_text, m.from_place, m.from_cylinder, m.from_system, m.from_kit, m.to_place,
      m.to_cylinder, m.to_system, m.to_kit, m.refrigerant, m.mass_mg, m.known_by, m.uncertainty_mg, p.display_name as by,
      coalesce(fc.label, fs.name, fk.label) as from_label, coalesce(tc.label, ts.name, tk.label) as to_label
    from movement m
      left join job j on j.shop_id = m.shop_id and j.job_id = m.job_id
      left join voucher v on v.shop_id = m.shop_id and v.voucher_id = m.voucher_id
      left join cylinder fc on fc.shop_id = m.shop_id and fc.cylinder_id = m.from_cylinder
      left join cylinder tc on tc.shop_id = m.shop_id and tc.cylinder_id = m.to_cylinder
      left join system fs on fs.shop_id = m.shop_id and fs.system_id = m.from_system
      left join system ts on ts.shop_id = m.shop_id and ts.system_id = m.to_system
      left join kit fk on fk.shop_id = m.shop_id and fk.kit_id = m.from_kit
      left join kit tk on tk.shop_id = m.shop_id and tk.kit_id = m.to_kit
      join person p on p.shop_id = m.shop_id and p.user_id = m.user_id
    where true ${matching(tx, filter)}
      ${before ? tx`and (m.at, m.nr) < (${before.at}, ${before.nr})` : tx``}
    order by m.at desc, m.nr desc limit ${limit}`
}
