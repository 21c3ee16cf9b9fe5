import { waterPa } from '../refrigerants'
import { PA_PER_MICRON } from '../units'
import { type Quantity, quantity, quantityBetween, type Reason } from '../verdict'
import {
  type Answer,
  type Cause,
  judgeCause,
  knownAfterS,
  odditiesIn,
  type Oddity,
  DRY_END,
  DRY_RISE,
  NO_LEAK,
} from './curve'
import { HOLD_RULE, holdPassed, type HoldReading, type HoldRule, type HoldVerdict, judgeHold } from './hold'
import type { CauseReason, HoldCode } from './hold-codes'
import { inflow, lostInYearKg } from './leak-size'

export interface VacuumGiven {
  readings: readonly HoldReading[]
  rule?: HoldRule
  /** What the gauge may be off, percent of the reading. */
  gaugePct?: number
  /** Around the system, K, at the beginning and at the end. */
  ambientK?: number
  ambientEndK?: number
  /** The hold before this one on the same system, pumped in between and nothing repaired. */
  previous?: readonly HoldReading[]
  /** Inner volume of the system, m3: a range where it is a guess. */
  volumeM3?: { least: number; most: number }
  /** What it will hold: its standing pressure, absolute Pa, molar mass, and how much of it. */
  gas?: { workingPa: number; molarMassG: number; chargeKg?: number }
}

export interface VacuumJudgement {
  verdict: HoldVerdict
  /** Passed by target and limit: an answer of its own. undefined: too soon. */
  pass: boolean | undefined
  leak: Answer
  moisture: Answer
  /** Smallest leak that would have shown, Pa/s; undefined where nothing can be read. */
  smallestPaS?: number
  /** What the curve says, where it was fitted. */
  cause?: Cause
  knownAfterS?: number
}

const USUAL_K = 293.15
/** A rise beside that of the hold before: the same, or clearly less. */
const SAME = 0.25
const FELL = 0.6

/**
 * A vacuum hold: pass or fail by target and limit, and apart from it leak and moisture from the curve. What to do next
 * comes first among the reasons. Wrong inputs leave the cause open and are named.
 * @throws RangeError without a reading
 */
export function judgeVacuum(given: VacuumGiven): VacuumJudgement {
  const { readings, rule = HOLD_RULE, gaugePct = 0, ambientK, ambientEndK, previous } = given
  const held = judgeHold(readings, rule, gaugePct)
  // A manifold gauge shows no curve to read a cause from.
  if (rule.manifoldRisePa !== undefined)
    return {
      verdict: held,
      pass: held.code === 'too-soon' ? undefined : holdPassed(held.code),
      ...OPEN,
    }
  const odd = odditiesIn(
    readings,
    ambientK !== undefined && ambientEndK !== undefined ? { startK: ambientK, endK: ambientEndK } : undefined,
  )
  const asked = { ...(ambientK !== undefined && { ambientK }), ...(previous && { previous }) }
  const cause = odd.length === 0 ? judgeCause({ readings, ...asked }) : undefined
  const { leak, moisture } = odd.length > 0 ? OPEN : (cause ?? byTheRise(readings))
  if (cause?.open.includes('fits-nothing')) odd.push('fits-nothing')
  const open = leak === 'open' || moisture === 'open'
  const later = open && cause ? knownAfterS(cause, asked) : undefined
  const unreadable = odd.some((each) => NO_HOLD.includes(each))
  const code = unreadable ? 'hold-not-readable' : codeOf(held.code, leak, moisture)
  const reasons: HoldVerdict['reasons'] = [
    ...odd.map((each) => ({ code: each })),
    ...(unreadable ? [] : nextToDo(held.code, leak, moisture, readings).map((each) => ({ code: each }))),
    ...(unreadable ? [] : held.reasons),
    ...(odd.length > 0 ? [] : causeReasons(leak, moisture, cause)),
    ...(odd.length === 0 && open && readings.length > 2
      ? [{ code: later === undefined ? ('pump-again-to-know' as const) : ('known-later' as const) }]
      : []),
    ...comparedWith(previous, readings).map((each) => ({ code: each })),
  ]
  const passed = held.code === 'too-soon' || unreadable ? undefined : holdPassed(held.code)
  const verdict: HoldVerdict = {
    ...held,
    outcome: OUTCOMES[code],
    code,
    reasons,
    numbers: [
      ...held.numbers,
      ...(cause && odd.length === 0 ? numbersOf(cause, leak, moisture, given) : []),
      ...(later === undefined ? [] : [quantity('known-after', later, 's')]),
    ],
    rule: { ...held.rule, code: 'hold-by-curve' },
  }
  return {
    verdict,
    pass: passed,
    leak,
    moisture,
    ...smallest(cause, readings, odd.length > 0),
    ...(cause && { cause }),
    ...(later !== undefined && { knownAfterS: later }),
  }
}

function smallest(cause: Cause | undefined, readings: readonly HoldReading[], odd: boolean) {
  if (odd) return {}
  if (cause) return { smallestPaS: cause.smallestSlope * PA_PER_MICRON }
  const { heldS, mostRiseMicron } = wholeRise(readings)
  return heldS > 0 ? { smallestPaS: (mostRiseMicron / heldS) * PA_PER_MICRON } : {}
}

/** Then it was no hold, or not this one: neither pass nor fail. */
const NO_HOLD: readonly Oddity[] = ['never-isolated', 'gauge-replaced', 'unit-mistaken']

const OPEN: { leak: Answer; moisture: Answer } = { leak: 'open', moisture: 'open' }

const OUTCOMES: Record<HoldCode, HoldVerdict['outcome']> = {
  'hold-failed': 'bad',
  'too-soon': 'open',
  'too-near-to-tell': 'open',
  'held-but-shallow': 'caution',
  'held-but-leaking': 'caution',
  'held-but-wet': 'caution',
  'hold-not-readable': 'open',
  held: 'good',
  'held-by-manifold': 'good',
  'tight-and-dry': 'good',
}

function codeOf(held: HoldCode, leak: Answer, moisture: Answer): HoldCode {
  if (held !== 'held') return held
  if (leak === 'yes') return 'held-but-leaking'
  if (moisture === 'yes') return 'held-but-wet'
  return leak === 'no' && moisture === 'no' ? 'tight-and-dry' : 'held'
}

/** Two or three readings: the whole rise bounds the leak, and hardly any rise means dry. */
function byTheRise(readings: readonly HoldReading[]): { leak: Answer; moisture: Answer } {
  const { heldS, riseMicron, endMicron, mostRiseMicron } = wholeRise(readings)
  const long = heldS >= HOLD_RULE.leastS
  return {
    leak: long && mostRiseMicron < NO_LEAK * heldS ? 'no' : 'open',
    moisture: long && endMicron < DRY_END && riseMicron < DRY_RISE ? 'no' : 'open',
  }
}

function wholeRise(readings: readonly HoldReading[]) {
  const first = readings[0]!
  const last = readings.at(-1)!
  const riseMicron = (last.pressurePa - first.pressurePa) / PA_PER_MICRON
  const endMicron = last.pressurePa / PA_PER_MICRON
  return {
    heldS: last.atS - first.atS,
    riseMicron,
    endMicron,
    // Two standard deviations of two readings by eye.
    mostRiseMicron: Math.max(0, riseMicron) + 2 * Math.hypot(0.01 * endMicron, 2),
  }
}

function nextToDo(
  held: HoldCode,
  leak: Answer,
  moisture: Answer,
  readings: readonly HoldReading[],
): CauseReason[] {
  if (leak === 'yes') return ['find-the-leak-first', ...(moisture === 'yes' ? (['dry-it'] as const) : [])]
  if (moisture === 'yes' && (held === 'hold-failed' || held === 'held')) return ['dry-it', ...ice(readings)]
  return held === 'hold-failed' ? ['pump-and-hold-again'] : []
}

/** What is drawn below the vapour of ice, and then comes back up to about it, was frozen. */
function ice(readings: readonly HoldReading[]): CauseReason[] {
  const end = readings.at(-1)!.pressurePa
  const triple = waterPa(273.15)
  return readings[0]!.pressurePa < 0.5 * triple && end > 0.7 * triple && end < 1.1 * triple
    ? ['frozen-water']
    : []
}

function causeReasons(leak: Answer, moisture: Answer, cause?: Cause): Reason<CauseReason>[] {
  const why: CauseReason = cause?.open.includes('too-short')
    ? 'leak-too-soon'
    : cause?.open.includes('leak-beside-water')
      ? 'leak-beside-water'
      : 'leak-open'
  return [
    { code: leak === 'yes' ? 'leak-certain' : leak === 'no' ? 'leak-excluded' : why },
    { code: moisture === 'yes' ? 'water-certain' : moisture === 'no' ? 'water-excluded' : waterOpen(cause) },
    ...(cause?.byPrevious ? [{ code: 'by-the-hold-before' as const }] : []),
  ]
}

const waterOpen = (cause?: Cause): CauseReason =>
  cause?.open.includes('more-than-water') ? 'more-than-water' : 'water-open'

/** The whole rise over the same time as in the hold before: a leak's stays, water gives less each time. */
function comparedWith(
  previous: readonly HoldReading[] | undefined,
  readings: readonly HoldReading[],
): CauseReason[] {
  if (!previous || previous.length < 2 || readings.length < 2) return []
  const forS = Math.min(length(previous), length(readings))
  if (forS < 240) return []
  const [before, now] = [riseIn(previous, forS), riseIn(readings, forS)]
  if (before < 60 * PA_PER_MICRON) return []
  if (Math.abs(now - before) <= SAME * before) return ['rise-stayed']
  return now < FELL * before ? ['rise-fell'] : []
}

const length = (readings: readonly HoldReading[]) => readings.at(-1)!.atS - readings[0]!.atS
function riseIn(readings: readonly HoldReading[], forS: number): number {
  const first = readings[0]!
  const until = readings.findIndex((each) => each.atS - first.atS >= forS)
  const after = readings[until]!
  const before = readings[Math.max(0, until - 1)]!
  const share = after === before ? 0 : (first.atS + forS - before.atS) / (after.atS - before.atS)
  return before.pressurePa + share * (after.pressurePa - before.pressurePa) - first.pressurePa
}

const YEAR_S = 365 * 86_400

function numbersOf(
  cause: Cause,
  leak: Answer,
  moisture: Answer,
  { volumeM3, gas, ambientK }: VacuumGiven,
): Quantity[] {
  const pa = (micron: number) => micron * PA_PER_MICRON
  const tempK = ambientK ?? USUAL_K
  const numbers: Quantity[] = []
  const flow = (least: number, most: number) =>
    volumeM3 && ([inflow(pa(least), volumeM3.least), inflow(pa(most), volumeM3.most)] as const)
  const year = (paM3S: number) => gas && lostInYearKg(paM3S, gas.workingPa, gas.molarMassG, tempK)
  const loses = (name: 'leak-year' | 'smallest-year', flows: readonly [number, number]): Quantity[] => {
    const [slow, fast] = [year(flows[0]), year(flows[1])]
    if (slow === undefined || fast === undefined || fast <= 0) return []
    // Another flow than viscous, another way through a seal: half and twice as much.
    const [least, most] = [slow / 2, 2 * fast]
    const chargeKg = gas?.chargeKg
    // More than there is cannot be lost: then it is a matter of when.
    if (!chargeKg || least < chargeKg) return [quantityBetween(name, least, most, 'kg')]
    return [quantityBetween('gone-in', (chargeKg * YEAR_S) / most, (chargeKg * YEAR_S) / least, 's')]
  }
  if (leak === 'yes') {
    const { least, most } = cause.slope
    // The fit knows best; the range has in it what may creep as well.
    const best = pa(cause.curve.slope)
    numbers.push({ ...quantityBetween('leak-slope', pa(least), pa(most), 'Pa/s'), value: best })
    const range = flow(least, most)
    if (range && volumeM3) {
      const value = inflow(best, Math.sqrt(volumeM3.least * volumeM3.most))
      numbers.push({ ...quantityBetween('leak-flow', ...range, 'Pa m3/s'), value })
    }
    if (range) numbers.push(...loses('leak-year', range))
  } else {
    numbers.push(quantity('smallest-leak', pa(cause.smallestSlope), 'Pa/s'))
    const range = flow(cause.smallestSlope, cause.smallestSlope)
    if (range) numbers.push(...loses('smallest-year', range))
  }
  if (moisture === 'yes') {
    const { fastMicron, fastS, slowMicron, slowS } = cause.curve
    numbers.push(quantity('water', pa(fastMicron + slowMicron), 'Pa'))
    numbers.push(quantity('water-time', slowMicron >= fastMicron ? slowS : fastS, 's'))
    numbers.push(quantity('water-share', Math.min(1, pa(fastMicron + slowMicron) / waterPa(tempK)), 'share'))
  }
  return numbers
}
