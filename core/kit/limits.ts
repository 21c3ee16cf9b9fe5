import { divisionMg, OFF_BY_DIVISIONS } from '../scales'
import { PA_PER_BAR } from '../units'
import type { KitFacts } from './kinds'

/** What a piece of kit may be off, as a limit of error, with where that comes from. */
export interface Limit {
  value: number
  /** Its maker's figure, or what is reckoned with where nobody knows it. */
  known: boolean
}

/** Where nobody knows it: an ordinary gauge, 1 % of 20 bar; an ordinary clamp; an ordinary vacuum gauge. */
export const ASSUMED = { gaugePa: 0.2 * PA_PER_BAR, clampK: 1, vacuumPct: 20 } as const

/** Limit of error of a pressure read on a gauge, Pa: its class of its full scale. */
export function gaugeLimitPa({ fullScalePa, classPct }: KitFacts): Limit {
  if (fullScalePa === undefined || classPct === undefined) return { value: ASSUMED.gaugePa, known: false }
  return { value: (fullScalePa * classPct) / 100, known: true }
}

/** Limit of error of a clamp or thermometer, K. */
export function clampLimitK({ accuracyK }: KitFacts): Limit {
  return accuracyK === undefined ? { value: ASSUMED.clampK, known: false } : { value: accuracyK, known: true }
}

/** Limit of error of a vacuum gauge, percent of its reading. */
export function vacuumLimitPct({ accuracyPct }: KitFacts): Limit {
  return accuracyPct === undefined
    ? { value: ASSUMED.vacuumPct, known: false }
    : { value: accuracyPct, known: true }
}

/**
 * How far a scale may read off a known weight, mg: its stated accuracy, else two of its divisions (an assumption, as
 * where two scales are compared), and half a division for the reading.
 */
export function scaleLimitMg({ divisionMg: own, accuracyMg }: KitFacts, knownMg: number): Limit {
  const division = divisionMg(own ?? null, knownMg)
  return {
    value: (accuracyMg ?? OFF_BY_DIVISIONS * division) + division / 2,
    known: accuracyMg !== undefined,
  }
}
