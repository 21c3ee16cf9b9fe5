import type { EvacuationBodies } from '#core/tape'
import type { Words } from './words'

export const evacuation: Words<EvacuationBodies> = {
  'vacuum-noted': ({ pressurePa }, { show }) => `Vacuum ${show('vacuum', pressurePa)}`,
  'hold-started': ({ pressurePa }, { show }) => `Pump valved off at ${show('vacuum', pressurePa)}`,
  'hold-ended': ({ pressurePa }, { show }) => `Hold ended at ${show('vacuum', pressurePa)}`,
}
