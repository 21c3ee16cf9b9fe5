import { type SaturationTable, saturationTempK } from '../refrigerants'
import type { Verdict } from '../verdict'

export interface CheckReadings {
  /** Absolute Pa. */
  lowPa?: number
  highPa?: number
  /** Kelvin. */
  suctionK?: number
  liquidK?: number
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

/** Subcooling that valves are charged to when nothing is printed, kelvin. */
const COMMON_SUBCOOLING = { least: 4.5, most: 7 }
const CLAMP_K = 1.5

/**
 * Do the readings make sense, and does subcooling fit a thermostatic or electronic valve?
 * @param targetK subcooling printed on the plate
 */
export function judgeReadings(
  result: CheckResult,
  metering: 'fixed' | 'valve' | 'unknown',
  targetK: number | null,
): Verdict {
  const numbers: Verdict['numbers'] = []
  if (result.superheatK !== undefined)
    numbers.push({ name: 'superheat', value: result.superheatK, unit: 'K', sigma: 1 })
  if (result.subcoolingK !== undefined)
    numbers.push({ name: 'subcooling', value: result.subcoolingK, unit: 'K', sigma: 1 })
  const source =
    'superheat from dew, subcooling from bubble; 4.5 to 7 K is common for valves when nothing is printed'
  const verdict = (outcome: Verdict['outcome'], code: string, ...reasons: string[]): Verdict => ({
    outcome,
    code,
    reasons: reasons.map((r) => ({ code: r })),
    numbers,
    source,
  })

  if (numbers.length === 0) return verdict('open', 'readings-missing', 'note-pressure-and-temperature')
  if ((result.superheatK ?? 0) < -CLAMP_K || (result.subcoolingK ?? 0) < -CLAMP_K)
    return verdict('caution', 'readings-impossible', 'wrong-gas-gauge-or-clamp')
  if (result.superheatK !== undefined && result.superheatK < 2)
    return verdict('caution', 'superheat-low', 'liquid-may-reach-compressor')
  if (metering === 'valve' && result.subcoolingK !== undefined) {
    const least = targetK === null ? COMMON_SUBCOOLING.least : targetK - CLAMP_K
    const most = targetK === null ? COMMON_SUBCOOLING.most : targetK + CLAMP_K
    if (result.subcoolingK < least - CLAMP_K)
      return verdict('caution', 'subcooling-low', 'charge-may-be-short')
    if (result.subcoolingK > most + CLAMP_K)
      return verdict('caution', 'subcooling-high', 'charge-may-be-over')
    return verdict('good', 'readings-fit', 'subcooling-fits-valve')
  }
  return verdict('good', 'readings-plausible', 'weight-decides')
}
