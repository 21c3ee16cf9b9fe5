import { brimfulMg, type Condition, type LeftIn } from '#core/cylinders'
import type { Booking } from '#core/ledger'
import { place } from '#core/ledger'
import { announce } from '../changes'
import type { ShopTx } from '../connection'
import { type CylinderRow, cylinderOf } from '../cylinders'
import { lock } from '../locks'
import { book } from './movements'

export type VoucherKind =
  | 'opening'
  | 'purchase'
  | 'shipment'
  | 'reweigh'
  | 'retire'
  | 'recondition'
  | 'judge'
  | 'explain'
  | 'purge'
  | 'prepare'
  | 'decant'

export interface VoucherRequest {
  /** Made in the browser: sending it twice books once. */
  voucherId: string
  cylinderId: string
  at: Date
  now: Date
  userId: string
  /** Free words: supplier, papers, reason. */
  text: string
  /** With which state of the cylinder its page was opened; undefined: whatever it is now. */
  version?: number
}

/** The cylinder's state does not allow it; the text says what to do. */
export class VoucherError extends Error {
  override name = 'VoucherError'
}

export const SCALE_SIGMA_MG = 5_000
const DECLARED_SIGMA_MG = 50_000

/** Gas bought into a cylinder, or there when its records begin. */
export async function bookArrival(
  tx: ShopTx,
  request: VoucherRequest & { kind: 'opening' | 'purchase'; massMg: number },
): Promise<void> {
  await once(tx, request.kind, request, { massMg: request.massMg }, (cylinder) => {
    if (!cylinder.refrigerant)
      throw new VoucherError('This cylinder has no refrigerant yet: set it first, then book what is in it.')
    refuseBeyondBrim(cylinder, cylinder.tareMg + cylinder.balanceMg + request.massMg)
    const from = request.kind === 'purchase' ? place('supplier') : place('outside')
    return [
      moved(request, cylinder, from, place('cylinder', cylinder.cylinderId), request.massMg, 'declared'),
    ]
  })
}

/** All or part of a cylinder's gas goes to the reclaimer. */
export async function bookShipment(tx: ShopTx, request: VoucherRequest & { massMg: number }): Promise<void> {
  await once(tx, 'shipment', request, { massMg: request.massMg }, (cylinder) => {
    if (request.massMg > cylinder.balanceMg)
      throw new VoucherError(
        'That is more than the books have in this cylinder: re-weigh it first, then ship.',
      )
    return [
      moved(
        request,
        cylinder,
        place('cylinder', cylinder.cylinderId),
        place('reclaimer'),
        request.massMg,
        'weighed',
      ),
    ]
  })
}

/** A cylinder weighed again: the books follow the scale, the difference stays visible as unexplained. */
export async function bookReweigh(tx: ShopTx, request: VoucherRequest & { grossMg: number }): Promise<void> {
  await once(tx, 'reweigh', request, { grossMg: request.grossMg }, async (cylinder) => {
    const contentsMg = request.grossMg - cylinder.tareMg
    refuseBeyondBrim(cylinder, request.grossMg)
    if (contentsMg < -SCALE_SIGMA_MG * 10)
      throw new VoucherError(
        'That is less than the empty cylinder weighs: check the scale and the stamped tare.',
      )
    await agree(tx, cylinder.cylinderId, request.at)
    const differenceMg = Math.max(0, contentsMg) - cylinder.balanceMg
    if (differenceMg === 0) return []
    const own = place('cylinder', cylinder.cylinderId)
    const [from, to] = differenceMg > 0 ? [place('unexplained'), own] : [own, place('unexplained')]
    return [moved(request, cylinder, from, to, Math.abs(differenceMg), 'weighed')]
  })
}

/** @throws VoucherError for what no cylinder of its size can weigh, whoever says so */
function refuseBeyondBrim(cylinder: CylinderRow, grossMg: number) {
  const mostMg = brimfulMg(cylinder)
  if (mostMg !== undefined && grossMg > mostMg)
    throw new VoucherError(
      'Filled to the brim it would weigh less than that: look at the digits, the point and the unit, and at its water capacity.',
    )
}

/** Scale and books are said to agree from a time on: what an older start saw says nothing any more. */
async function agree(tx: ShopTx, cylinderId: string, at: Date) {
  await tx`
    update cylinder set weighed_gross_mg = null, weighed_job = null, weighed_at = ${at}
    where cylinder_id = ${cylinderId}`
}

/**
 * Why scale and books did not agree: a hose that pulled, another collar. The books stay as they are.
 * @throws VoucherError without a reason
 */
export async function bookExplanation(tx: ShopTx, request: VoucherRequest): Promise<void> {
  if (request.text.trim() === '') throw new VoucherError('Write why: others reckon with what is in it.')
  await once(tx, 'explain', request, {}, async (cylinder) => {
    await agree(tx, cylinder.cylinderId, request.at)
    return []
  })
}

/** A cylinder goes out of use; what is still in it goes where `rest` says. */
export async function bookRetirement(
  tx: ShopTx,
  request: VoucherRequest & { rest: 'reclaimer' | 'lost' },
): Promise<void> {
  await once(tx, 'retire', request, { rest: request.rest }, async (cylinder) => {
    await refuseWhileReserved(tx, cylinder)
    await tx`update cylinder set retired_at = ${request.at} where cylinder_id = ${cylinder.cylinderId}`
    return restOf(request, cylinder, request.rest)
  })
}

/** An emptied, evacuated cylinder becomes free for another refrigerant. Its pressure rating is checked when it is chosen. */
export async function bookRecondition(tx: ShopTx, request: VoucherRequest): Promise<void> {
  await once(tx, 'recondition', request, {}, async (cylinder) => {
    await refuseWhileReserved(tx, cylinder)
    if (cylinder.balanceMg > 0)
      throw new VoucherError('The books still have gas in it: ship or re-weigh it first, then evacuate it.')
    if (cylinder.kind === 'one-way')
      throw new VoucherError('A one-way cylinder is never used again: retire it instead.')
    await tx`update cylinder set refrigerant = null, condition = 'clean' where cylinder_id = ${cylinder.cylinderId}`
    return []
  })
}

/**
 * What a cylinder holds is judged anew, better or worse, with the reason for it. It is the only way in which a marking
 * becomes better.
 * @throws VoucherError without a reason
 */
export async function bookJudgement(
  tx: ShopTx,
  request: VoucherRequest & { condition: Condition },
): Promise<void> {
  if (request.text.trim() === '')
    throw new VoucherError('Write how it was found out: others rely on what is marked here.')
  await once(tx, 'judge', request, { condition: request.condition }, async (cylinder) => {
    await tx`update cylinder set condition = ${request.condition} where cylinder_id = ${cylinder.cylinderId}`
    return []
  })
}

export interface Judgement {
  condition: Condition
  text: string
  at: Date
  by: string
}

/** The last time that what a cylinder holds was judged by such an act. */
export async function lastJudgement(tx: ShopTx, cylinderId: string): Promise<Judgement | undefined> {
  const [row] = await tx<Judgement[]>`
    select v.body->>'condition' as condition, v.body->>'text' as text, v.at, p.display_name as by
    from voucher v join person p on p.shop_id = v.shop_id and p.user_id = v.user_id
    where v.kind = 'judge' and v.body->>'cylinderId' = ${cylinderId} order by v.at desc limit 1`
  return row
}

/**
 * A cylinder made ready for gas: kit proved, pulled, valves shut first, weighed empty; how it was left stays on its card.
 * @throws VoucherError while the books have gas in it
 */
export async function bookPreparation(
  tx: ShopTx,
  request: VoucherRequest & { provedPa: number; pulledPa: number; weighedMg: number; left: LeftIn },
): Promise<void> {
  const { provedPa, pulledPa, weighedMg, left } = request
  await once(tx, 'prepare', request, { provedPa, pulledPa, weighedMg, left }, (cylinder) => {
    if (cylinder.kind === 'one-way')
      throw new VoucherError('A one-way cylinder is never used again: scrap it instead.')
    if (cylinder.balanceMg > 0)
      throw new VoucherError('The books still have gas in it: ship, decant or re-weigh it first.')
    return []
  })
}

export interface PreparedCylinder {
  at: Date
  left: LeftIn
  weighedMg: number
  provedPa: number
  pulledPa: number
  by: string
}

/** How a cylinder was prepared last, as long as nothing went into it since. */
export async function lastPreparation(tx: ShopTx, cylinderId: string): Promise<PreparedCylinder | undefined> {
  const [row] = await tx<PreparedCylinder[]>`
    select v.at, v.body ->> 'left' as left, (v.body ->> 'weighedMg')::bigint as weighed_mg,
      (v.body ->> 'provedPa')::double precision as proved_pa, (v.body ->> 'pulledPa')::double precision as pulled_pa,
      p.display_name as by
    from voucher v join person p on p.shop_id = v.shop_id and p.user_id = v.user_id
    where v.kind = 'prepare' and v.body ->> 'cylinderId' = ${cylinderId}
      and not exists (select 1 from movement m where m.to_cylinder = ${cylinderId} and m.at > v.at)
    order by v.at desc limit 1`
  return row
}

async function once(
  tx: ShopTx,
  kind: VoucherKind,
  request: VoucherRequest,
  body: Record<string, unknown>,
  movementsFor: (cylinder: CylinderRow) => Booking[] | Promise<Booking[]>,
) {
  const { voucherId, cylinderId, at, now, userId, text } = request
  await lock(tx, { cylinderIds: [cylinderId] })
  const [known] = await tx`select 1 from voucher where voucher_id = ${voucherId}`
  if (known) return
  const cylinder = await cylinderOf(tx, cylinderId)
  if (!cylinder) throw new VoucherError('There is no such cylinder in this shop.')
  if (cylinder.retired) throw new VoucherError('This cylinder is retired: nothing more is booked on it.')
  if (request.version !== undefined && request.version !== cylinder.version)
    throw new VoucherError(
      'Somebody changed this cylinder after you opened its page. Here is what it is now: look at it again, then book.',
    )
  const due = await movementsFor(cylinder)
  await tx`
    insert into voucher (shop_id, voucher_id, kind, at, booked_at, user_id, body)
    values (current_shop(), ${voucherId}, ${kind}, ${at}, ${now}, ${userId},
      ${tx.json({ ...body, cylinderId, text } as never)})`
  await book(tx, { voucherId }, due, userId, now)
  await announce(tx, { kind: 'cylinder', id: cylinderId })
}

async function refuseWhileReserved(tx: ShopTx, cylinder: CylinderRow) {
  const [reserved] = await tx<{ number: number }[]>`
    select j.number from reservation r join job j using (shop_id, job_id)
    where r.cylinder_id = ${cylinder.cylinderId} limit 1`
  if (reserved)
    throw new VoucherError(
      `Job ${reserved.number} counts on this cylinder: close that job or release it there first.`,
    )
}

function restOf(request: VoucherRequest, cylinder: CylinderRow, rest: 'reclaimer' | 'lost'): Booking[] {
  if (cylinder.balanceMg === 0) return []
  const own = place('cylinder', cylinder.cylinderId)
  return cylinder.balanceMg > 0
    ? [moved(request, cylinder, own, place(rest), cylinder.balanceMg, 'declared')]
    : [moved(request, cylinder, place('unexplained'), own, -cylinder.balanceMg, 'computed')]
}

function moved(
  request: VoucherRequest,
  cylinder: CylinderRow,
  from: Booking['from'],
  to: Booking['to'],
  massMg: number,
  knownBy: Booking['knownBy'],
): Booking {
  return {
    key: 'voucher',
    from,
    to,
    massMg,
    refrigerant: cylinder.refrigerant,
    knownBy,
    uncertaintyMg: knownBy === 'weighed' ? SCALE_SIGMA_MG : DECLARED_SIGMA_MG,
    at: request.at.getTime(),
  }
}
