import type { ChargeBodies } from '#core/tape'
import { massMg, oneOf, type Schemas } from './parts.server'

export const charge: Schemas<ChargeBodies> = {
  'target-set': {
    massMg: massMg.min(1).required(),
    toleranceMg: massMg.min(0).required(),
    basis: oneOf('recovered', 'expected', 'typed').required(),
  },
}
