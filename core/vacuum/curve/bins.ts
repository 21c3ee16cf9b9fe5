import { PA_PER_MICRON } from '../../units'
import type { HoldReading } from '../hold'

/** A reading, or the mean of many, on the scale that vacuum gauges speak. */
export interface Point {
  /** Seconds since the pump was valved off. */
  atS: number
  micron: number
  /** One standard deviation, micron. */
  sigma: number
}

/** What is averaged into one point: gauges err together over seconds, and steps of the display even out. */
const BIN_S = 30
/** More points than this say no more: a long hold is averaged over longer. */
const MOST_POINTS = 240
/** A vacuum gauge within seconds of itself: share of the reading, and micron (model of the judge). */
const GAUGE_SHARE = 0.006
const GAUGE_MICRON = 2
/** A number read by eye and typed: share of the reading. */
const TYPED_SHARE = 0.01

/**
 * Readings as the fit takes them: live ones averaged over 30 s, few ones as they are.
 * @param resolutionMicron the gauge's last digit
 */
export function pointsOf(readings: readonly HoldReading[], resolutionMicron = 1): Point[] {
  const startS = readings[0]?.atS ?? 0
  const binS = Math.max(BIN_S, ((readings.at(-1)?.atS ?? 0) - startS) / MOST_POINTS)
  const bins = new Map<number, HoldReading[]>()
  for (const each of readings) {
    const bin = Math.floor((each.atS - startS) / binS)
    const there = bins.get(bin)
    if (there) there.push(each)
    else bins.set(bin, [each])
  }
  const live = readings.length > 2 * bins.size
  return [...bins.values()].map((bin) => {
    const atS = bin.reduce((sum, each) => sum + each.atS, 0) / bin.length - startS
    const micron = bin.reduce((sum, each) => sum + each.pressurePa, 0) / bin.length / PA_PER_MICRON
    const share = live ? GAUGE_SHARE : TYPED_SHARE
    const step = resolutionMicron / (live ? 6 : Math.sqrt(12))
    return { atS, micron, sigma: Math.hypot(share * micron, GAUGE_MICRON, step) }
  })
}
