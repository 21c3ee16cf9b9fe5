import { PA_PER_MICRON } from '../units'
import type { Verdict } from '../verdict'

export interface HoldReading {
  /** Seconds since the pump was valved off. */
  atS: number
  /** Absolute Pa. */
  pressurePa: number
}

export interface HoldRule {
  targetPa: number
  limitPa: number
  leastS: number
}

/** 500 micron reached, then at least 10 min below 1000. Makers may want less: their figure wins. */
export const HOLD_RULE: HoldRule = {
  targetPa: 500 * PA_PER_MICRON,
  limitPa: 1000 * PA_PER_MICRON,
  leastS: 600,
}

/**
 * Did the vacuum hold? Pass or fail only. What a rise means (leak or moisture) is a question of its own, which two
 * or three readings cannot decide.
 * @param readings from valving off to the end, in order; at least one
 */
export function judgeHold(readings: HoldReading[], rule: HoldRule = HOLD_RULE): Verdict {
  const first = readings[0]
  const last = readings.at(-1)
  if (!first || !last) throw new RangeError('a hold needs at least one reading')
  const numbers: Verdict['numbers'] = [
    { name: 'start', value: first.pressurePa, unit: 'Pa' },
    { name: 'end', value: last.pressurePa, unit: 'Pa' },
    { name: 'held-for', value: last.atS - first.atS, unit: 's' },
    { name: 'limit', value: rule.limitPa, unit: 'Pa' },
  ]
  const source =
    'common practice: pump valved off, at least 10 min, must stay below 1000 micron; the maker’s figure wins'
  const highest = Math.max(...readings.map((r) => r.pressurePa))
  if (highest > rule.limitPa)
    return {
      outcome: 'bad',
      code: 'hold-failed',
      reasons: [{ code: 'rose-above-limit' }, { code: 'cause-undecided' }],
      numbers,
      source,
    }
  if (last.atS - first.atS < rule.leastS)
    return { outcome: 'open', code: 'too-soon', reasons: [{ code: 'hold-longer' }], numbers, source }
  if (first.pressurePa > rule.targetPa)
    return {
      outcome: 'caution',
      code: 'held-but-shallow',
      reasons: [{ code: 'target-not-reached' }],
      numbers,
      source,
    }
  return {
    outcome: 'good',
    code: 'tight-and-dry',
    reasons: [{ code: 'stayed-below-limit' }],
    numbers,
    source,
  }
}
