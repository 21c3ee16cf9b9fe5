/** A weight noted while recovering. */
export interface NotedWeight {
  /** Seconds from any zero. */
  atS: number
  massKg: number
}

/** How many times as long as at the present rate. */
interface Slower {
  least: number
  best: number
  most: number
}

export type TimeLeft =
  /** Until less than {@link REST_KG} is to come, seconds: best, least and most. */
  | { kind: 'steady'; kgPerS: number; leftS: number; leastS: number; mostS: number; slower: Slower }
  /**
   * Nobody knows how much should come. The weights alone do not tell: the curve bends while there is liquid left, and of 769
   * recoveries whose rate fell on the simulated plant, what an exponential through them said held for one in twenty-five.
   */
  | { kind: 'steady-unknown-end'; kgPerS: number }
  /** Nothing came for a minute or more. */
  | { kind: 'flat' }
  /** Less than before: gas flows back, or the scale was touched. */
  | { kind: 'falling'; kgPerS: number }

/** Done when less than this is still to come. */
const REST_KG = 0.02
const SCALE_KG = 0.005
/** Weights closer together than this tell no rate: a scale of 5 g jumps by more than comes in that time. */
const LEAST_STEP_S = 20
/** Nothing coming for less than this is no flat line. */
const FLAT_S = 60
/** Times the straight line to what is expected, since the vapour at the end is slower. Assumed, not measured. */
const SLOWER: Slower = { least: 1, best: 1.5, most: 3 }

/**
 * How long a transfer still takes, from a few weights and what should come: linear, and longer since it slows down.
 * @param noted three or more, at rising times
 * @param expectedKg what should come in all, where known
 * @throws RangeError for fewer than three weights or times that do not rise
 */
export function timeLeft(noted: readonly NotedWeight[], expectedKg?: number): TimeLeft {
  if (noted.length < 3) throw new RangeError('three weights are needed')
  if (noted.some((w, i) => i > 0 && !(w.atS > noted[i - 1]!.atS))) throw new RangeError('times must rise')
  const weights = spaced(noted)
  const last = weights.at(-1)!
  const before = weights.at(-2)
  if (!before) return { kind: 'steady-unknown-end', kgPerS: 0 }
  const latest = rateBetween(before, last)
  const stepKg = last.massKg - before.massKg
  if (stepKg <= -SCALE_KG) return { kind: 'falling', kgPerS: latest }
  if (stepKg < SCALE_KG)
    return last.atS - before.atS >= FLAT_S ? { kind: 'flat' } : { kind: 'steady-unknown-end', kgPerS: latest }
  if (expectedKg === undefined || expectedKg <= last.massKg)
    return { kind: 'steady-unknown-end', kgPerS: latest }
  const leftS = (expectedKg - last.massKg) / latest
  return {
    kind: 'steady',
    kgPerS: latest,
    leftS: SLOWER.best * leftS,
    leastS: leftS,
    mostS: SLOWER.most * leftS,
    slower: SLOWER,
  }
}

/**
 * What never comes in a pull: it stands in machine and hoses, and the oil gives it off afterwards. As much as usual, and as much as
 * can be: what is left beyond that surely comes. By 2,000 recoveries of 55 g to 20 kg on the simulated plant (`./keg bench left`).
 */
export const STAYS = { usual: { kg: 0.09, share: 0.025 }, most: { kg: 0.14, share: 0.05 } }
/**
 * How much longer than at the present rate: the less is left, the slower the rest comes, as the vapour of the last liquid. By the
 * same recoveries.
 */
const LONGER = { best: { least: 1.1, byShare: 0.08 }, most: { least: 2.3, byShare: 0.36, most: 14 } }

/**
 * As long as liquid comes its rate says little: what then boils off comes so many times slower, through narrow hoses less, through
 * wide ones more. By the same recoveries.
 */
const AFTER_LIQUID: Slower = { least: 2.5, best: 4.5, most: 9 }
/** Where nobody knows whether it is liquid, it may be either. */
const EITHER = { best: 2, most: 6 }
/** Below this share of its fastest rate the liquid is through. */
const SLOWED = 0.6

/**
 * How long a recovery still takes. Where it is known how much should come, by what is left and how fast it comes: never less than what
 * surely comes over the present rate.
 * @param expectedKg what should come in all of what these weights count
 * @param comes what comes now, by gauge or valve; unknown, it may be either while the rate is near its fastest
 * @throws RangeError for fewer than three weights or times that do not rise
 */
export function recoveryTimeLeft(
  noted: readonly NotedWeight[],
  expectedKg?: number,
  comes?: 'liquid' | 'vapour',
): TimeLeft {
  const found = timeLeft(noted, expectedKg)
  if (expectedKg === undefined || found.kind !== 'steady') return found
  const weights = spaced(noted)
  const [before, last] = [weights.at(-2)!, weights.at(-1)!]
  const kgPerS = rateBetween(before, last)
  const leftKg = expectedKg - last.massKg
  if (leftKg <= 0 || kgPerS <= 0) return found
  const comesKg = ({ kg, share }: { kg: number; share: number }) => leftKg - kg - share * expectedKg
  const usualKg = Math.max(REST_KG, comesKg(STAYS.usual))
  const leastS = Math.max(0, comesKg(STAYS.most)) / kgPerS
  const slower = slowerOf(expectedKg / usualKg, hasSlowed(weights) ? 'vapour' : comes)
  const straightS = usualKg / kgPerS
  return {
    kind: 'steady',
    kgPerS,
    leftS: Math.max(slower.least * leastS, slower.best * straightS),
    leastS: slower.least * leastS,
    mostS: slower.most * straightS,
    slower,
  }
}

function slowerOf(perShare: number, comes: 'liquid' | 'vapour' | undefined): Slower {
  if (comes === 'liquid') return AFTER_LIQUID
  const most = Math.min(LONGER.most.most, LONGER.most.least + LONGER.most.byShare * perShare)
  const best = Math.min(most, LONGER.best.least + LONGER.best.byShare * perShare)
  if (comes === 'vapour') return { least: 1, best, most }
  return { least: 1, best: Math.max(best, EITHER.best), most: Math.max(most, EITHER.most) }
}

function hasSlowed(weights: readonly NotedWeight[]): boolean {
  const rates = weights.slice(1).map((weight, i) => rateBetween(weights[i]!, weight))
  return rates.at(-1)! < SLOWED * Math.max(...rates)
}

/** The newest weights, and before them only those far enough apart to tell a rate; equal ones at the end as one step. */
function spaced(noted: readonly NotedWeight[]): NotedWeight[] {
  const last = noted.at(-1)!
  const kept = [last]
  for (const weight of noted.slice(0, -1).reverse()) {
    const next = kept[0]!
    if (next.atS - weight.atS < LEAST_STEP_S) continue
    // Equal weights at the end are one flat step, as long as they go back.
    const second = kept[1]
    if (second && kept.length === 2 && next !== last && sameAs(weight, last) && sameAs(next, last))
      kept[0] = weight
    else kept.unshift(weight)
  }
  return kept
}

const sameAs = (a: NotedWeight, b: NotedWeight) => Math.abs(a.massKg - b.massKg) < SCALE_KG

function rateBetween(a: NotedWeight, b: NotedWeight): number {
  return (b.massKg - a.massKg) / (b.atS - a.atS)
}
