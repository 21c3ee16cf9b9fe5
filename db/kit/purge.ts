import { type Booking, place } from '#core/ledger'
import { announce } from '../changes'
import type { ShopTx } from '../connection'
import { cylinderOf } from '../cylinders'
import { book } from '../ledger/movements'
import { VoucherError } from '../ledger/vouchers'
import { lock } from '../locks'
import { type NewAct, writeAct } from './acts'
import { onePiece } from './kit'

/**
 * What a machine or a hose holds goes into a cylinder of the same gas, or is let go; it is empty then. What the books did
 * not know of comes from `unexplained`.
 * @param act `massMg` and `cylinderId` of its body say what went where; no mass: nothing to speak of
 * @throws VoucherError
 */
export async function bookPurge(tx: ShopTx, act: NewAct & { what: 'purged' }): Promise<void> {
  const { cylinderId, massMg = 0 } = act.body
  await lock(tx, { cylinderIds: cylinderId ? [cylinderId] : [], kitIds: [act.kitId] })
  const piece = await onePiece(tx, act.kitId)
  if (!piece) throw new VoucherError('There is no such kit in this shop.')
  const cylinder = cylinderId ? await cylinderOf(tx, cylinderId) : undefined
  if (cylinderId && (!cylinder || cylinder.retired))
    throw new VoucherError('That cylinder is not in use in this shop: choose another one.')
  if (cylinder && piece.lastGas && cylinder.refrigerant !== piece.lastGas)
    throw new VoucherError(
      `It holds ${piece.lastGas}, ${cylinder.label} ${cylinder.refrigerant ? `holds ${cylinder.refrigerant}` : 'is meant for nothing yet'}: choose a cylinder of ${piece.lastGas}, else both are mixed.`,
    )
  if (!(await writeAct(tx, act))) return
  const refrigerant = piece.lastGas ?? cylinder?.refrigerant ?? null
  const goal = cylinder ? place('cylinder', cylinder.cylinderId) : place('lost')
  const own = place('rig', piece.kitId)
  const knownMg = Math.max(0, Math.min(massMg, piece.balanceMg))
  const moved = (key: string, from: Booking['from'], to: Booking['to'], mass: number): Booking => ({
    key,
    from,
    to,
    massMg: mass,
    refrigerant,
    knownBy: cylinder ? 'weighed' : 'declared',
    uncertaintyMg: cylinder ? 5_000 : Math.round(mass / 2),
    at: act.at.getTime(),
  })
  const due = [
    moved('purge', own, goal, knownMg),
    moved('purge beyond', place('unexplained'), goal, massMg - knownMg),
    // It is empty now: what the books had in it beyond that is not there.
    moved('purge rest', own, place('lost'), piece.balanceMg - knownMg),
  ].filter((each) => each.massMg > 0)
  if (due.length === 0) return
  await tx`
    insert into voucher (shop_id, voucher_id, kind, at, booked_at, user_id, body)
    values (current_shop(), ${act.actId}, 'purge', ${act.at}, ${act.now}, ${act.userId},
      ${tx.json({ kitId: act.kitId, text: act.body.text ?? '', ...(cylinderId && { cylinderId }) } as never)})`
  await book(tx, { voucherId: act.actId }, due, act.userId, act.now)
  if (cylinderId) await announce(tx, { kind: 'cylinder', id: cylinderId })
}
