import Joi from 'joi'
import { REFRIGERANTS } from '#core/refrigerants'
import { type JobBodies, STAGES } from '#core/tape'
import { anId, oneOf, type Schemas, words } from './parts.server'

export const job: Schemas<JobBodies> = {
  'job-described': {
    title: words(200),
    systemId: anId.allow(null),
    refrigerant: oneOf(...REFRIGERANTS).allow(null),
  },
  'plate-noted': { massMg: Joi.number().integer().min(1).max(1e12).required(), text: words(120).required() },
  'stage-entered': { stage: oneOf(...STAGES).required() },
  'step-done': { step: words(60).required() },
  'step-skipped': { step: words(60).required(), reason: words(500).required() },
  note: { text: Joi.string().trim().min(1).max(4000).required() },
  'customer-signed': {
    name: words(120).required(),
    strokes: Joi.array()
      .items(Joi.array().items(Joi.number().integer().min(-1000).max(3000)).min(2).max(4000))
      .min(1)
      .max(200)
      .required()
      // Points in all: a signature, and no drawing.
      .custom((strokes: number[][], at) =>
        strokes.reduce((sum, each) => sum + each.length, 0) > 12_000 ? at.error('array.max') : strokes,
      ),
  },
  'job-waiting': { what: words(200).required() },
  'job-resumed': {},
  'job-closed': { reason: words(1000) },
  'job-cancelled': { reason: words(1000).required() },
  'job-reopened': { reason: words(1000).required() },
}
