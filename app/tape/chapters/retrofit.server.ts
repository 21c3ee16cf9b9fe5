import Joi from 'joi'
import { REFRIGERANTS } from '#core/refrigerants'
import type { RetrofitBodies } from '#core/tape'
import { oneOf, type Schemas, words } from './parts.server'

export const retrofit: Schemas<RetrofitBodies> = {
  'retrofit-planned': {},
  'gas-changed': {
    to: oneOf(...REFRIGERANTS).required(),
    oilType: words(60).required(),
    platePct: Joi.number().min(1).max(200),
    reason: words(1000).required(),
  },
}
