import Joi from 'joi'
import { PARTS, type RepairBodies } from '#core/tape'
import { id, massMg, oneOf, type Schemas, words } from './parts.server'

const of = oneOf('before', 'after', 'other').required()

export const repair: Schemas<RepairBodies> = {
  'part-replaced': {
    part: oneOf(...PARTS).required(),
    number: words(60).required(),
    text: words(400).required(),
    oilMl: Joi.number().min(0).max(20_000),
    chargeMg: massMg,
  },
  'taken-off': { itemId: id, what: words(200).required() },
  'put-back': { itemId: id },
  'left-off': { itemId: id, reason: words(400).required() },
  'photo-noted': { photoId: id, of, text: words(400).required() },
  'photo-hidden': { photoId: id, reason: words(400).required() },
}
