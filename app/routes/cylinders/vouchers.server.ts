import Joi from 'joi'
import {
  bookArrival,
  bookRecondition,
  bookRetirement,
  bookReweigh,
  bookShipment,
  type ShopTx,
  type VoucherRequest,
} from '#db'
import { id, measured, readForm, type Refused, refuse, text } from '~/form/read.server'
import type { Reading } from '~/ui/measure'

export interface Voucher {
  kind: 'reweigh' | 'purchase' | 'shipment' | 'retire' | 'recondition'
  voucherId: string
  weight?: number
  rest?: 'reclaimer' | 'lost'
  text?: string
}

const NEEDS_WEIGHT: Voucher['kind'][] = ['reweigh', 'purchase', 'shipment']

/** Reads one of the short forms of a cylinder. Errors stand under the name of the form's kind. */
export async function readVoucher(
  request: Request,
  reading: Reading,
): Promise<
  { value: Voucher; again: Refused; refused?: undefined } | { value?: undefined; refused: Refused }
> {
  const copy = await (request.clone() as Request).formData()
  const typed = Object.fromEntries([...copy].map(([k, v]) => [k, String(v)]))
  const kind = typed.kind as Voucher['kind']
  const schema = Joi.object<Voucher>({
    kind: Joi.string().valid('reweigh', 'purchase', 'shipment', 'retire', 'recondition').required(),
    voucherId: id,
    weight: NEEDS_WEIGHT.includes(kind)
      ? measured('weight', 'what the scale shows', reading).required()
      : Joi.any().strip(),
    rest: Joi.string().valid('reclaimer', 'lost'),
    text: text('a remark', 500),
  })
  const form = await readForm(request, schema)
  if (form.refused)
    return { refused: { typed, errors: { [kind]: Object.values(form.refused.errors).join(' ') } } }
  const { value } = form
  if ((kind === 'purchase' || kind === 'shipment') && value.weight! <= 0)
    return { refused: { typed, errors: { [kind]: 'Enter a weight that is more than nothing.' } } }
  return { value, again: refuse(typed, {}) }
}

/** Books it. @throws VoucherError */
export function bookVoucher(
  tx: ShopTx,
  voucher: Voucher,
  common: Omit<VoucherRequest, 'voucherId' | 'text'>,
): Promise<void> {
  const request = { ...common, voucherId: voucher.voucherId, text: voucher.text ?? '' }
  const massMg = voucher.weight ?? 0
  switch (voucher.kind) {
    case 'reweigh':
      return bookReweigh(tx, { ...request, grossMg: massMg })
    case 'purchase':
      return bookArrival(tx, { ...request, kind: 'purchase', massMg })
    case 'shipment':
      return bookShipment(tx, { ...request, massMg })
    case 'retire':
      return bookRetirement(tx, { ...request, rest: voucher.rest ?? 'reclaimer' })
    case 'recondition':
      return bookRecondition(tx, request)
  }
}
