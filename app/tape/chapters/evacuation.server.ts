import type { EvacuationBodies } from '#core/tape'
import { anId, id, pressurePa, type Schemas } from './parts.server'

export const evacuation: Schemas<EvacuationBodies> = {
  'vacuum-noted': { pressurePa, holdId: anId },
  'hold-started': { holdId: id, pressurePa },
  'hold-ended': { holdId: id, pressurePa },
}
