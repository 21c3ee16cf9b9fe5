import type { PressurePoint } from '#core/tape'
import { type Draft, draft } from '~/tape/draft'
import type { ReadersUnits } from '~/base/ui/measure'

/** A gauge's reading, kept with the atmosphere that the gauge was zeroed in. */
export function pressureDraft(
  point: PressurePoint,
  pressurePa: number,
  { atmospherePa }: ReadersUnits,
): Draft {
  return draft('pressure-noted', {
    point,
    pressurePa,
    ...(atmospherePa === undefined ? {} : { atmospherePa: Math.round(atmospherePa) }),
  })
}
