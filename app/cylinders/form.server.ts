import Joi from 'joi'
import { looksLikeASizeName } from '#core/cylinders'
import type { CylinderData } from '#db'
import {
  dateField,
  measured,
  optionalId,
  readForm,
  type Refused,
  refrigerantField,
  refuse,
  text,
  ticked,
} from '~/form/read.server'
import type { Reading } from '~/ui/measure'

interface CylinderForm {
  label: string
  kind: CylinderData['kind']
  refrigerant?: string
  tare: number
  waterCapacity?: number
  stampChecked: boolean
  fillingRatio?: number
  servicePressure?: number
  testedOn?: string
  testYears: number
  flammableOk: boolean
  condition: CylinderData['condition']
  ownerCustomerId?: string
  keepsAt?: string
  contents?: number
}

const schema = (reading: Reading) =>
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
    servicePressure: measured('pressure', 'the stamped service pressure', reading),
    testedOn: dateField,
    testYears: Joi.number().integer().min(1).max(20).required().messages({
      '*': 'Enter for how many years a test holds: 5 in the United States, commonly 10 in Europe.',
    }),
    flammableOk: ticked,
    condition: Joi.string().valid('clean', 'used', 'doubtful', 'mixed').required(),
    ownerCustomerId: optionalId,
    keepsAt: text('where it is kept', 120),
    contents: measured('weight', 'what is in it', reading),
  })

/** Reads the form of a cylinder. A round water capacity is questioned once: it is more often the size in a name. */
export async function readCylinder(
  request: Request,
  reading: Reading,
): Promise<
  { data: CylinderData; contentsMg: number; refused?: undefined } | { data?: undefined; refused: Refused }
> {
  const copy = request.clone() as Request
  const form = await readForm(request, schema(reading))
  if (form.refused) return { refused: form.refused }
  const f = form.value
  const errors: Record<string, string> = {}
  if (f.tare <= 0) errors.tare = 'The tare is more than nothing: read TW on the collar.'
  if (f.waterCapacity !== undefined && f.waterCapacity <= 0)
    errors.waterCapacity = 'The water capacity is more than nothing: read WC on the collar.'
  else if (f.waterCapacity !== undefined && looksLikeASizeName(f.waterCapacity) && !f.stampChecked)
    errors.waterCapacity =
      'That is a round figure: is it the size in its name? A “30 lb” cylinder has about 26 lb of water capacity. Read WC on the collar, or tick below that it is stamped so.'
  if ((f.contents ?? 0) > 0 && !f.refrigerant) errors.refrigerant = 'Choose what it holds.'
  if ((f.contents ?? 0) < 0) errors.contents = 'What is in it cannot be less than nothing.'
  if (Object.keys(errors).length > 0) {
    const typed = Object.fromEntries([...(await copy.formData())].map(([k, v]) => [k, String(v)]))
    return { refused: refuse(typed, errors) }
  }
  return {
    contentsMg: f.contents ?? 0,
    data: {
      label: f.label,
      kind: f.kind,
      refrigerant: f.refrigerant ?? null,
      tareMg: f.tare,
      waterCapacityMg: f.waterCapacity ?? null,
      fillingRatio: f.fillingRatio ?? null,
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
