import Joi from 'joi'
import { type ReadingsBodies, TEMPERATURE_POINTS } from '#core/tape'
import { SERVICES, STATES } from '#core/verify'
import { oneOf, tempK, pressurePa, type Schemas } from './parts.server'

const atmospherePa = Joi.number().min(4e4).max(1.2e5)
/** Up to a week. */
const seconds = Joi.number().min(0).max(604_800)

export const readings: Schemas<ReadingsBodies> = {
  'pressure-noted': {
    point: oneOf('low', 'high', 'cylinder', 'test').required(),
    pressurePa,
    atmospherePa,
  },
  'temperature-noted': {
    point: oneOf(...TEMPERATURE_POINTS).required(),
    tempK,
  },
  'system-running': { service: oneOf(...SERVICES).required(), beforeS: seconds.required() },
  'machine-state': { state: oneOf(...STATES).required(), is: Joi.boolean().required() },
  'standing-noted': { pressurePa, tempK, atmospherePa },
  'supply-noted': { volts: Joi.number().min(0).max(1e5), amps: Joi.number().min(0).max(1e4) },
  'cycle-noted': {
    runS: seconds.required(),
    offS: seconds.required(),
    defrostS: seconds,
    coldestK: Joi.number().min(170).max(400),
  },
}
