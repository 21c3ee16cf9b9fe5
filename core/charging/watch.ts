import { type At, trendOf } from '../recovery'

/** The hand is slower than the flow: how long it takes from the call until nothing flows any more. */
export interface HandLag {
  seconds: number
  /** Charges that it was learned from; 0: what is reckoned with while nobody knows. */
  from: number
}

/** Somebody's first charges with Keg: to hear, reach and turn a valve. An assumption. */
export const UNKNOWN_LAG: HandLag = { seconds: 2, from: 0 }
/** So many charges say something of a hand. */
const LEARNED_FROM = 3
/** A hand that takes longer was doing something else. */
const MOST_LAG_S = 20

/** What a person's past charges say of the hand: the middle one of the last. @param lagsS the newest first */
export function handLag(lagsS: readonly number[]): HandLag {
  const told = lagsS.filter((s) => s >= 0 && s <= MOST_LAG_S)
  if (told.length < LEARNED_FROM) return UNKNOWN_LAG
  const sorted = told.toSorted((a, b) => a - b)
  return { seconds: sorted[sorted.length >> 1]!, from: told.length }
}

export interface Charging {
  /** Out of the cylinder since it was opened, kg. */
  out: readonly At[]
  nowS: number
  /** Out of the cylinder when enough is in the system, the hose's share with it, kg; undefined: no target. */
  wantedKg: number | undefined
  toleranceKg: number
  divisionKg: number
  lag: HandLag
}

export type ChargingState =
  /** Nothing can be said yet. */
  | { code: 'too-few' }
  /** Nobody has weighed for a while. */
  | { code: 'stale'; agoS: number }
  | { code: 'flowing'; kgPerS: number; leftKg?: number; inS?: number }
  /** Hand on the valve. */
  | { code: 'soon'; kgPerS: number; leftKg: number; inS: number }
  | { code: 'close-now'; kgPerS: number; leftKg: number }
  | { code: 'reached'; leftKg: number }
  | { code: 'over'; overKg: number }
  /** It stands, and the target is not reached: pressures met, the cylinder is empty or cold, a valve is shut. */
  | { code: 'stands'; leftKg?: number; forS: number }
  /** The cylinder gains: gas goes back. */
  | { code: 'back'; kgPerS: number }

/** The rate is that of the last seconds: it changes as pressures meet. */
const RATE_S = 12
/** A hand is called to the valve so long before it is told to close it. */
const SOON_S = 15
/** It stands where it has not moved by a division for so long. */
const STANDS_S = 40
/** Two weights so close tell no rate: one of them was typed late. */
const LEAST_SPAN_S = 4
/** A weight this old calls nobody to close a valve: it is looked at first. */
const FRESH_S = 15
/** Typed weights further apart than this tell no rate. */
const LATEST_S = 180

/**
 * What goes on while a charge runs. The call comes early by what the hand takes: at that rate the rest goes in meanwhile.
 */
export function watchCharge(charging: Charging): ChargingState {
  const { out, nowS, wantedKg, toleranceKg, divisionKg, lag } = charging
  const last = out.at(-1)
  if (!last) return { code: 'too-few' }
  const leftKg = wantedKg === undefined ? undefined : wantedKg - last.value
  if (leftKg !== undefined && leftKg < -Math.max(toleranceKg, divisionKg))
    return { code: 'over', overKg: -leftKg }
  if (leftKg !== undefined && leftKg <= divisionKg / 2) return { code: 'reached', leftKg }
  if (nowS - last.atS > LATEST_S) return { code: 'stale', agoS: nowS - last.atS }
  const trend = trendOf(out, RATE_S)
  if (!trend || trend.spanS < LEAST_SPAN_S) return { code: 'too-few' }
  const stood = standingS(out, nowS, divisionKg)
  // Closed a little early, within the tolerance, it is there.
  if (stood >= STANDS_S && leftKg !== undefined && leftKg <= toleranceKg) return { code: 'reached', leftKg }
  if (stood >= STANDS_S) return { code: 'stands', forS: stood, ...(leftKg !== undefined && { leftKg }) }
  const least = divisionKg / Math.max(RATE_S, trend.spanS)
  if (trend.perS < -least) return { code: 'back', kgPerS: trend.perS }
  if (trend.perS <= least || leftKg === undefined)
    return {
      code: 'flowing',
      kgPerS: Math.max(0, trend.perS),
      ...(leftKg !== undefined && { leftKg }),
    }
  const inS = leftKg / trend.perS - (nowS - last.atS)
  if (inS <= lag.seconds && nowS - last.atS <= FRESH_S)
    return { code: 'close-now', kgPerS: trend.perS, leftKg }
  if (inS <= lag.seconds + SOON_S) return { code: 'soon', kgPerS: trend.perS, leftKg, inS: Math.max(0, inS) }
  return { code: 'flowing', kgPerS: trend.perS, leftKg, inS }
}

/** Since when it has not moved by a division, s. */
function standingS(out: readonly At[], nowS: number, divisionKg: number): number {
  const last = out.at(-1)!
  const moved = out.findLast((each) => Math.abs(each.value - last.value) >= divisionKg)
  // Two equal weights are no standing until as long has passed between them.
  const since = moved ? out[out.indexOf(moved) + 1]!.atS : out[0]!.atS
  return out.length < 2 ? 0 : Math.max(last.atS, Math.min(nowS, last.atS + RATE_S)) - since
}
