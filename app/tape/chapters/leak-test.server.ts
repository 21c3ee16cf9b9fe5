import Joi from 'joi'
import type { LeakTestBodies } from '#core/tape'
import { oneOf, type Schemas, words } from './parts.server'

export const leakTest: Schemas<LeakTestBodies> = {
  'leak-checked': {
    method: oneOf('nitrogen', 'detector', 'bubbles', 'dye', 'vacuum').required(),
    found: Joi.boolean().required(),
    text: words(1000).required(),
  },
}
