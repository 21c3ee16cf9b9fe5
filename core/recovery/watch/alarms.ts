import { OutOfRangeError, type SaturationTable, saturationTempK } from '../../refrigerants'
import type { Jump } from './jumps'
import type { Pull, Watched } from './pull'
import type { At } from './trend'

/** What must be seen, or seen to, while a pull runs. */
export type PullAlarm =
  /** The cylinder's limit is near: how long it still takes, s. */
  | { code: 'limit-near'; roomKg: number; leastS: number; mostS: number }
  | { code: 'limit-passed'; overKg: number }
  /** It leaks: at zero the pull must stop, and that is near. */
  | { code: 'stop-line-near'; inS: number; lowPa: number }
  /** It leaks, and is below zero: air comes in. */
  | { code: 'below-stop-line'; lowPa: number; belowS: number; airLeastPa: number; airMostPa: number }
  /** Higher than the cylinder may be, Pa above the air around. */
  | { code: 'above-rating'; cylinderPa: number; ratingPa: number }
  | { code: 'cylinder-hot'; cylinderK: number }
  /** Water stands in the condenser, and what boils in it is colder than ice. */
  | { code: 'may-freeze'; boilsAtK: number }
  /** Somebody touched the scale. */
  | { code: 'nudged'; byKg: number; atS: number }

export interface AlarmFacts {
  /** What the cylinder may still take, kg; undefined: no limit is known. */
  roomKg: number | undefined
  /** What may still come, at the most, kg; undefined: nobody knows. */
  comesKg?: number | undefined
  /** A leak is known, and not repaired. */
  leaking: boolean
  /** The cylinder's service pressure, Pa above the air around. */
  ratingPa: number | undefined
}

/** The limit is called so long before it is reached, s, or from so little room on. */
const CALL_LIMIT_S = 180
const CALL_ROOM_SHARE = 0.05
/** And the stop line, s: a hand needs some of it. */
const CALL_STOP_S = 90
/** A gauge that stands still crosses no line, Pa/s. */
const LEAST_FALL_PA_S = 30
/** Cylinders are not to be warmer than this by any rule of the trade: 50 C. */
const HOT_K = 323.15
/** Rates change: the time left is said as a range, by so much to each side. */
const RATE_RANGE = { least: 1.3, most: 0.5 }
/** Ten minutes below zero with a hole of 0.2 mm, or 0.4 mm, put so much air into a cylinder of 12 litres (docs/rig.md). */
const AIR_PA = { least: 10_000, most: 50_000 }
const AIR_S = 600
const ICE_K = 273.15
/** An old knock is no news, s. */
const NEWS_S = 300
/** And what a gauge or a clamp said so long ago says nothing of now, s. */
const OLD_S = 900

const shownNow = (readings: readonly At[], { nowS }: Pull): At | undefined => {
  const last = readings.at(-1)
  return last && nowS - last.atS <= OLD_S ? last : undefined
}

/** The worst first. */
export function pullAlarms(pull: Pull, watched: Watched, facts: AlarmFacts): PullAlarm[] {
  return [
    ...atTheLimit(watched, facts),
    ...atTheRating(pull, facts),
    ...atTheStopLine(pull, watched, facts),
    ...atTheCylinder(pull),
    ...atTheWater(pull, watched),
    ...watched.jumps
      .filter((jump: Jump) => pull.nowS - jump.atS < NEWS_S)
      .map(({ atS, byKg }): PullAlarm => ({ code: 'nudged', byKg, atS })),
  ]
}

function atTheLimit({ kgPerS, weights }: Watched, { roomKg, comesKg }: AlarmFacts): PullAlarm[] {
  if (roomKg === undefined) return []
  if (roomKg < 0) return [{ code: 'limit-passed', overKg: -roomKg }]
  // However fast it comes: less than there is room for is left.
  if (comesKg !== undefined && comesKg < roomKg) return []
  const moved = weights.at(-1)?.value ?? 0
  if (kgPerS === undefined || kgPerS <= 0) return []
  const leastS = roomKg / (kgPerS * RATE_RANGE.least)
  const mostS = roomKg / (kgPerS * RATE_RANGE.most)
  const near = leastS <= CALL_LIMIT_S || roomKg <= CALL_ROOM_SHARE * (moved + roomKg)
  return near ? [{ code: 'limit-near', roomKg, leastS, mostS }] : []
}

function atTheRating(pull: Pull, { ratingPa }: AlarmFacts): PullAlarm[] {
  const shown = shownNow(pull.cylinderPa, pull)
  const abovePa = shown && shown.value - pull.atmospherePa
  if (ratingPa === undefined || abovePa === undefined || abovePa <= ratingPa) return []
  return [{ code: 'above-rating', cylinderPa: abovePa, ratingPa }]
}

function atTheStopLine(
  { atmospherePa, low: lows, nowS }: Pull,
  { low }: Watched,
  { leaking }: AlarmFacts,
): PullAlarm[] {
  if (!leaking || !low) return []
  if (low.now < atmospherePa) {
    const above = lows.findLast((each) => each.value >= atmospherePa)
    const belowS = Math.max(0, nowS - (above ?? lows[0]!).atS)
    const air = (pa: number) => (pa * belowS) / AIR_S
    return [
      {
        code: 'below-stop-line',
        lowPa: low.now,
        belowS,
        airLeastPa: air(AIR_PA.least),
        airMostPa: air(AIR_PA.most),
      },
    ]
  }
  // The lower, the slower: a vessel that is drawn on empties by shares, not by steps.
  const inS = (low.now / -low.perS) * Math.log(low.now / atmospherePa)
  if (low.perS > -LEAST_FALL_PA_S || inS > CALL_STOP_S) return []
  return [{ code: 'stop-line-near', inS: Math.max(0, inS), lowPa: low.now }]
}

function atTheCylinder(pull: Pull): PullAlarm[] {
  const shown = shownNow(pull.cylinderK, pull)
  return shown && shown.value >= HOT_K ? [{ code: 'cylinder-hot', cylinderK: shown.value }] : []
}

/** By a clamp where there is one, else by what boils at the low side's pressure. */
function atTheWater(pull: Pull, { low, kgPerS }: Watched): PullAlarm[] {
  const { waterCooled, coilK, table } = pull
  if (!waterCooled || !kgPerS || kgPerS <= 0) return []
  const boilsAtK = shownNow(coilK, pull)?.value ?? (low && table ? boilingK(table, low.now) : undefined)
  return boilsAtK !== undefined && boilsAtK < ICE_K ? [{ code: 'may-freeze', boilsAtK }] : []
}

function boilingK(table: SaturationTable, lowPa: number): number | undefined {
  try {
    return saturationTempK(table, lowPa, 'dew')
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
