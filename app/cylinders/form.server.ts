import Joi from 'joi'
import { looksLikeASizeName, stampDate } from '#core/cylinders'
import type { CylinderData } from '#db'
import {
  measured,
  optionalId,
  readForm,
  type Refused,
  type Typed,
  refrigerantField,
  refuse,
  text,
  ticked,
} from '~/form/read.server'
import { type ReadersUnits, typed as asTyped } from '~/ui/measure'

interface CylinderForm {
  label: string
  kind: CylinderData['kind']
  refrigerant?: string
  tare: number
  waterCapacity?: number
  stampChecked: boolean
  fillingRatio?: number
  ratioGas?: string
  workingFillPct?: number
  servicePressure?: number
  testedOn?: string
  testYears: number
  flammableOk: boolean
  condition: CylinderData['condition']
  ownerCustomerId?: string
  keepsAt?: string
  contents?: number
  gross?: number
}

/** Caps and a worn collar: so much below the tare an empty cylinder may weigh, mg. */
const TARE_SLACK_MG = 50_000

const CONDITIONS: CylinderData['condition'][] = ['clean', 'used', 'doubtful', 'mixed']

/** Those that are no better than it is marked: better is an act of its own, with a reason. */
export const noBetterThan = (condition: CylinderData['condition']) =>
  CONDITIONS.slice(CONDITIONS.indexOf(condition))

const schema = (reading: ReadersUnits, today: string) =>
  Joi.object<CylinderForm>({
    label: text('a label, as it is written on the cylinder', 80).required(),
    kind: Joi.string().valid('recovery', 'virgin', 'one-way', 'station').required(),
    refrigerant: refrigerantField,
    tare: measured('weight', 'the stamped tare weight (TW)', reading).required(),
    waterCapacity: measured('weight', 'the stamped water capacity (WC)', reading),
    stampChecked: ticked,
    fillingRatio: Joi.number().greater(0).less(1.6).empty('').messages({
      '*': 'Enter the stamped filling ratio as a number, such as 0.75, or leave it empty.',
    }),
    ratioGas: refrigerantField,
    workingFillPct: Joi.number().integer().min(10).max(80).empty('').messages({
      '*': 'Enter the working fill in percent, 50 to 60 is usual, or leave it empty.',
    }),
    servicePressure: measured('pressure', 'the stamped service pressure', reading),
    testedOn: Joi.string()
      .trim()
      .max(20)
      .empty('')
      .custom((typed: string, helpers) => {
        const day = stampDate(typed)
        if (day === undefined) return helpers.error('any.only')
        return day <= today ? day : helpers.error('any.invalid')
      })
      .messages({
        '*': 'Enter it by month and year as it is stamped, such as 03/25, or as a day: 2025-03-14.',
        'any.invalid': 'That day has not been yet: enter when it was tested last.',
      }),
    testYears: Joi.number().integer().min(1).max(20).required().messages({
      '*': 'Enter for how many years a test holds: 5 in the United States, commonly 10 in Europe.',
    }),
    flammableOk: ticked,
    condition: Joi.string().valid('clean', 'used', 'doubtful', 'mixed').required(),
    ownerCustomerId: optionalId,
    keepsAt: text('where it is kept', 120),
    contents: measured('weight', 'what is in it', reading),
    gross: measured('weight', 'what the scale shows', reading),
  })

/** Reads the form of a cylinder. A round water capacity is questioned once: it is more often the size in a name. */
export async function readCylinder(
  request: Request,
  reading: ReadersUnits,
  today: string,
): Promise<
  | { data: CylinderData; contentsMg: number; typed: Typed; refused?: undefined }
  | { data?: undefined; typed: Typed; refused: Refused }
> {
  const form = await readForm(request, schema(reading, today))
  const { typed } = form
  if (form.refused) return { typed, refused: form.refused }
  const f = form.value
  const errors: Record<string, string> = {}
  if (f.tare <= 0) errors.tare = 'The tare is more than nothing: read TW on the collar.'
  if (f.waterCapacity !== undefined && f.waterCapacity <= 0)
    errors.waterCapacity = 'The water capacity is more than nothing: read WC on the collar.'
  else if (f.waterCapacity !== undefined && looksLikeASizeName(f.waterCapacity) && !f.stampChecked)
    errors.waterCapacity =
      'That is a round figure: is it the size in its name? A “30 lb” cylinder has about 26 lb of water capacity. Read WC on the collar, or tick below that it is stamped so.'
  if (f.fillingRatio !== undefined && !f.ratioGas && !f.refrigerant)
    errors.ratioGas = 'Choose the gas that the ratio is stamped for: it belongs to one gas.'
  const contentsMg = f.gross === undefined ? (f.contents ?? 0) : f.gross - f.tare
  if (f.gross !== undefined && f.contents !== undefined)
    errors.gross = 'Enter what the scale shows, or what is in it, not both: one follows from the other.'
  else if (f.gross !== undefined && contentsMg < -TARE_SLACK_MG)
    errors.gross = 'That is less than the empty cylinder weighs: check the scale and the stamped tare.'
  if (contentsMg > 0 && !f.refrigerant) errors.refrigerant = 'Choose what it holds.'
  if ((f.contents ?? 0) < 0) errors.contents = 'What is in it cannot be less than nothing.'
  if (Object.keys(errors).length > 0) return { typed, refused: refuse(typed, errors) }
  return {
    typed,
    contentsMg: Math.max(0, contentsMg),
    data: {
      label: f.label,
      kind: f.kind,
      refrigerant: f.refrigerant ?? null,
      tareMg: f.tare,
      waterCapacityMg: f.waterCapacity ?? null,
      fillingRatio: f.fillingRatio ?? null,
      ratioGas: f.fillingRatio === undefined ? null : (f.ratioGas ?? f.refrigerant ?? null),
      workingFillPct: f.workingFillPct ?? null,
      servicePressurePa: f.servicePressure ?? null,
      testedOn: f.testedOn ?? null,
      testYears: f.testYears,
      flammableOk: f.flammableOk,
      condition: f.condition,
      ownerCustomerId: f.ownerCustomerId ?? null,
      keepsAt: f.keepsAt ?? '',
    },
  }
}

/** A cylinder's data as the form shows it. */
export function cylinderFields(c: CylinderData, reading: ReadersUnits): Typed {
  return {
    label: c.label,
    kind: c.kind,
    refrigerant: c.refrigerant ?? '',
    condition: c.condition,
    tare: asTyped('weight', c.tareMg, reading),
    waterCapacity: asTyped('weight', c.waterCapacityMg, reading),
    servicePressure: asTyped('pressure', c.servicePressurePa, reading),
    fillingRatio: c.fillingRatio === null ? '' : String(c.fillingRatio),
    ratioGas: c.ratioGas ?? '',
    workingFillPct: c.workingFillPct === null ? '' : String(c.workingFillPct),
    testedOn: c.testedOn ?? '',
    testYears: String(c.testYears),
    flammableOk: c.flammableOk ? 'on' : '',
    ownerCustomerId: c.ownerCustomerId ?? '',
    keepsAt: c.keepsAt,
  }
}
