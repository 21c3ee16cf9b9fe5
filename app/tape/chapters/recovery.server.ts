import type { RecoveryBodies } from '#core/tape'
import { id, oneOf, type Schemas } from './parts.server'

export const recovery: Schemas<RecoveryBodies> = {
  'recovery-ended': { how: oneOf('emptied', 'not-emptied', 'lost', 'elsewhere', 'shut-in').required() },
  'gas-judged': { cylinderId: id, condition: oneOf('clean', 'used', 'doubtful', 'mixed').required() },
}
