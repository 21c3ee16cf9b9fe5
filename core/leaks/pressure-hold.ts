import type { Verdict } from '../verdict'

export interface PressureHold {
  /** Absolute Pa at the beginning and at the end. */
  startPa: number
  endPa: number
  startK: number
  endK: number
  heldS: number
  /** Limits of error between two readings of the same gauge and of the same clamp, plus or minus. */
  gaugePa: number
  clampK: number
  /** Inner volume under test, m3, where known. */
  volumeM3?: number
}

export interface PressureHoldResult {
  /** What the temperature alone makes of the first pressure: p1 T2/T1, absolute Pa. */
  expectedPa: number
  /** Measured less expected, Pa; negative: lost. */
  changePa: number
  /** One standard deviation of the change. */
  sigmaPa: number
  /** Smallest loss that this test could have told from its own uncertainty, Pa a second. */
  smallestPaPerS: number
  /** The same as a leak, Pa m3/s, where the volume is known. */
  smallestLeakPaM3s?: number
  verdict: Verdict<PressureHoldCode, PressureHoldCode>
}

export type PressureHoldCode = 'pressure-held' | 'pressure-lost' | 'pressure-gained'

/**
 * Nitrogen hold, compensated for temperature: the ideal gas law in a closed volume. Judged only beyond two standard
 * deviations; limits of error a count as a/sqrt(3) each.
 */
export function judgePressureHold(hold: PressureHold): PressureHoldResult {
  const { startPa, endPa, startK, endK, heldS, gaugePa, clampK, volumeM3 } = hold
  const expectedPa = (startPa * endK) / startK
  const changePa = endPa - expectedPa
  const sigmaPa =
    Math.hypot(
      gaugePa,
      (gaugePa * endK) / startK,
      (expectedPa / startK) * clampK,
      (expectedPa / endK) * clampK,
    ) / Math.sqrt(3)
  const smallestPaPerS = (2 * sigmaPa) / heldS
  const code =
    changePa < -2 * sigmaPa ? 'pressure-lost' : changePa > 2 * sigmaPa ? 'pressure-gained' : 'pressure-held'
  return {
    expectedPa,
    changePa,
    sigmaPa,
    smallestPaPerS,
    ...(volumeM3 === undefined ? {} : { smallestLeakPaM3s: smallestPaPerS * volumeM3 }),
    verdict: {
      outcome: code === 'pressure-held' ? 'good' : code === 'pressure-lost' ? 'bad' : 'open',
      code,
      reasons: [{ code }],
      numbers: [],
      source: 'ideal gas law in a closed volume, p2 = p1 T2/T1',
    },
  }
}
