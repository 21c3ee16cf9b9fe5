import Joi from 'joi'
import type { AgainstBodies } from '#core/tape'
import { id, type Schemas, words } from './parts.server'

const MOST = 20

export const against: Schemas<AgainstBodies> = {
  'found-against': {
    entryId: id,
    cylinderId: id.allow(null),
    codes: Joi.array().items(words(40)).max(MOST).required(),
    jobs: Joi.array().items(Joi.number().integer().min(1)).max(MOST).required(),
  },
  'against-settled': { entryId: id, text: words(1000).required() },
}
