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
  'job-waiting': { what: words(200).required() },
  'job-resumed': {},
  'job-closed': { reason: words(1000) },
  'job-cancelled': { reason: words(1000).required() },
  'job-reopened': { reason: words(1000).required() },
}
