import type { EntryKind } from '#core/tape'
import type { MeasureKind } from '~/ui/measure'

/** The figure of each kind that may be put right. */
export const FIGURES: Partial<Record<EntryKind, [kind: MeasureKind, key: string]>> = {
  'run-started': ['weight', 'weightMg'],
  'weight-noted': ['weight', 'weightMg'],
  'scale-changed': ['weight', 'weightMg'],
  'run-ended': ['weight', 'weightMg'],
  'pressure-noted': ['pressure', 'pressurePa'],
  'temperature-noted': ['temperature', 'tempK'],
  'vacuum-noted': ['vacuum', 'pressurePa'],
  'hold-started': ['vacuum', 'pressurePa'],
  'hold-ended': ['vacuum', 'pressurePa'],
  'oil-noted': ['volume', 'volumeMl'],
  'target-set': ['weight', 'massMg'],
}
