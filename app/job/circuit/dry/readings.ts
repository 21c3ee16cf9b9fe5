import type { HoldReading } from '#core/vacuum'
import { type Hold, type JobState, readingsOf } from '#core/tape'
import { keyOf } from '~/device/live/live-store'
import { useLive } from '~/device/live/live-context'

/** What a live vacuum gauge of this job said between two times, seconds from the first; undefined: none is live. */
export function useGaugeLine(): ((fromMs: number, toMs: number) => HoldReading[]) | undefined {
  const live = useLive()
  const source = live?.sources.find((each) => each.inUse && each.channel === 'vacuum')
  if (!live || !source) return undefined
  return (fromMs, toMs) =>
    live.store
      .line(keyOf(source.deviceId, 'vacuum'))
      .flatMap((point) =>
        point && point[0] >= fromMs && point[0] <= toMs
          ? [{ atS: (point[0] - fromMs) / 1000, pressurePa: point[1] }]
          : [],
      )
}

const EVERY_S = 10
const MOST = 240

/** The mean of every ten seconds, or of longer where the hold was long: what the tape keeps. */
export function thinned(readings: readonly HoldReading[]): HoldReading[] {
  const lengthS = readings.at(-1)?.atS ?? 0
  const everyS = Math.max(EVERY_S, Math.ceil(lengthS / MOST))
  const bins = new Map<number, HoldReading[]>()
  for (const each of readings) {
    const bin = Math.floor(each.atS / everyS)
    const there = bins.get(bin)
    if (there) there.push(each)
    else bins.set(bin, [each])
  }
  const mean = (of: number[]) => of.reduce((sum, each) => sum + each, 0) / of.length
  return [...bins.values()].map((bin) => ({
    atS: mean(bin.map((each) => each.atS)),
    pressurePa: mean(bin.map((each) => each.pressurePa)),
  }))
}

/** All that is known of a hold now: the live line where it is longer than what was noted. */
export function holdReadings(
  hold: Hold,
  line: ReturnType<typeof useGaugeLine>,
  nowMs: number,
): HoldReading[] {
  const noted = readingsOf(hold)
  const said = line?.(hold.startedAt, hold.endedAt ?? nowMs) ?? []
  return said.length > noted.length ? said : noted
}

/** When this pumping began: after the last hold, break or opening. */
export function pumpingSince(state: JobState): number {
  return Math.max(
    state.episodes.at(-1)?.emptiedAt ?? 0,
    state.holds.findLast((each) => each.endedAt !== undefined)?.endedAt ?? 0,
    state.nitrogenBreaks.at(-1)?.at ?? 0,
    state.transfers.at(-1)?.endedAt ?? 0,
  )
}
