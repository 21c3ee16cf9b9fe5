import Joi from 'joi'
import type { ReadingsBodies } from '#core/tape'
import { oneOf, tempK, pressurePa, type Schemas } from './parts.server'

export const readings: Schemas<ReadingsBodies> = {
  'pressure-noted': {
    point: oneOf('low', 'high', 'cylinder', 'test').required(),
    pressurePa,
    atmospherePa: Joi.number().min(4e4).max(1.2e5),
  },
  'temperature-noted': {
    point: oneOf('suction', 'liquid', 'ambient', 'cylinder', 'vent').required(),
    tempK,
  },
}
