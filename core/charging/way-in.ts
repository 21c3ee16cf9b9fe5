import type { CylinderKind } from '../cylinders'
import type { CompressorDrive } from '../oil'
import { glideK, type SaturationTable } from '../refrigerants'
import type { Trade } from '../systems'
import { ZERO_CELSIUS_K } from '../units'

/** How a charge goes in, in the order in which it is done. */
export type WayIn =
  | 'blend-liquid-always'
  | 'liquid-into-liquid-side'
  | 'small-through-drier'
  | 'vehicle-high-side-off'
  | 'vehicle-high-voltage'
  | 'never-liquid-into-compressor'
  | 'one-way-upside-down'
  | 'liquid-valve'
  | 'rest-by-suction'
  | 'not-the-recovery-machine'

export interface WayInAsked {
  table: SaturationTable
  trade: Trade
  drive: CompressorDrive
  targetMg: number
  from: CylinderKind | undefined
}

/** A blend whose parts boil more than so far apart changes as vapour is drawn from it, K. */
const GLIDE_K = 1
/** Small sealed systems. */
const SMALL_MG = 500_000

/** Whether a blend must be drawn as liquid: as vapour its composition would not hold. */
const glides = (table: SaturationTable) => glideK(table, ZERO_CELSIUS_K) > GLIDE_K

/**
 * Form, side and port of a charge: liquid into the liquid side while the system stands in vacuum; blends with glide always
 * as liquid; small sealed machines through drier or high side; vehicles by the question of high voltage.
 */
export function wayIn({ table, trade, drive, targetMg, from }: WayInAsked): WayIn[] {
  const ways: WayIn[] = []
  if (glides(table)) ways.push('blend-liquid-always')
  if (trade === 'vehicle')
    ways.push(drive === 'high-voltage' ? 'vehicle-high-voltage' : 'vehicle-high-side-off')
  else ways.push(targetMg < SMALL_MG ? 'small-through-drier' : 'liquid-into-liquid-side')
  if (from) ways.push(from === 'one-way' ? 'one-way-upside-down' : 'liquid-valve')
  ways.push('never-liquid-into-compressor')
  if (trade !== 'vehicle') ways.push('rest-by-suction')
  ways.push('not-the-recovery-machine')
  return ways
}

/** Of a vehicle's charge: before the rest goes in the cabin's vents are sniffed. */
export const SNIFF_SHARE = 0.15
