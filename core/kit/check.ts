import type { ActCode, KitFacts } from './kinds'
import { clampLimitK, gaugeLimitPa, scaleLimitMg, vacuumLimitPct } from './limits'

/** What a check found: mg, Pa or K, by the act. */
export interface CheckFound {
  known: number
  read: number
}

export interface CheckResult {
  passed: boolean
  /** Read less known. */
  off: number
  /** Limit of error that it was held against. */
  limit: number
  /** The limit is the maker's; else what is reckoned with where nobody knows it. */
  limitKnown: boolean
}

/** Checks in which something is read against something known. */
export type Comparison = 'scale-check' | 'zero-check' | 'temperature-check' | 'vacuum-check'

/** What each of them reads. zero-check: the needle in open air, against zero. */
export const READS: Record<Comparison, 'weight' | 'pressure' | 'temperature' | 'vacuum'> = {
  'scale-check': 'weight',
  'zero-check': 'pressure',
  'temperature-check': 'temperature',
  'vacuum-check': 'vacuum',
}

export const isComparison = (code: ActCode): code is Comparison => Object.hasOwn(READS, code)

/**
 * Whether an instrument is within what it may be off. At its limit it still is.
 * @param found mg for scales, Pa for gauges (both absolute, or both gauge), K for thermometers
 */
export function judgeCheck(code: Comparison, facts: KitFacts, { known, read }: CheckFound): CheckResult {
  const limit = limitOf(code, facts, known)
  const off = read - known
  return { passed: Math.abs(off) <= limit.value + 1e-9, off, limit: limit.value, limitKnown: limit.known }
}

function limitOf(code: Comparison, facts: KitFacts, known: number) {
  switch (code) {
    case 'scale-check':
      return scaleLimitMg(facts, known)
    case 'zero-check':
      return gaugeLimitPa(facts)
    case 'temperature-check':
      return clampLimitK(facts)
    case 'vacuum-check': {
      const share = vacuumLimitPct(facts)
      return { value: (share.value / 100) * known, known: share.known }
    }
  }
}
