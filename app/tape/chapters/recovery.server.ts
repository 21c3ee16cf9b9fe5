import Joi from 'joi'
import { RECOVERY_METHODS } from '#core/recovery'
import type { RecoveryBodies } from '#core/tape'
import { id, oneOf, type Schemas, words } from './parts.server'

export const recovery: Schemas<RecoveryBodies> = {
  'recovery-ended': {
    how: oneOf('emptied', 'not-emptied', 'lost', 'elsewhere', 'shut-in', 'never-filled').required(),
    levelPa: Joi.number().min(0).max(2e7),
    stoodS: Joi.number().integer().min(1).max(1e6),
  },
  'gas-judged': { cylinderId: id, condition: oneOf('clean', 'used', 'doubtful', 'mixed').required() },
  'recovery-planned': {
    method: oneOf(...RECOVERY_METHODS).required(),
    port: oneOf('vapour', 'liquid').required(),
    hose: oneOf('1/4', '3/8', '1/2').required(),
    coresOut: Joi.boolean().required(),
    level: oneOf('appliance', 'leaking', 'small-sealed', 'vehicle').required(),
  },
  'gas-tested': {
    test: oneOf('acid', 'identifier').required(),
    passed: Joi.boolean().required(),
    found: words(40),
    purityPct: Joi.number().min(0).max(100),
  },
}
