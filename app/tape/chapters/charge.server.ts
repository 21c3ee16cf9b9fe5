import Joi from 'joi'
import type { ChargeBodies } from '#core/tape'
import { massMg, oneOf, pressurePa, type Schemas, words } from './parts.server'

export const charge: Schemas<ChargeBodies> = {
  'target-set': {
    massMg: massMg.min(1).required(),
    toleranceMg: massMg.min(0).required(),
    basis: oneOf('recovered', 'expected', 'earlier', 'retrofit', 'typed').required(),
  },
  'charge-corrected': {
    way: oneOf('out', 'in').required(),
    massMg: massMg.min(1).required(),
    reason: words(1000).required(),
  },
  'metering-begun': { lowPa: pressurePa, nearCompressor: Joi.boolean().required() },
}
