import Joi from 'joi'
import { type LeakTestBodies, LOOKED_WITH, TESTED_PARTS } from '#core/tape'
import { isDay } from '~/base/form/day'
import { id, oneOf, pressurePa, type Schemas, tempK, words } from './parts.server'

const found = Joi.boolean().required()

export const leakTest: Schemas<LeakTestBodies> = {
  'leak-checked': {
    method: oneOf('nitrogen', 'detector', 'bubbles', 'dye', 'vacuum').required(),
    found,
    text: words(1000).required(),
    falseAlarm: Joi.valid(true),
  },
  'pressure-test-started': {
    testId: id,
    part: oneOf(...TESTED_PARTS).required(),
    pressurePa,
    tempK,
    atmospherePa: Joi.number().min(30_000).max(110_000),
    mostPa: pressurePa.optional(),
  },
  'pressure-test-ended': { testId: id, pressurePa, tempK },
  'place-searched': {
    place: words(200).required(),
    how: oneOf(...LOOKED_WITH).required(),
    found,
    text: words(400).required(),
  },
  'recheck-set': {
    on: Joi.string()
      .custom((day: string, { error }) => (isDay(day) && day >= '2000' ? day : error('any.invalid')))
      .required(),
    reason: words(400).required(),
  },
}
