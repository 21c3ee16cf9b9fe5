import Joi from 'joi'
import {
  type AskedReweigh,
  askAboutArrival,
  askAboutReweigh,
  type Condition,
  type LeftIn,
} from '#core/cylinders'
import {
  bookArrival,
  bookExplanation,
  bookJudgement,
  bookPreparation,
  bookRecondition,
  bookRetirement,
  bookReweigh,
  bookShipment,
  type CylinderRow,
  readShop,
  type ShopTx,
  type VoucherRequest,
} from '#db'
import {
  checkForm,
  id,
  measured,
  ownText,
  type Refused,
  refuse,
  text,
  typedIn,
  version,
} from '~/base/form/read.server'
import type { ReadersUnits } from '~/base/ui/measure'

export interface Voucher {
  kind: (typeof KINDS)[number]
  voucherId: string
  version: number
  weight?: number
  /** The weight that was asked about and is so, mg. */
  sure?: number
  /** What was meant instead of it, mg: asked about like any other. */
  meant?: number
  rest?: 'reclaimer' | 'lost'
  condition?: Condition
  text?: string
  proved?: number
  pulled?: number
  left?: LeftIn
}

const KINDS = [
  'reweigh',
  'prepare',
  'purchase',
  'shipment',
  'retire',
  'recondition',
  'judge',
  'explain',
] as const

const NEEDS_WEIGHT: string[] = ['reweigh', 'purchase', 'shipment', 'prepare']
/** More than its books have is never shipped: that is refused, not asked. */
const ASKED_ABOUT: string[] = ['reweigh', 'purchase', 'prepare']

/** Reads one of the short forms of a cylinder. Errors stand under the name of the form's kind. */
export async function readVoucher(
  request: Request,
  reading: ReadersUnits,
): Promise<
  { value: Voucher; again: Refused; refused?: undefined } | { value?: undefined; refused: Refused }
> {
  const typed = await typedIn(request)
  const kind = ownText(typed, 'kind')
  const schema = Joi.object<Voucher>({
    kind: Joi.string()
      .valid(...KINDS)
      .required()
      .messages({ '*': 'This page is out of date: reload it.' }),
    voucherId: id,
    version,
    weight: NEEDS_WEIGHT.includes(kind)
      ? measured('weight', 'what the scale shows', reading).required()
      : Joi.any().strip(),
    rest: Joi.string().valid('reclaimer', 'lost').messages({ '*': 'Choose what becomes of it.' }),
    condition:
      kind === 'judge'
        ? Joi.string()
            .valid('clean', 'used', 'doubtful', 'mixed')
            .required()
            .messages({ '*': 'Choose what it holds.' })
        : Joi.any().strip(),
    proved:
      kind === 'prepare'
        ? measured('vacuum', 'what pump, hoses and gauge reached alone', reading).required()
        : Joi.any().strip(),
    pulled:
      kind === 'prepare'
        ? measured('vacuum', 'what the cylinder was pulled to', reading).required()
        : Joi.any().strip(),
    left:
      kind === 'prepare'
        ? Joi.string().valid('vacuum', 'vapour').required().messages({ '*': 'Choose how it was left.' })
        : Joi.any().strip(),
    sure: ASKED_ABOUT.includes(kind) ? Joi.number().integer() : Joi.any().strip(),
    meant: ASKED_ABOUT.includes(kind) ? Joi.number().integer() : Joi.any().strip(),
    text:
      kind === 'judge'
        ? text('how it was found out', 500).required()
        : kind === 'explain'
          ? text('why they differ', 500).required()
          : text('a remark', 500),
  })
  const form = checkForm(typed, schema)
  if (form.refused)
    return { refused: refuse(typed, { [kind]: Object.values(form.refused.errors).join(' ') }) }
  const { value } = form
  if ((kind === 'purchase' || kind === 'shipment') && value.weight! <= 0)
    return { refused: { typed, errors: { [kind]: 'Enter a weight that is more than nothing.' } } }
  return { value, again: refuse(typed, {}) }
}

/** A weight to look at again before it is booked. */
export class WeightAsked extends Error {
  override name = 'WeightAsked'
  constructor(
    readonly asked: AskedReweigh,
    readonly weightMg: number,
  ) {
    super(asked.code)
  }
}

/** @throws WeightAsked */
async function askFirst(
  tx: ShopTx,
  ask: typeof askAboutReweigh,
  weightMg: number,
  sureMg: number | undefined,
  cylinder: CylinderRow,
) {
  if (sureMg === weightMg) return
  const asked = ask(weightMg, cylinder, (await readShop(tx)).fillMarginPct)
  if (asked) throw new WeightAsked(asked, weightMg)
}

/** Books it. @throws VoucherError, WeightAsked */
export async function bookVoucher(
  tx: ShopTx,
  voucher: Voucher,
  cylinder: CylinderRow,
  common: Omit<VoucherRequest, 'voucherId' | 'cylinderId' | 'text' | 'version'>,
): Promise<void> {
  const { cylinderId } = cylinder
  const request = { ...common, cylinderId, voucherId: voucher.voucherId, text: voucher.text ?? '' }
  // What is decided on what the page shows; a weight is what the scale shows, whatever others did meanwhile.
  const decided = { ...request, version: voucher.version }
  const massMg = voucher.meant ?? voucher.weight ?? 0
  switch (voucher.kind) {
    case 'reweigh':
      await askFirst(tx, askAboutReweigh, massMg, voucher.sure, cylinder)
      return bookReweigh(tx, { ...request, grossMg: massMg })
    case 'prepare':
      await askFirst(tx, askAboutReweigh, massMg, voucher.sure, cylinder)
      return bookPreparation(tx, {
        ...decided,
        weighedMg: massMg,
        provedPa: voucher.proved!,
        pulledPa: voucher.pulled!,
        left: voucher.left!,
      })
    case 'purchase':
      await askFirst(tx, askAboutArrival, massMg, voucher.sure, cylinder)
      return bookArrival(tx, { ...request, kind: 'purchase', massMg })
    case 'shipment':
      return bookShipment(tx, { ...request, massMg })
    case 'retire':
      return bookRetirement(tx, { ...decided, rest: voucher.rest ?? 'reclaimer' })
    case 'recondition':
      return bookRecondition(tx, decided)
    case 'explain':
      return bookExplanation(tx, decided)
    case 'judge':
      return bookJudgement(tx, { ...decided, condition: voucher.condition! })
  }
}
