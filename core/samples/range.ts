import type { KitFacts } from '../kit'
import { CHANNEL_FACTS, type Channel } from './channels'

/** A scale shows a little more than it may carry; a gauge's pointer goes a little beyond its last figure. */
const OVER = 1.1

export interface Range {
  least: number
  most: number
}

/** What this instrument can say, in the channel's unit: by its kit where that is known, else by its kind. */
export function rangeOf(channel: Channel, kit: KitFacts = {}): Range {
  const { least, most } = CHANNEL_FACTS[channel]
  if (channel === 'weight' && kit.capacityMg) {
    const capacityKg = (kit.capacityMg / 1e6) * OVER
    return { least: -capacityKg, most: capacityKg }
  }
  if (CHANNEL_FACTS[channel].quantity === 'gauge-pressure' && kit.fullScalePa)
    return { least, most: kit.fullScalePa * OVER }
  if (channel === 'vacuum' && kit.mostPa) return { least, most: kit.mostPa * OVER }
  return { least, most }
}
