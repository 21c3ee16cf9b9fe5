import { PA_PER_MICRON } from '../units'
import { type Quantity, quantity, rule as judgedBy, type Verdict } from '../verdict'
import type { HoldCode, HoldReason } from './hold-codes'

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
  /** Read on a manifold gauge: the whole rise that is none to it, Pa. */
  manifoldRisePa?: number
}

/** One division of a compound gauge, 1 inHg. */
const DIVISION_PA = 3_386
/**
 * Vehicles by time: down to the end of what a compound gauge shows (28 inHg of 29.9), no more than a division of rise, and
 * at least 5 min.
 */
export const MANIFOLD_RULE = {
  targetPa: 2 * DIVISION_PA,
  limitPa: 3 * DIVISION_PA,
  manifoldRisePa: DIVISION_PA,
  leastS: 300,
}

/** 500 micron reached, then at least 10 min below 1000. Makers may want less: their figure wins. */
export const HOLD_RULE: HoldRule = {
  targetPa: 500 * PA_PER_MICRON,
  limitPa: 1000 * PA_PER_MICRON,
  leastS: 600,
}

const PASSES: readonly string[] = ['held', 'tight-and-dry', 'held-by-manifold'] satisfies HoldCode[]

/** Whether one may go on with it. What held and leaks, or is wet, or cannot be read, is no pass. */
export const holdPassed = (code: string): boolean => PASSES.includes(code)

export type HoldVerdict = Verdict<HoldCode, HoldReason>

/**
 * Did the vacuum hold? Pass or fail only. What a rise means (leak or moisture) is a question of its own: see
 * {@link judgeVacuum}.
 * @param readings from valving off to the end, in order; at least one
 * @param gaugePct what the gauge may be off, percent of the reading: where it may have passed the limit, nobody can tell
 */
export function judgeHold(
  readings: readonly HoldReading[],
  rule: HoldRule = HOLD_RULE,
  gaugePct = 0,
): HoldVerdict {
  const first = readings[0]
  const last = readings.at(-1)
  if (!first || !last) throw new RangeError('a hold needs at least one reading')
  const highestPa = readings.reduce((most, { pressurePa }) => Math.max(most, pressurePa), 0)
  const gauge = gaugePct / 100
  const pressure = (name: 'start' | 'end' | 'highest', pa: number) =>
    quantity(name, pa, 'Pa', ...(gauge > 0 ? [(gauge * pa) / Math.sqrt(3)] : []))
  // Above it is above it; below it nobody can be sure where the gauge may have read too little.
  const near = gauge > 0 && highestPa <= rule.limitPa && highestPa * (1 + gauge) >= rule.limitPa
  const numbers = [
    pressure('start', first.pressurePa),
    pressure('end', last.pressurePa),
    pressure('highest', highestPa),
    quantity('held-for', last.atS - first.atS, 's'),
    quantity('limit', rule.limitPa, 'Pa'),
  ]
  const { manifoldRisePa } = rule
  const target = quantity('down-to', rule.targetPa, 'Pa')
  const atLeast = quantity('at-least', rule.leastS, 's')
  const FIGURES: Partial<Record<HoldReason, Quantity>> = {
    'hold-longer': atLeast,
    'target-not-reached': target,
  }
  const verdict = (outcome: Verdict['outcome'], code: HoldCode, ...reasons: HoldReason[]): HoldVerdict => ({
    outcome,
    code,
    reasons: reasons.map((reason) => {
      const figure = FIGURES[reason]
      return figure ? { code: reason, numbers: [figure] } : { code: reason }
    }),
    numbers,
    rule: judgedBy(
      manifoldRisePa === undefined ? 'hold-below-limit' : 'hold-on-manifold',
      target,
      quantity('limit', rule.limitPa, 'Pa'),
      atLeast,
    ),
  })
  if (manifoldRisePa !== undefined) {
    if (highestPa - first.pressurePa > manifoldRisePa)
      return verdict('bad', 'hold-failed', 'rose-on-manifold')
    if (last.atS - first.atS < rule.leastS) return verdict('open', 'too-soon', 'hold-longer')
    if (first.pressurePa > rule.targetPa) return verdict('caution', 'held-but-shallow', 'target-not-reached')
    return verdict('good', 'held-by-manifold', 'manifold-sees-little')
  }
  if (highestPa > rule.limitPa) return verdict('bad', 'hold-failed', 'rose-above-limit')
  if (near) return verdict('open', 'too-near-to-tell', 'limit-within-gauge')
  if (last.atS - first.atS < rule.leastS) return verdict('open', 'too-soon', 'hold-longer')
  if (first.pressurePa > rule.targetPa) return verdict('caution', 'held-but-shallow', 'target-not-reached')
  return verdict('good', 'held', 'stayed-below-limit')
}
