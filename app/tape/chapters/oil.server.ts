import Joi from 'joi'
import type { OilBodies } from '#core/tape'
import { oneOf, type Schemas, words } from './parts.server'

export const oil: Schemas<OilBodies> = {
  'oil-noted': {
    direction: oneOf('out', 'parts', 'in').required(),
    volumeMl: Joi.number().min(0).max(1e5).required(),
    text: words(200).required(),
  },
}
