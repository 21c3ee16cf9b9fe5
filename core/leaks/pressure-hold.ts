import { STANDARD_ATMOSPHERE_PA } from '../units'
import { quantity, rule, type Verdict } from '../verdict'

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
  /** The air around, Pa; left out: at sea level. */
  atmospherePa?: number
  /** What the circuit may be tested with, absolute Pa, where somebody knows. */
  mostPa?: number
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
  /** It has to stand so long before "held" says anything, s. */
  leastS: number
  verdict: Verdict<PressureHoldCode, PressureHoldCode>
}

export type PressureHoldCode =
  'pressure-held' | 'pressure-lost' | 'pressure-gained' | 'pressure-too-short' | 'pressure-too-low'

/** What a hold must be able to find: a leak that lets all of it out in this time, s. Finer ones are for other methods. */
const ALL_OUT_S = 3 * 86_400
/** No hold tells anything sooner, s: nitrogen cools down after it is let in. */
const LEAST_S = 600
/** A joint that weeps at its test pressure is tight at a tenth of it: at least so much of it. */
const LEAST_SHARE = 0.5

/**
 * Nitrogen hold, compensated for temperature: the ideal gas law in a closed volume. Judged only beyond two standard
 * deviations; limits of error a count as a/sqrt(3) each. Nothing lost says something only after a time in which a leak
 * that lets all of it out in three days would have shown, and at no less than half of what it may be tested with.
 */
export function judgePressureHold(hold: PressureHold): PressureHoldResult {
  const { startPa, endPa, startK, endK, heldS, gaugePa, clampK, volumeM3, mostPa } = hold
  const { atmospherePa = STANDARD_ATMOSPHERE_PA } = hold
  const abovePa = startPa - atmospherePa
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
  const leastS = abovePa > 0 ? Math.max(LEAST_S, (2 * sigmaPa * ALL_OUT_S) / abovePa) : Infinity
  const tooLow = abovePa <= 0 || (mostPa !== undefined && abovePa < LEAST_SHARE * (mostPa - atmospherePa))
  const code = ((): PressureHoldCode => {
    if (changePa < -2 * sigmaPa) return 'pressure-lost'
    if (changePa > 2 * sigmaPa) return 'pressure-gained'
    if (tooLow) return 'pressure-too-low'
    return heldS < leastS ? 'pressure-too-short' : 'pressure-held'
  })()
  return {
    expectedPa,
    changePa,
    sigmaPa,
    smallestPaPerS,
    ...(volumeM3 === undefined ? {} : { smallestLeakPaM3s: smallestPaPerS * volumeM3 }),
    leastS,
    verdict: {
      outcome: code === 'pressure-held' ? 'good' : code === 'pressure-lost' ? 'bad' : 'open',
      code,
      reasons: [{ code }],
      numbers: [],
      // Without pressure above the air no time is long enough.
      rule: rule(
        'gas-in-closed-volume',
        ...(Number.isFinite(leastS) ? [quantity('at-least', leastS, 's')] : []),
      ),
    },
  }
}
