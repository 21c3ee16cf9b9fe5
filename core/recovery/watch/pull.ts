import { type SaturationTable, saturationPressurePa } from '../../refrigerants'
import { ZERO_CELSIUS_K } from '../../units'
import { type Jump, jumpsOf, withoutJumps } from './jumps'
import { type At, type Trend, trendOf } from './trend'

/** A pull that runs, as far as it is known: streamed, typed, or some of each. Pressures are absolute. */
export interface Pull {
  /** What has come in this pull, kg. */
  weights: readonly At[]
  /** Low side or the machine's suction, Pa. */
  low: readonly At[]
  cylinderPa: readonly At[]
  cylinderK: readonly At[]
  /** Where the system is coldest, K: the suction line or the coil, by a clamp. */
  coilK: readonly At[]
  /** The time for which this is judged, s. */
  nowS: number
  divisionKg: number
  /** One standard deviation of the gauge, Pa. */
  gaugePa: number
  atmospherePa: number
  ambientK: number
  /** What should be in there, kg; left out: nobody knows. */
  chargeKg?: number | undefined
  /** Down to here it must go, Pa. */
  levelPa: number
  /** Where the machine stops itself, Pa above the air around; the usual one where its own is not known. */
  cutOutPa?: number | undefined
  table?: SaturationTable | undefined
  /** What core, hose and machine pass at a pressure, kg/s; undefined: nobody has said which hoses. */
  canPass?: ((lowPa: number) => number | undefined) | undefined
  /** Water stands in its condenser. */
  waterCooled?: boolean
}

/** What goes on in a pull, in the words of the trade. Rates in kg/s. */
export type PullState =
  /** Too few weights to say anything. */
  | { code: 'too-few' }
  /** Nobody has weighed for a while. */
  | { code: 'stale'; agoS: number }
  /** By its own pressure, into the colder or emptier cylinder. */
  | { code: 'running-over'; kgPerS: number }
  | { code: 'liquid'; kgPerS: number }
  | { code: 'vapour'; kgPerS: number }
  | { code: 'slowing'; kgPerS: number; share: number }
  /** What is left boils colder than the air around can warm it. */
  | { code: 'boiling-cold'; kgPerS: number; coilK: number; ambientK: number }
  | { code: 'pushing-hot'; kgPerS: number; share: number; cylinderPa?: number; cylinderK?: number }
  /** The pressure is there, and far less comes than these hoses pass. */
  | { code: 'restricted'; kgPerS: number; canKgPerS: number }
  /** The gauge is near zero, and the scale still climbs. */
  | { code: 'last-of-it'; kgPerS: number }
  /** The weight stands, and the pressure does not fall. */
  | { code: 'stuck'; flatS: number; lowPa: number; rises: boolean }
  /** It was down, and the pressure rises again: what is left boils off. */
  | { code: 'comes-back'; lowPa: number; fromPa: number }
  | { code: 'cut-out'; flatS: number; cylinderPa: number }
  /** The weight stands, and both sides are equal: by itself nothing more comes. */
  | { code: 'equal'; flatS: number; lowPa: number }
  /** The weight stands; there is no gauge to ask. */
  | { code: 'flat'; flatS: number }
  /** The weight stands, the gauge is near zero, and it must go lower. */
  | { code: 'above-level'; lowPa: number; levelPa: number }
  /** The weight stands, and the gauge is down. */
  | { code: 'maybe-done'; flatS: number; lowPa: number }
  | { code: 'falling'; kgPerS: number }

export interface Watched {
  state: PullState
  /** The weights with every jump taken out. */
  weights: At[]
  jumps: Jump[]
  /** kg/s now; undefined: too few weights. */
  kgPerS: number | undefined
  low: Trend | undefined
}

/** A scale's noise and drift in a minute come to less, kg. */
const MINUTE_S = 60
const MINUTE_KG = 0.01
/** No more than this in a minute is nothing: a share of what should be in there, and never more, or less, than these, kg. */
const NOTHING_SHARE = 1 / 100
const NOTHING = { leastKg: 0.0005, mostKg: 0.01 }
/** The longest that is waited to tell nothing from little, s. */
const LONGEST_S = 600
/** Falling by so much of itself in a minute, a pressure tells that gas still comes. */
const FALLS = 0.02
const RATE_S = 20
const LEAST_SPAN_S = 10
const BLOCK_S = 10
const LOW_S = 20
/** A reading older than this says nothing about now, s. */
const STALE_S = 180
/** Below this share of the fastest it slows. */
const SLOWING = 0.6
const CUT_OUT_PA = 38e5
/** So near the cut-out the machine labours. */
const LABOURS = 0.8
const AT_CUT_OUT = 0.96
const HOT_K = 318
/** So far below the air around, and slower than it was. */
const COLD_K = 8
/** Near its saturation at the air's temperature there is liquid in reach of the hose. */
const SATURATED = 0.85
const NEAR_ZERO_PA = 10_000
/** More than two divisions of a coarse gauge. */
const RISES_PA = 12_000
/** Below this share of what core, hose and machine pass, something else holds it back. */
const RESTRICTED = 0.3
/** No more than this comes as vapour through the hoses of the trade, kg/s. */
const LIQUID_KG_S = 0.012

/** What goes on now. */
export function watch(pull: Pull): Watched {
  const { divisionKg, nowS } = pull
  const jumps = jumpsOf(pull.weights, divisionKg)
  const weights = withoutJumps(pull.weights, jumps)
  const low = trendOf(fresh(pull.low, nowS), LOW_S)
  const recent = trendOf(weights, RATE_S)
  // Weights closer together than that tell no rate: a scale counts in steps.
  const rate = recent && recent.spanS >= LEAST_SPAN_S ? recent : undefined
  const still = stillOf(pull, weights)
  const flatS = flatFor(weights, still)
  return {
    state: stateOf(pull, { weights, low, rate, still, flatS }),
    weights,
    jumps,
    kgPerS: rate?.perS,
    low,
  }
}

/** What counts as standing: no more than so much in a time in which this scale can tell it. */
interface Still {
  kg: number
  overS: number
}

/** A window that grows until the scale can tell: two of its divisions, at a rate that is nothing for this system. */
function stillOf({ chargeKg, divisionKg }: Pull, weights: readonly At[]): Still {
  const comesKg = Math.max(chargeKg ?? 0, weights.at(-1)?.value ?? 0)
  const aMinuteKg = Math.min(NOTHING.mostKg, Math.max(NOTHING.leastKg, NOTHING_SHARE * comesKg))
  const overS = Math.min(LONGEST_S, Math.max(MINUTE_S, (2 * divisionKg * MINUTE_S) / aMinuteKg))
  return { overS, kg: Math.max(2 * divisionKg, (aMinuteKg * overS) / MINUTE_S) }
}

interface Seen {
  weights: At[]
  low: Trend | undefined
  rate: Trend | undefined
  still: Still
  flatS: number
}

function stateOf(pull: Pull, { weights, low, rate, still, flatS }: Seen): PullState {
  const { nowS, divisionKg, gaugePa, atmospherePa, levelPa } = pull
  const last = weights.at(-1)
  if (last && nowS - last.atS > STALE_S) return { code: 'stale', agoS: nowS - last.atS }
  if (!rate) return { code: 'too-few' }
  const lowPa = low?.now ?? fresh(pull.low, nowS).at(-1)?.value
  const cylinderPa = fresh(pull.cylinderPa, nowS).at(-1)?.value
  const cylinderK = fresh(pull.cylinderK, nowS).at(-1)?.value
  const cutOutPa = atmospherePa + (pull.cutOutPa ?? CUT_OUT_PA)
  const labours = cylinderPa !== undefined && cylinderPa - atmospherePa >= LABOURS * (cutOutPa - atmospherePa)
  const nearPa = Math.max(NEAR_ZERO_PA, 2 * gaugePa)
  // No machine works where the cylinder is no higher than what it draws from.
  const runsOver = cylinderPa !== undefined && lowPa !== undefined && cylinderPa <= lowPa + 2 * gaugePa
  const minute = trendOf(weights, MINUTE_S)
  const nudgeKg = Math.max(MINUTE_KG, 2 * divisionKg)
  if (minute && minute.spanS >= RATE_S && minute.perS * MINUTE_S < -1.5 * nudgeKg)
    return { code: 'falling', kgPerS: minute.perS }
  const lately = over(weights, still.overS)
  if (lately && lately.perS * still.overS <= still.kg) {
    if (tripped(pull, cutOutPa) && lowPa !== undefined && lowPa > atmospherePa + nearPa)
      return { code: 'cut-out', flatS, cylinderPa: pull.cylinderPa.at(-1)!.value }
    if (lowPa === undefined) return { code: 'flat', flatS }
    const downPa = Math.max(levelPa, atmospherePa) + nearPa
    if (runsOver && lowPa > downPa) return { code: 'equal', flatS, lowPa }
    // Against itself a gauge is exact to its divisions, however far it is off.
    const fromPa = pull.low.reduce((least, each) => Math.min(least, each.value), Infinity)
    if (fromPa <= downPa && lowPa - fromPa > RISES_PA) return { code: 'comes-back', lowPa, fromPa }
    // The weight cannot tell it yet, and the pressure does: it still comes.
    if (lowPa > downPa && falls(pull.low, nowS, still.overS))
      return { code: 'slowing', kgPerS: Math.max(0, rate.perS), share: 0 }
    if (lowPa > downPa) return { code: 'stuck', flatS, lowPa, rises: (low?.perS ?? 0) > 50 }
    if (lowPa > levelPa + nearPa) return { code: 'above-level', lowPa, levelPa }
    return { code: 'maybe-done', flatS, lowPa }
  }
  const kgPerS = Math.max(0, rate.perS)
  const share = kgPerS / Math.max(kgPerS, fastestOf(weights), 1e-9)
  const beganS = weights[0]!.atS
  if (lowPa !== undefined && lowPa <= atmospherePa + nearPa && last!.atS - beganS >= MINUTE_S)
    return { code: 'last-of-it', kgPerS }
  const hot = labours || (cylinderK !== undefined && cylinderK >= HOT_K)
  if (hot && share < SLOWING)
    return {
      code: 'pushing-hot',
      kgPerS,
      share,
      ...(cylinderPa === undefined ? {} : { cylinderPa }),
      ...(cylinderK === undefined ? {} : { cylinderK }),
    }
  const liquid = lowPa !== undefined && saturated(pull, lowPa)
  const canKgPerS = liquid && !runsOver ? pull.canPass?.(lowPa) : undefined
  if (canKgPerS !== undefined && last!.atS - beganS >= MINUTE_S && kgPerS < RESTRICTED * canKgPerS)
    return { code: 'restricted', kgPerS, canKgPerS }
  if (liquid && kgPerS >= LIQUID_KG_S) return { code: 'liquid', kgPerS }
  if (runsOver) return { code: 'running-over', kgPerS }
  // By a clamp only: a gauge at the machine shows what core and hose take away, too.
  const coilK = fresh(pull.coilK, nowS).at(-1)?.value
  if (coilK !== undefined && share < SLOWING && coilK < pull.ambientK - COLD_K)
    return { code: 'boiling-cold', kgPerS, coilK, ambientK: pull.ambientK }
  return share < SLOWING ? { code: 'slowing', kgPerS, share } : { code: 'vapour', kgPerS }
}

const fresh = (samples: readonly At[], nowS: number): readonly At[] => {
  const last = samples.at(-1)
  return last && nowS - last.atS <= STALE_S ? samples : []
}

/** How a weight moved over so long, or a little longer where it was typed; undefined: it has not been watched for so long. */
function over(weights: readonly At[], seconds: number): Trend | undefined {
  const beganS = (weights.at(-1)?.atS ?? 0) - (seconds - BLOCK_S)
  const from = weights.findLastIndex(({ atS }) => atS <= beganS)
  return from < 0 ? undefined : trendOf(weights.slice(from), Infinity)
}

/** Whether a pressure falls while the weight stands. */
function falls(low: readonly At[], nowS: number, overS: number): boolean {
  const lately = trendOf(fresh(low, nowS), overS)
  return lately !== undefined && lately.spanS >= RATE_S && lately.perS * MINUTE_S < -FALLS * lately.now
}

/** For how long the weight has stood still, s: by the means of ten seconds each, since a scale counts to and fro. */
function flatFor(weights: readonly At[], { kg }: Still): number {
  const end = weights.at(-1)
  if (!end) return 0
  let now: number | undefined
  let since = end.atS
  for (let i = weights.length - 1; i >= 0;) {
    const from = weights[i]!.atS
    let sum = 0
    let count = 0
    for (; i >= 0 && from - weights[i]!.atS < BLOCK_S; i--) {
      sum += weights[i]!.value
      count++
    }
    const mean = sum / count
    now ??= mean
    if (Math.abs(mean - now) > kg) break
    since = weights[i + 1]!.atS
  }
  return end.atS - since
}

/** The fastest that it has come, in pieces of half a minute, kg/s. */
function fastestOf(weights: readonly At[]): number {
  let fastest = 0
  let from = weights[0]
  for (const each of weights) {
    if (!from || each.atS - from.atS < 1.5 * RATE_S) continue
    fastest = Math.max(fastest, (each.value - from.value) / (each.atS - from.atS))
    from = each
  }
  return fastest
}

/** The cylinder stood at the cut-out not long ago: its gauge may be off by what gauges are. */
function tripped({ cylinderPa, nowS, atmospherePa }: Pull, cutOutPa: number): boolean {
  const least = atmospherePa + AT_CUT_OUT * (cutOutPa - atmospherePa)
  return cylinderPa.some(({ atS, value }) => nowS - atS <= 2 * STALE_S && value >= least)
}

/** As high as liquid at the temperature of the air keeps it. */
function saturated({ table, ambientK }: Pull, lowPa: number): boolean {
  if (!table) return false
  const row = ambientK - ZERO_CELSIUS_K - table.firstC
  if (row < 0 || row > table.rows - 1) return false
  return lowPa >= SATURATED * saturationPressurePa(table, ambientK, 'bubble')
}
