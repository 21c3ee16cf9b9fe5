import { waterPa } from '../../refrigerants'
import { PA_PER_MICRON } from '../../units'
import type { HoldReading } from '../hold'
import { type Point, pointsOf } from './bins'
import { type Curve, type Fit, Fitter, type Restriction } from './fit'
import { jointly } from './jointly'

export type Answer = 'yes' | 'no' | 'open'

export interface CauseGiven {
  /** From valving off, in order. */
  readings: readonly HoldReading[]
  /** Around the system, K: what water can reach depends on it. Left out: it may be as warm as 40 C. */
  ambientK?: number
  /** The hold before this one on the same system, pumped in between and nothing repaired. */
  previous?: readonly HoldReading[]
  /** Last digit of the gauge, micron. */
  resolutionMicron?: number
}

export interface Cause {
  leak: Answer
  moisture: Answer
  /** The fitted curve, and what it was fitted to. */
  curve: Curve
  points: readonly Point[]
  /** Smallest leak that this hold could have shown, micron a second. */
  smallestSlope: number
  /** What the leak may be, micron a second: two standard deviations each way. */
  slope: { least: number; most: number }
  /** The hold before decided what this one alone leaves open. */
  byPrevious: boolean
  /** Why it stays open, where it does. */
  open: OpenWhy[]
}

export type OpenWhy =
  | 'too-short'
  | 'leak-within-doubt'
  | 'leak-beside-water'
  | 'water-within-doubt'
  | 'more-than-water'
  | 'fits-nothing'

/** A misfit of this much is neither outgassing, nor water, nor leak, nor all of them. */
const FITS_NOTHING = 8

/**
 * Worse by this much than the best fit, in units of its own misfit, is beyond doubt. More is asked of few readings, of
 * water, of a leak beside water or beside what creeps, and of two holds together.
 */
const BEYOND_DOUBT = { live: 10, few: 16, water: 24, beside: 16, joint: 20 }
const FEW = 10
/** Fewer than this say pass or fail only. */
const LEAST_POINTS = 4
/** The misfit of one that a good gauge makes may be this much smaller than reckoned with. */
const LEAST_MISFIT = 0.4
/** Oil, seals and walls give off less than the first; what counts as water adds the second in half an hour, micron. */
const OUTGASSING_MICRON = 220
const WATER_MICRON = 330
/** Hardly risen, and well below the target: there is no water, micron. */
export const DRY_END = 500
export const DRY_RISE = 150
/** Smallest leak that is called one: micron a second, and share of the rise. "No leak": none of the last. */
const LEAST_SLOPE = 5 / 60
const SLOPE_SHARE = 0.02
export const NO_LEAK = 10 / 60
/** A leak takes longer than this to be told from what gives off gas, s. */
const LEAST_FOR_LEAK_S = 570
const COLDEST_K = 278.15
const WARMEST_K = 313.15
const USUAL_K = 293.15
/** A spot of water may be this much warmer than the air around. */
const WARMER_K = 3
/** What water gives more for each kelvin, and how fast it may get colder unseen, K a second. */
const WATER_PER_K = 0.06
const WATER_DRIFT_K_S = 0.6 / 1800
/** Against so much water a leak must have brought this share to be told from its tail. */
const BESIDE_WATER = 0.2
const BESIDE_MUCH_WATER = 0.5
const MUCH_MICRON = 5000

/**
 * Leak and moisture, each on its own: yes, no or open. A sum of outgassing, water and leak is fitted; an answer is
 * given only where the other one is beyond doubt wrong. A leak is left open while it could be the tail of the water.
 * undefined: too few readings for any of it.
 * Source: non-negative least squares over a grid of time constants, as in the judge of hold tests; `./keg bench vacuum`
 * prints how often it is right.
 */
export function judgeCause(given: CauseGiven): Cause | undefined {
  const { readings, ambientK, previous, resolutionMicron } = given
  const points = pointsOf(readings, resolutionMicron)
  if (points.length < LEAST_POINTS) return undefined
  const heldS = points.at(-1)!.atS
  const end = points.at(-1)!.micron
  const rise = Math.max(0, end - points[0]!.micron)
  const waterMost = waterPa((ambientK ?? WARMEST_K) + WARMER_K) / PA_PER_MICRON
  const fitterOf = (of: readonly Point[]) => new Fitter(of, waterMost, ambientK ?? USUAL_K)
  const fitter = fitterOf(points)
  const full = fitter.best()
  const doubt = new Doubt(fitter, full)
  const leastSlope = Math.max(LEAST_SLOPE, (SLOPE_SHARE * rise) / heldS)
  const open: OpenWhy[] = []

  // What levels off above all that water can give at this temperature is something else, whatever it is besides.
  const tooMuch = waterIn(full) > waterMost + OUTGASSING_MICRON
  const moisture = tooMuch ? 'open' : moistureIn(doubt, full, end, rise)
  if (moisture === 'open') open.push(tooMuch ? 'more-than-water' : 'water-within-doubt')
  const saturated = waterPa(ambientK ?? COLDEST_K) / PA_PER_MICRON
  const none = noLeakAbove(full, saturated)
  let leak: Answer = 'open'
  if (none > 0 && doubt.of({ slope: { least: none } }) > doubt.beyond) leak = 'no'
  const beside = moisture === 'no' ? doubt.beyond : BEYOND_DOUBT.beside
  if (full.slope >= leastSlope && doubt.of({ slope: { most: 0 }, creeping: true }) > beside) leak = 'yes'
  if (leak === 'yes' && heldS < LEAST_FOR_LEAK_S) {
    leak = 'open'
    open.push('too-short')
  } else if (leak === 'yes' && moisture !== 'no' && end <= waterMost && besideWater(full, heldS, end)) {
    leak = 'open'
    open.push('leak-beside-water')
  } else if (leak === 'open') open.push('leak-within-doubt')

  const before = previous && pointsOf(previous, resolutionMicron)
  const byBefore =
    leak === 'open' && before && before.length >= LEAST_POINTS && heldS >= LEAST_FOR_LEAK_S
      ? leakByBoth(fitter, fitterOf(before), doubt.misfit, saturated)
      : undefined
  const strange = doubt.misfit > FITS_NOTHING
  return {
    leak: strange ? 'open' : (byBefore ?? leak),
    moisture: strange ? 'open' : moisture,
    curve: full,
    points,
    smallestSlope: doubt.slopeAt('most', doubt.beyond) - full.slope,
    slope: { least: doubt.slopeAt('least', TWO_SIGMA), most: doubt.slopeAt('most', TWO_SIGMA) },
    byPrevious: byBefore !== undefined,
    open: strange
      ? ['fits-nothing']
      : byBefore
        ? open.filter((why) => why === 'water-within-doubt' || why === 'more-than-water')
        : open,
  }
}

function moistureIn(doubt: Doubt, full: Fit, end: number, rise: number): Answer {
  const outgassing = { fast: { most: OUTGASSING_MICRON }, slow: { most: 0 } }
  if (waterIn(full) >= OUTGASSING_MICRON && doubt.of(outgassing) > BEYOND_DOUBT.water) return 'yes'
  if (end < DRY_END && rise < DRY_RISE) return 'no'
  return doubt.of({ water: WATER_MICRON }) > doubt.beyond ? 'no' : 'open'
}

const waterIn = ({ fastMicron, slowMicron }: Curve) => fastMicron + slowMicron

/**
 * From here on it would be a leak. Water that gets colder hides a part of it, as far as liquid may be left: well below
 * saturation all has evaporated, and follows the gas law, which is in the fit.
 */
function noLeakAbove(full: Fit, saturatedMicron: number): number {
  const liquid = (waterIn(full) / saturatedMicron - 0.3) / 0.5
  return NO_LEAK - WATER_PER_K * WATER_DRIFT_K_S * waterIn(full) * Math.min(1, Math.max(0, liquid))
}

function besideWater(full: Fit, heldS: number, end: number): boolean {
  const gained = full.slope * heldS
  return (
    gained < BESIDE_WATER * waterIn(full) || (end > MUCH_MICRON && gained < BESIDE_MUCH_WATER * waterIn(full))
  )
}

/** A leak's slope stays after pumping again, while water gives less each time: both holds together. */
function leakByBoth(now: Fitter, before: Fitter, misfit: number, saturated: number): 'no' | undefined {
  const free = jointly(now, before, {}, {})
  const worse = (one: Restriction, other: Restriction) =>
    (jointly(now, before, one, other).chi2 - free.chi2) / misfit
  const [ours, theirs] = [noLeakAbove(free.now, saturated), noLeakAbove(free.before, saturated)]
  if (ours <= 0) return undefined
  const none = worse({ slope: { least: ours } }, { slope: { least: Math.max(0, theirs) } })
  return none > BEYOND_DOUBT.joint ? 'no' : undefined
}

/** Two standard deviations. */
const TWO_SIGMA = 4

/** How much worse a restriction makes the fit. */
class Doubt {
  readonly beyond: number
  readonly misfit: number
  constructor(
    private readonly fitter: Fitter,
    private readonly full: Fit,
  ) {
    const n = fitter.points.length
    this.misfit = Math.max(LEAST_MISFIT, full.chi2 / Math.max(1, n - 6))
    this.beyond = n < FEW ? BEYOND_DOUBT.few : BEYOND_DOUBT.live
  }
  of(restriction: Restriction): number {
    return (this.fitter.best(restriction).chi2 - this.full.chi2) / this.misfit
  }
  /** The slope at which it gets worse by so much, upwards or downwards: the worse grows as the square of the way. */
  slopeAt(side: 'least' | 'most', beyond: number): number {
    const { slope } = this.full
    const up = side === 'most'
    let way = up ? Math.max(LEAST_SLOPE, slope / 10) : slope
    for (let i = 0; i < STEPS && way > 0; i++) {
      const at = up ? slope + way : Math.max(0, slope - way)
      const worse = this.of(up ? { slope: { least: at } } : { slope: { most: at }, creeping: true })
      if (!up && at === 0 && worse <= beyond) return 0
      way *= Math.sqrt(beyond / Math.max(worse, beyond / 100))
    }
    return Math.max(0, up ? slope + way : slope - way)
  }
}
const STEPS = 4
