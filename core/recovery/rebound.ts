import { type SaturationTable, vapourDensityAt } from '../refrigerants'
import { rule, type Verdict } from '../verdict'

export interface Rebound {
  /** At the stop and after waiting, absolute Pa. */
  stoppedPa: number
  nowPa: number
  /** Inner volume of the system, m3. */
  volumeM3: number
  /** Temperature of the vapour, kelvin: between the coldest part and the surroundings. */
  tempK: number
  /** Level to reach, absolute Pa. */
  levelPa: number
  /** Seconds between the two; missing: nobody looked at the time. */
  afterS?: number
}

export interface ReboundResult {
  /** Mass that returned to vapour, kg: the next pull yields at least that, often twice. */
  returnedKg: number
  oftenKg: number
  verdict: Verdict<ReboundCode, ReboundCode>
}

export type ReboundCode =
  'rebound-above-level' | 'rebound-too-soon' | 'rebound-within-worth' | 'rebound-within'

/** Below this another pull brings less than a scale shows for certain. */
export const WORTH_KG = 0.01
/** Liquid under oil takes minutes to boil off: what stands still earlier than that says nothing. */
export const LEAST_WAIT_S = 300

/**
 * What a rise after the stop means: V (rho(p2, T) - rho(p1, T)).
 * @throws OutOfRangeError for a temperature outside the table
 */
export function rebound(asked: Rebound, table: SaturationTable, molarMassG: number): ReboundResult {
  const { stoppedPa, nowPa, volumeM3, tempK, levelPa, afterS } = asked
  const density = (pressurePa: number) => vapourDensityAt(table, molarMassG, pressurePa, tempK)
  const returnedKg = Math.max(0, volumeM3 * (density(nowPa) - density(stoppedPa)))
  const [outcome, code] =
    nowPa > levelPa
      ? (['caution', 'rebound-above-level'] as const)
      : afterS !== undefined && afterS < LEAST_WAIT_S
        ? (['open', 'rebound-too-soon'] as const)
        : returnedKg >= WORTH_KG
          ? (['good', 'rebound-within-worth'] as const)
          : (['good', 'rebound-within'] as const)
  return {
    returnedKg,
    oftenKg: 2 * returnedKg,
    verdict: { outcome, code, reasons: [{ code }], numbers: [], rule: rule('vapour-that-returned') },
  }
}
