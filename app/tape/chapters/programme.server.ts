import Joi from 'joi'
import { ASKS, PROGRAMME_STEPS, STEP_LIMITS, type StepFigure, STOPS } from '#core/programme'
import type { ProgrammeBodies } from '#core/tape'
import { anId, id, oneOf, type Schemas, words } from './parts.server'

const step = oneOf(...PROGRAMME_STEPS)
const figure = (name: StepFigure) => Joi.number().min(STEP_LIMITS[name].least).max(STEP_LIMITS[name].most)

/** A step as it is planned; which figures it has is for `programmeProblems` to say. */
export const plannedSteps = Joi.array()
  .items(
    Joi.object({
      step: step.required(),
      forS: figure('forS'),
      restS: figure('restS'),
      downToPa: figure('downToPa'),
      massMg: figure('massMg').integer(),
      volumeMl: figure('volumeMl'),
      purityPct: figure('purityPct'),
      sniff: Joi.boolean(),
      sides: oneOf('both', 'high'),
      withDrained: Joi.boolean(),
      bottleId: anId,
    }),
  )
  .max(PROGRAMME_STEPS.length)

export const programme: Schemas<ProgrammeBodies> = {
  'programme-begun': {
    programmeId: id,
    kitId: id,
    deviceId: id,
    steps: plannedSteps.min(1).required(),
    preset: words(80),
  },
  'programme-step': { programmeId: id, step: step.required(), phase: oneOf('began', 'done').required() },
  'hand-asked': { programmeId: id, askId: id, ask: oneOf(...ASKS).required(), step },
  'hand-given': { programmeId: id, askId: id, answer: oneOf('done', 'no').required() },
  'programme-ended': {
    programmeId: id,
    how: oneOf('finished', 'stopped', 'left-alone').required(),
    why: oneOf(...STOPS),
    step,
  },
}
