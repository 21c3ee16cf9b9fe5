import { rule, type Quantity, quantity, type Verdict } from '../verdict'
import { MG_PER_KG } from '../units'

/** A cylinder that was emptied, or is new, before it takes gas. Both ways to leave it are right; which one is kept. */
export type LeftIn = 'vacuum' | 'vapour'

export interface Preparation {
  stampedMg: number
  /** Empty, on the scale. */
  weighedMg: number
  /** What the scale counts in, mg. */
  divisionMg: number
  /** What pump, hoses and gauge reached alone, and what the cylinder was pulled to: absolute Pa. */
  provedPa: number
  pulledPa: number
}

export type PrepareCode = 'prepared' | 'kit-not-proved' | 'not-deep-enough' | 'tare-off'
export type PrepareReason =
  'kit-leaks-first' | 'pull-on' | 'tare-agrees' | 'tare-more' | 'tare-less' | 'valves-first'

/** 500 micron: what kit must reach alone, and a cylinder must be pulled to. */
const DEEP_PA = 500 * 0.133322368
/** A stamp is rounded, paint and a guard come and go: so much is no news, mg, and at least so many divisions. */
const TARE_MG = 50_000
const TARE_DIVISIONS = 3

/** Fit to take gas? By the kit's own vacuum, the cylinder's, and its weight against the stamp. */
export function judgePreparation(of: Preparation): Verdict<PrepareCode, PrepareReason> {
  const { stampedMg, weighedMg, divisionMg, provedPa, pulledPa } = of
  const offMg = weighedMg - stampedMg
  const numbers: Quantity[] = [
    quantity('start', provedPa, 'Pa'),
    quantity('end', pulledPa, 'Pa'),
    quantity('difference', offMg / MG_PER_KG, 'kg'),
  ]
  const say = (
    outcome: Verdict['outcome'],
    code: PrepareCode,
    ...reasons: PrepareReason[]
  ): Verdict<PrepareCode, PrepareReason> => ({
    outcome,
    code,
    reasons: reasons.map((reason) => ({ code: reason })),
    numbers,
    rule: rule('kit-and-tare', quantity('down-to', DEEP_PA, 'Pa')),
  })
  if (provedPa >= DEEP_PA) return say('caution', 'kit-not-proved', 'kit-leaks-first')
  if (pulledPa >= DEEP_PA) return say('caution', 'not-deep-enough', 'pull-on')
  if (Math.abs(offMg) > Math.max(TARE_MG, TARE_DIVISIONS * divisionMg))
    return say('caution', 'tare-off', offMg > 0 ? 'tare-more' : 'tare-less')
  return say('good', 'prepared', 'tare-agrees', 'valves-first')
}
