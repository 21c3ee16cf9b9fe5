import Joi from 'joi'
import { OIL_TYPES } from '#core/oil'
import type { OilBodies } from '#core/tape'
import { anId, oneOf, type Schemas, words } from './parts.server'

const volumeMl = Joi.number().min(0).max(1e5).required()

export const oil: Schemas<OilBodies> = {
  'oil-noted': {
    direction: oneOf('out', 'parts', 'in').required(),
    volumeMl,
    text: words(200).required(),
    oil: oneOf(...OIL_TYPES),
    bottleId: anId,
    dyed: Joi.boolean(),
  },
  'dye-noted': { volumeMl, text: words(200).required(), bottleId: anId },
  'drain-read': { when: oneOf('before', 'after').required(), volumeMl },
  'drive-noted': { drive: oneOf('belt', 'high-voltage', 'stationary').required() },
  'oil-cleared': { how: oneOf('hoses-flushed', 'own-tool').required(), who: words(120).required() },
}
