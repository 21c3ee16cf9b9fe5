import Joi from 'joi'
import type { VerdictBodies } from '#core/tape'
import { QUANTITY_WORDS, RULE_WORDS, VERDICT_REASONS, VERDICT_WORDS } from '~/words/en'
import { id, oneOf, type Schemas, words } from './parts.server'

const quantities = Joi.array()
  .max(20)
  .items(
    Joi.object({
      name: oneOf(...Object.keys(QUANTITY_WORDS)).required(),
      value: Joi.number().required(),
      unit: oneOf('kg', 'Pa', 'K', 's', 'mL', 'share', 'count', 'Pa/s', 'Pa m3/s', 'Pa gauge').required(),
      sigma: Joi.number().min(0),
      least: Joi.number(),
      most: Joi.number(),
    }),
  )
/** To the bottom: whoever reads it later relies on every part of it. */
const verdict = Joi.object({
  outcome: oneOf('good', 'caution', 'bad', 'open').required(),
  code: oneOf(...Object.keys(VERDICT_WORDS)).required(),
  reasons: Joi.array()
    .max(20)
    .items(Joi.object({ code: oneOf(...Object.keys(VERDICT_REASONS)).required(), numbers: quantities }))
    .required(),
  numbers: quantities.required(),
  rule: Joi.object({
    code: oneOf(...Object.keys(RULE_WORDS), 'in-words').required(),
    numbers: quantities,
    words: words(400),
  }).required(),
  limitedBy: Joi.object({
    what: oneOf('scale', 'expected', 'gauge', 'clamp', 'vacuum-gauge').required(),
    label: words(80).required(),
  }),
  caution: words(60),
})

export const verdicts: Schemas<VerdictBodies> = {
  'verdict-given': {
    about: oneOf('recovery', 'hold', 'charge', 'readings').required(),
    verdict: verdict.required(),
    engine: Joi.number().integer().required(),
    tables: Joi.number().integer().required(),
  },
  'verdict-overruled': { entryId: id, reason: words(1000).required() },
  correction: {
    entryId: id,
    // Which of them is looked up once they are all there.
    kind: Joi.string().max(60).required(),
    body: Joi.object().allow(null).required(),
    reason: words(1000).required(),
    version: Joi.number().integer().min(1).max(1000),
  },
}
