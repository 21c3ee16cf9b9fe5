/** A weight noted while recovering. */
export interface NotedWeight {
  /** Seconds from any zero. */
  atS: number
  massKg: number
}

export type TimeLeft =
  | {
      kind: 'levelling'
      /** Where the weight levels off, kg. */
      endKg: number
      tauS: number
      /** Until less than {@link REST_KG} is to come, seconds: best, least and most; most is Infinity when open. */
      leftS: number
      leastS: number
      mostS: number
    }
  | { kind: 'steady'; kgPerS: number; leftS: number; leastS: number; mostS: number }
  | { kind: 'steady-unknown-end'; kgPerS: number }
  | { kind: 'flat' }

/** Done when less than this is still to come. */
export const REST_KG = 0.02
const SCALE_KG = 0.005
const FALLING = 0.75
/** No recovery is a clean exponential: the range is never narrower than this. */
const ROUGH = { least: 0.8, most: 1.4 }

/**
 * How long a recovery still takes, from a few weights. Once the rate falls: least squares of w_end - A exp(-t/tau), the
 * range over all tau that the scale's 5 g cannot tell apart (chi-square within 4). Before: linear to what is expected.
 * @param weights three or more, at rising times
 * @param expectedKg what should come in all, where known
 * @throws RangeError for fewer than three weights or times that do not rise
 */
export function timeLeft(weights: readonly NotedWeight[], expectedKg?: number): TimeLeft {
  if (weights.length < 3) throw new RangeError('three weights are needed')
  const rates = weights.slice(1).map((w, i) => {
    const before = weights[i]!
    if (!(w.atS > before.atS)) throw new RangeError('times must rise')
    return (w.massKg - before.massKg) / (w.atS - before.atS)
  })
  const last = weights.at(-1)!
  const latest = rates.at(-1)!
  const lastStepS = last.atS - weights.at(-2)!.atS
  if (Math.abs(latest) * lastStepS < SCALE_KG) return { kind: 'flat' }
  if (latest < FALLING * Math.max(...rates.slice(0, -1))) return levelling(weights)
  if (latest <= 0 || expectedKg === undefined || expectedKg <= last.massKg)
    return { kind: 'steady-unknown-end', kgPerS: latest }
  const leftS = (expectedKg - last.massKg) / latest
  // A recovery slows towards its end: the straight line is the least.
  return { kind: 'steady', kgPerS: latest, leftS: 1.5 * leftS, leastS: leftS, mostS: 3 * leftS }
}

function levelling(weights: readonly NotedWeight[]): TimeLeft {
  const zeroS = weights[0]!.atS
  const lastS = weights.at(-1)!.atS - zeroS
  const fits = []
  for (let tauS = lastS / 8; tauS <= lastS * 20; tauS *= 1.01) {
    const fit = fitAt(weights, zeroS, tauS)
    const restKg = fit.amplitudeKg * Math.exp(-lastS / tauS)
    if (restKg <= 0) continue
    fits.push({ ...fit, tauS, leftS: Math.max(0, tauS * Math.log(restKg / REST_KG)) })
  }
  const latest = weights.at(-1)!
  const before = weights.at(-2)!
  if (fits.length === 0)
    return {
      kind: 'steady-unknown-end',
      kgPerS: (latest.massKg - before.massKg) / (latest.atS - before.atS),
    }
  const best = fits.reduce((a, b) => (b.chi2 < a.chi2 ? b : a))
  const plausible = fits.filter((fit) => fit.chi2 - best.chi2 <= 4)
  return {
    kind: 'levelling',
    endKg: best.endKg,
    tauS: best.tauS,
    leftS: best.leftS,
    leastS: Math.min(ROUGH.least * best.leftS, ...plausible.map((fit) => fit.leftS)),
    // The slowest that was tried still fits: nobody can say how long.
    mostS: plausible.includes(fits.at(-1)!)
      ? Infinity
      : Math.max(ROUGH.most * best.leftS, ...plausible.map((fit) => fit.leftS)),
  }
}

/** Linear least squares of w = end - A exp(-t/tau) for one tau. */
function fitAt(weights: readonly NotedWeight[], zeroS: number, tauS: number) {
  const xs = weights.map((w) => Math.exp(-(w.atS - zeroS) / tauS))
  const n = weights.length
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / n
  const meanX = mean(xs)
  const meanY = mean(weights.map((w) => w.massKg))
  let sxy = 0
  let sxx = 0
  weights.forEach((w, i) => {
    sxy += (xs[i]! - meanX) * (w.massKg - meanY)
    sxx += (xs[i]! - meanX) ** 2
  })
  const amplitudeKg = -sxy / sxx
  const endKg = meanY + amplitudeKg * meanX
  const chi2 = weights.reduce(
    (sum, w, i) => sum + ((w.massKg - endKg + amplitudeKg * xs[i]!) / SCALE_KG) ** 2,
    0,
  )
  return { amplitudeKg, endKg, chi2 }
}
