import { type SaturationTable, saturationTempK } from '../refrigerants'
import { rule, quantity, type Verdict } from '../verdict'
import { ORIFICE_EITHER_WAY_K } from './orifice-target'

export interface CheckReadings {
  /** Absolute Pa. */
  lowPa?: number | undefined
  highPa?: number | undefined
  /** Kelvin. */
  suctionK?: number | undefined
  liquidK?: number | undefined
}

export interface CheckResult {
  superheatK?: number
  subcoolingK?: number
}

/**
 * Superheat = suction temperature - dew at suction pressure; subcooling = bubble at liquid pressure - liquid
 * temperature. Only what the readings allow is computed.
 * @throws OutOfRangeError for a pressure outside the table
 */
export function superheatAndSubcooling(readings: CheckReadings, table: SaturationTable): CheckResult {
  const { lowPa, highPa, suctionK, liquidK } = readings
  const result: CheckResult = {}
  if (lowPa !== undefined && suctionK !== undefined)
    result.superheatK = suctionK - saturationTempK(table, lowPa, 'dew')
  if (highPa !== undefined && liquidK !== undefined)
    result.subcoolingK = saturationTempK(table, highPa, 'bubble') - liquidK
  return result
}

export type ReadingsCode =
  | 'readings-missing'
  | 'superheat-negative'
  | 'subcooling-negative'
  | 'superheat-low'
  | 'superheat-near-zero'
  | 'superheat-high'
  | 'superheat-off-target'
  | 'subcooling-low'
  | 'subcooling-high'
  | 'subcooling-far-off'
  | 'metering-unknown'
  | 'readings-fit'
  | 'readings-plausible'
export type ReadingsReason =
  | 'note-pressure-and-temperature'
  | 'wrong-gas-gauge-or-clamp'
  | 'bubbles-or-wrong-gas'
  | 'liquid-may-reach-compressor'
  | 'orifice-floods'
  | 'starved-or-short'
  | 'orifice-wants-otherwise'
  | 'charge-may-be-short'
  | 'charge-may-be-over'
  | 'air-over-or-wrong-gauge'
  | 'say-which-metering'
  | 'subcooling-fits-valve'
  | 'superheat-fits-orifice'
  | 'weight-decides'
export type ReadingsVerdict = Verdict<ReadingsCode, ReadingsReason>
export type Metering = 'fixed' | 'valve' | 'unknown'

/** Subcooling that valves are charged to when nothing is printed, kelvin. */
const COMMON_SUBCOOLING = { least: 4.5, most: 7 }
/**
 * What clamp and gauge may be off together while nobody names them, kelvin: two standard deviations. Counts once, at the
 * edge of a range.
 */
const UNNAMED_K = 1.5
/** Below this, kelvin, a clamp cannot tell superheat from none. */
const NEAR_ZERO_K = 2
/** Above these, kelvin, the evaporator is starved, whatever the device (at the compressor; healthy is 4 to 12). */
const HIGH_SUPERHEAT_K: Record<Metering, number> = { valve: 15, fixed: 22, unknown: 22 }
/** Further from its range than this, kelvin, subcooling speaks of air, a wrong gas or a wrong gauge. */
const FAR_OFF_K = 8

/** Two standard deviations of each, kelvin; undefined: what the trade reckons with. */
export interface ReadingDoubts {
  superheatK?: number | undefined
  subcoolingK?: number | undefined
}

/**
 * Do the readings make sense, and do they fit the metering device?
 * @param plateSubcoolingK subcooling printed on the plate
 * @param targetSuperheatK what a fixed orifice should show at this weather, where it is known
 */
export function judgeReadings(
  result: CheckResult,
  metering: Metering,
  plateSubcoolingK: number | null,
  { targetSuperheatK, doubts = {} }: { targetSuperheatK?: number; doubts?: ReadingDoubts } = {},
): ReadingsVerdict {
  const superheatDoubtK = doubts.superheatK ?? UNNAMED_K
  const subcoolingDoubtK = doubts.subcoolingK ?? UNNAMED_K
  const { superheatK, subcoolingK } = result
  const numbers: Verdict['numbers'] = []
  if (superheatK !== undefined) numbers.push(quantity('superheat', superheatK, 'K', superheatDoubtK / 2))
  if (subcoolingK !== undefined) numbers.push(quantity('subcooling', subcoolingK, 'K', subcoolingDoubtK / 2))
  if (targetSuperheatK !== undefined) numbers.push(quantity('target-superheat', targetSuperheatK, 'K'))
  const verdict = (
    outcome: Verdict['outcome'],
    code: ReadingsCode,
    reason: ReadingsReason,
  ): ReadingsVerdict => ({
    outcome,
    code,
    reasons: [{ code: reason }],
    numbers,
    rule: rule('superheat-and-subcooling'),
  })

  if (superheatK === undefined && subcoolingK === undefined)
    return verdict('open', 'readings-missing', 'note-pressure-and-temperature')
  if (superheatK !== undefined && superheatK < -superheatDoubtK)
    return verdict('caution', 'superheat-negative', 'wrong-gas-gauge-or-clamp')
  if (subcoolingK !== undefined && subcoolingK < -subcoolingDoubtK)
    return verdict('caution', 'subcooling-negative', 'bubbles-or-wrong-gas')
  if (superheatK !== undefined && superheatK < NEAR_ZERO_K)
    return metering === 'fixed'
      ? verdict('caution', 'superheat-near-zero', 'orifice-floods')
      : verdict('caution', 'superheat-low', 'liquid-may-reach-compressor')
  if (superheatK !== undefined && superheatK > HIGH_SUPERHEAT_K[metering])
    return verdict('caution', 'superheat-high', 'starved-or-short')
  const [least, most] =
    plateSubcoolingK === null
      ? [COMMON_SUBCOOLING.least, COMMON_SUBCOOLING.most]
      : [plateSubcoolingK, plateSubcoolingK]
  if (subcoolingK !== undefined && subcoolingK > most + FAR_OFF_K)
    return verdict('caution', 'subcooling-far-off', 'air-over-or-wrong-gauge')
  if (metering === 'unknown') return verdict('open', 'metering-unknown', 'say-which-metering')
  if (metering === 'valve') {
    if (subcoolingK === undefined) return verdict('good', 'readings-plausible', 'weight-decides')
    if (subcoolingK < least - subcoolingDoubtK)
      return verdict('caution', 'subcooling-low', 'charge-may-be-short')
    if (subcoolingK > most + subcoolingDoubtK)
      return verdict('caution', 'subcooling-high', 'charge-may-be-over')
    return verdict('good', 'readings-fit', 'subcooling-fits-valve')
  }
  if (superheatK !== undefined && targetSuperheatK !== undefined)
    return Math.abs(superheatK - targetSuperheatK) > ORIFICE_EITHER_WAY_K + superheatDoubtK
      ? verdict('caution', 'superheat-off-target', 'orifice-wants-otherwise')
      : verdict('good', 'readings-fit', 'superheat-fits-orifice')
  return verdict('good', 'readings-plausible', 'weight-decides')
}
