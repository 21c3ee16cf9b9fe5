import type { At } from '../recovery'
import { type Channel, type Point, SILENT_MS } from '../samples'
import type { JobState } from '../tape'
import type { Trade } from '../systems'

/** What instruments said on a channel, in its own unit; empty where none speaks. */
export type LinesOf = (channel: Channel) => readonly (Point | null)[]

export interface Place {
  atmospherePa?: number | undefined
  /** What should be in the system; null: not known. */
  expected: { massMg: number } | null
  trade: Trade
  /** A stand-in plays faster than life: so many of its seconds go into one. */
  speed: number
  /** By the server's clock, ms. */
  nowMs: number
}

/** Four samples are a stream: what is typed beside it is one of them, or older. */
const STREAMS = 4
/** And one that has said nothing for so long is silent, s. */
const SILENT_S = SILENT_MS / 1_000

/** Readings from a moment on, from instruments where they speak, else from what was noted; seconds from a zero. */
export function readingsFrom(
  fromMs: number,
  zeroMs: number,
  lines: LinesOf,
  { speed }: Pick<Place, 'speed'>,
) {
  // One clock, one zero; faster where a stand-in plays faster.
  const seconds = (ms: number) => ((ms - zeroMs) / 1_000) * speed
  const heard = (channel: Channel, turn: (value: number) => number = (value) => value): At[] =>
    lines(channel).flatMap((point) =>
      point && point[0] >= fromMs ? [{ atS: seconds(point[0]), value: turn(point[1]) }] : [],
    )
  const either = (spoken: At[], noted: { at: number; value: number }[]): At[] => {
    const typed = inOrder(
      noted.filter(({ at }) => at >= fromMs).map(({ at, value }) => ({ atS: seconds(at), value })),
    )
    if (spoken.length < STREAMS) return typed
    // An instrument that has gone silent has had its say: what is typed since goes on from there.
    const endS = spoken.at(-1)!.atS
    return [...spoken, ...typed.filter(({ atS }) => atS > endS + SILENT_S * speed)]
  }
  return { seconds, heard, either }
}

/** What was noted at a point, in order. */
export const pressuresAt = (state: JobState, point: JobState['pressureNotes'][number]['point']) =>
  state.pressureNotes.filter((each) => each.point === point)
export const temperaturesAt = (state: JobState, point: JobState['temperatureNotes'][number]['point']) =>
  state.temperatureNotes.filter((each) => each.point === point)

/** Of two at one time the later one counts. */
function inOrder(samples: At[]): At[] {
  return samples
    .toSorted((a, b) => a.atS - b.atS)
    .filter((each, i, all) => i === all.length - 1 || all[i + 1]!.atS > each.atS)
}
