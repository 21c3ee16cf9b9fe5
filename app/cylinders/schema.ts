import Joi from 'joi'
import { stampDate } from '#core/cylinders'
import type { CylinderData } from '#db'
import { measured, optionalId, refrigerantField, text, ticked } from '~/base/form/schema-parts'
import type { ReadersUnits } from '~/base/ui/measure'

export interface CylinderForm {
  label: string
  kind: CylinderData['kind']
  refrigerant?: string
  tare: number
  waterCapacity?: number
  stampChecked: boolean
  contentsChecked: boolean
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

/** The form of a cylinder. @param today where the shop is */
export const cylinderSchema = (reading: ReadersUnits, today: string) =>
  Joi.object<CylinderForm>({
    label: text('a label, as it is written on the cylinder', 80).required(),
    kind: Joi.string().valid('recovery', 'virgin', 'one-way', 'station').required(),
    refrigerant: refrigerantField,
    tare: measured('weight', 'the stamped tare weight (TW)', reading).required(),
    waterCapacity: measured('weight', 'the stamped water capacity (WC)', reading),
    stampChecked: ticked,
    contentsChecked: ticked,
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
