import Joi from 'joi'
import type { TransferBodies } from '#core/tape'
import { anId, id, massMg, oneOf, type Schemas, words } from './parts.server'

const use = oneOf('recover', 'charge').required()
const mode = oneOf('gross', 'net').required()
const weightMg = massMg.required()
const accuracyMg = Joi.number().integer().min(0).max(5e6)
const divisionMg = Joi.number().integer().min(1).max(1e6)

export const transfer: Schemas<TransferBodies> = {
  'cylinder-chosen': { cylinderId: id, use, massMg: massMg.min(0).allow(null).required() },
  'cylinder-released': { cylinderId: id, use },
  'run-started': {
    runId: id,
    use,
    cylinderId: id,
    scale: words(80).required(),
    mode,
    weightMg,
    divisionMg,
    scaleId: anId,
    accuracyMg,
    bookedMg: massMg,
    hoseMg: massMg.min(0),
  },
  'weight-noted': { runId: id, weightMg, on: anId },
  'scale-changed': {
    runId: id,
    scale: words(80).required(),
    mode,
    weightMg,
    divisionMg,
    scaleId: anId,
    accuracyMg,
    valveShut: Joi.boolean(),
  },
  'run-ended': { runId: id, weightMg, hoseMg: massMg.min(0), on: anId },
}
