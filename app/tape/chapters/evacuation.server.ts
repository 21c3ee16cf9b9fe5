import Joi from 'joi'
import type { EvacuationBodies } from '#core/tape'
import { anId, id, oneOf, pressurePa, type Schemas } from './parts.server'

const seconds = Joi.number().min(0).max(1e7)
const vacuumPa = Joi.number().min(0).max(200_000)

export const evacuation: Schemas<EvacuationBodies> = {
  'vacuum-noted': { pressurePa, holdId: anId },
  'hold-started': { holdId: id, pressurePa },
  'hold-ended': { holdId: id, pressurePa },
  'hold-curve': {
    holdId: id,
    readings: Joi.array()
      .max(400)
      .items(Joi.array().ordered(seconds.required(), vacuumPa.required()))
      .required(),
  },
  'vacuum-planned': {
    method: oneOf('single', 'deep', 'triple', 'timed').required(),
    gaugeAt: oneOf('system', 'pump').required(),
    hose: oneOf('1/4', '3/8', '1/2').required(),
    lengthM: Joi.number().min(0.1).max(50).required(),
    coresOut: Joi.boolean().required(),
    pumpM3S: Joi.number().min(1e-5).max(0.1).required(),
    volumeM3: Joi.number().min(1e-5).max(50),
    targetPa: Joi.number().min(1).max(5_000).required(),
    targetFrom: oneOf('maker', 'profile', 'shop').required(),
  },
  'kit-proof': {
    reachedPa: vacuumPa.required(),
    heldPa: vacuumPa.required(),
    forS: seconds.required(),
  },
  'nitrogen-let-in': { pressurePa },
}
