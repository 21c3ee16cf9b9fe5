import { type DecantQuestion, mayDecant } from '#core/cylinders'
import { type Booking, place } from '#core/ledger'
import { announce } from '../changes'
import type { ShopTx } from '../connection'
import { cylinderOf, cylindersOf } from '../cylinders'
import { lock } from '../locks'
import { readShop } from '../shop'
import { busyElsewhere } from '../jobs/summary'
import { book } from '../ledger/movements'
import { SCALE_SIGMA_MG, VoucherError } from '../ledger/vouchers'

export interface DecantRequest {
  /** Made in the browser: sending it twice books once. */
  voucherId: string
  giverId: string
  takerId: string
  massMg: number
  /** What the scale showed before, and which of the two stood on it. */
  before?: { on: 'taker' | 'giver'; grossMg: number }
  /** Opened, marked, and given to the scrap: what is left in it by the books goes with it. */
  scrapped: boolean
  /** What was asked about it, and is so. */
  sure?: readonly DecantQuestion[]
  /** An exercise: vapour out of a one-way cylinder, nothing else. */
  exercise?: boolean
  at: Date
  now: Date
  today: string
  userId: string
  text: string
}

/** Why it may not be, by code: the interface has the words. */
export class DecantRefused extends Error {
  override name = 'DecantRefused'
  constructor(readonly codes: readonly string[]) {
    super(codes.join())
  }
}

/** It was not said to be so. */
export class DecantAsked extends Error {
  override name = 'DecantAsked'
  constructor(readonly code: DecantQuestion) {
    super(code)
  }
}

/**
 * Gas from one cylinder into another, over a scale. What came out of an "empty" beyond its books is unexplained there first.
 * @throws VoucherError, DecantRefused, DecantAsked
 */
export async function bookDecant(tx: ShopTx, request: DecantRequest): Promise<void> {
  const { voucherId, giverId, takerId, massMg, scrapped, sure = [], at, now, today, userId, text } = request
  await lock(tx, { cylinderIds: [giverId, takerId] })
  const [known] = await tx`select 1 from voucher where voucher_id = ${voucherId}`
  if (known) return
  const rows = await cylindersOf(tx, [giverId, takerId])
  const giver = rows.find((each) => each.cylinderId === giverId)
  const taker = rows.find((each) => each.cylinderId === takerId)
  if (!giver || !taker) throw new VoucherError('There is no such cylinder in this shop: choose it again.')
  if (massMg <= 0)
    throw new VoucherError('Nothing went over by these weights: the giver grows lighter, the taker heavier.')
  if (request.exercise && giver.kind !== 'one-way')
    throw new VoucherError('A trainee empties one-way cylinders: somebody else fills from the others.')
  if (scrapped && giver.kind !== 'one-way')
    throw new VoucherError('Only a one-way cylinder is scrapped so: retire the other on its own page.')
  const busy = await busyElsewhere(tx)
  if (busy.includes(giverId) || busy.includes(takerId))
    throw new VoucherError('A job is moving gas with one of them: end that transfer first, or wait for it.')
  const { fillMarginPct: marginPct } = await readShop(tx)
  const { refusals, questions, condition } = mayDecant({
    giver,
    taker,
    massMg,
    today,
    marginPct,
    ...(request.before && { before: request.before }),
  })
  const open = questions.filter((each) => !sure.includes(each))
  // A slip of the hand is asked about before anything is said that rests on it.
  if (open.includes('before-off-the-books')) throw new DecantAsked('before-off-the-books')
  if (refusals.length > 0) throw new DecantRefused(refusals)
  if (open[0]) throw new DecantAsked(open[0])
  const [from, to] = [place('cylinder', giverId), place('cylinder', takerId)]
  const moved = (over: Pick<Booking, 'key' | 'from' | 'to' | 'massMg' | 'knownBy'>): Booking => ({
    refrigerant: giver.refrigerant,
    uncertaintyMg: SCALE_SIGMA_MG,
    at: at.getTime(),
    ...over,
  })
  const beyondMg = massMg - giver.balanceMg
  const leftMg = giver.balanceMg - massMg
  await tx`
    insert into voucher (shop_id, voucher_id, kind, at, booked_at, user_id, body)
    values (current_shop(), ${voucherId}, 'decant', ${at}, ${now}, ${userId},
      ${tx.json({ cylinderId: takerId, giverId, massMg, scrapped, text } as never)})`
  await book(
    tx,
    { voucherId },
    [
      ...(beyondMg > 0
        ? [
            moved({
              key: 'beyond',
              from: place('unexplained'),
              to: from,
              massMg: beyondMg,
              knownBy: 'computed',
            }),
          ]
        : []),
      moved({ key: 'voucher', from, to, massMg, knownBy: 'weighed' }),
      // Its relief disc is open: what was left is gone.
      ...(scrapped && leftMg > 0
        ? [moved({ key: 'rest', from, to: place('lost'), massMg: leftMg, knownBy: 'computed' })]
        : []),
    ],
    userId,
    now,
  )
  await tx`
    update cylinder set refrigerant = coalesce(refrigerant, ${giver.refrigerant}), condition = ${condition}
    where cylinder_id = ${takerId}`
  if (scrapped) await tx`update cylinder set retired_at = ${at} where cylinder_id = ${giverId}`
  await announce(tx, { kind: 'cylinder', id: takerId })
  await announce(tx, { kind: 'cylinder', id: giverId })
}

export interface Decanted {
  at: Date
  giver: string
  massMg: number
  scrapped: boolean
}

/** What a cylinder took from others since a time, the newest first. */
export async function decantedInto(tx: ShopTx, takerId: string, since: Date): Promise<Decanted[]> {
  return tx<Decanted[]>`
    select v.at, c.label as giver, (v.body ->> 'massMg')::bigint as mass_mg,
      (v.body ->> 'scrapped')::boolean as scrapped
    from voucher v join cylinder c on c.shop_id = v.shop_id and c.cylinder_id = (v.body ->> 'giverId')::uuid
    where v.kind = 'decant' and v.body ->> 'cylinderId' = ${takerId} and v.at >= ${since}
    order by v.at desc limit 100`
}

/** Cylinders of this gas, or any while the taker has none, that could give some: one-way ones first. */
export async function givers(tx: ShopTx, takerId: string): Promise<Giver[]> {
  const taker = await cylinderOf(tx, takerId)
  return tx<Giver[]>`
    select cylinder_id, label, kind, refrigerant, condition, balance_mg from cylinder
    where retired_at is null and cylinder_id <> ${takerId} and refrigerant is not null
      and (${taker?.refrigerant ?? null}::text is null or refrigerant = ${taker?.refrigerant ?? null}::text)
    order by kind <> 'one-way', lower(label) limit 300`
}

export interface Giver {
  cylinderId: string
  label: string
  kind: 'recovery' | 'virgin' | 'one-way' | 'station'
  refrigerant: string
  condition: 'clean' | 'used' | 'doubtful' | 'mixed'
  balanceMg: number
}
