import Joi from 'joi'
import type { SystemData } from '#db'
import { measured, refrigerantField, text } from '~/base/form/schema-parts'
import { readVin } from '#core/vehicles'
import type { ReadersUnits } from '~/base/ui/measure'

interface SystemForm {
  name: string
  customer: string
  site: string
  altitude?: number
  trade: SystemData['trade']
  refrigerant?: string
  plate?: number
  plateText?: string
  panelTotal?: number
  lines: string
  accessories: string
  oilType?: string
  registration?: string
  vin?: string
  compressor?: string
  metering: SystemData['metering']
  subcooling?: number
  maxTestPressure?: number
}

const VIN_WORDS = {
  length: 'A vehicle identification number has 17 characters: count them, or leave it empty.',
  letters:
    'A vehicle identification number has digits and letters but I, O and Q: check it, or leave it empty.',
}

/** The form of a system. Line sets and accessories travel as JSON, and are read one by one. */
export const systemSchema = (reading: ReadersUnits) =>
  Joi.object<SystemForm>({
    name: text('what the system is called', 200).required(),
    customer: text('whose it is', 200).required(),
    site: text('where it stands', 200).required(),
    altitude: measured('height', 'the height above the sea', reading),
    trade: Joi.string().valid('stationary', 'vehicle').required(),
    refrigerant: refrigerantField,
    plate: measured('plate', 'the charge on the plate', reading),
    plateText: text('what else the plate says', 120),
    panelTotal: measured('plate', 'the total in the panel', reading),
    lines: Joi.string().default('[]'),
    accessories: Joi.string().default('[]'),
    oilType: text('the oil', 60),
    registration: text('the registration', 40),
    vin: text('the vehicle identification number', 40).custom((typed: string, at) => {
      const read = readVin(typed)
      return read.kind === 'malformed' ? at.message({ custom: VIN_WORDS[read.why] }) : read.vin
    }),
    compressor: text('the kind of compressor', 60),
    metering: Joi.string().valid('fixed', 'valve', 'unknown').required(),
    subcooling: measured('difference', 'the subcooling on the plate', reading),
    maxTestPressure: measured('pressure', 'the highest test pressure', reading),
  })
