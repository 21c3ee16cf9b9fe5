import { type Channel, gapOf, type LiveState, liveState, type Point, SILENT_MS } from '#core/samples'
import type { Said } from '../news/changes'

/** The last that an instrument said, and whether it can be used. */
export interface Reading {
  at: number
  value: number
  seq: number
  state: LiveState
}

/** A channel as the server tells its past. */
export interface PastChannel {
  deviceId: string
  channel: Channel
  points: (Point | null)[]
  last: { at: number; value: number; seq: number } | null
}

interface Kept {
  past: (Point | null)[]
  /** Since the past was told, in order of time. */
  points: Point[]
  last: { at: number; value: number; seq: number } | undefined
  /** When this browser heard it last, by its own clock. */
  heardAt: number | undefined
}

export type ChannelKey = `${string} ${Channel}`
export const keyOf = (deviceId: string, channel: Channel): ChannelKey => `${deviceId} ${channel}`

/** Readers are told four times a second at most: figures that change faster cannot be read. */
export const TOLD_MS = 250
/** So many points of one channel since the past was told; then every second one of the older half goes. */
const MOST_KEPT = 8_000

export type LiveStore = ReturnType<typeof liveStore>

/** What the instruments of a page say: pushed in as it comes, read by its parts. */
export function liveStore(clock: () => number = () => performance.now()) {
  const kept = new Map<ChannelKey, Kept>()
  const readers = new Set<() => void>()
  let version = 0
  let told = false
  let toldAt = -Infinity
  let timer: ReturnType<typeof setTimeout> | undefined
  const of = (key: ChannelKey): Kept => {
    let found = kept.get(key)
    if (!found) kept.set(key, (found = { past: [], points: [], last: undefined, heardAt: undefined }))
    return found
  }
  // What comes after a pause is told at once.
  const changed = () => {
    timer ??= setTimeout(
      () => {
        timer = undefined
        toldAt = clock()
        version++
        for (const tell of readers) tell()
      },
      Math.max(0, toldAt + TOLD_MS - clock()),
    )
  }
  return {
    /** What was before: what has been heard since stays after it. */
    past(channels: readonly PastChannel[]) {
      told = true
      for (const { deviceId, channel, points, last } of channels) {
        const own = of(keyOf(deviceId, channel))
        own.past = points
        const end = last?.at ?? -Infinity
        own.points = own.points.filter(([at]) => at > end)
        if (last && last.at >= (own.last?.at ?? -Infinity)) own.last = last
      }
      changed()
    },
    said({ id, samples }: Said) {
      for (const [channel, at, value, seq] of samples) {
        const own = of(keyOf(id, channel))
        own.heardAt = clock()
        // What comes again changes nothing.
        if (!insert(own.points, [at, value])) continue
        if (at >= (own.last?.at ?? -Infinity)) own.last = { at, value, seq }
        if (own.points.length > MOST_KEPT) own.points = thinner(own.points)
      }
      changed()
    },
    /** @param now the time by the server, for what this page has not heard itself yet */
    reading(key: ChannelKey, now: () => number): Reading | undefined {
      const own = kept.get(key)
      if (!own?.last) return undefined
      const silent =
        own.heardAt === undefined ? now() - own.last.at > SILENT_MS : clock() - own.heardAt > SILENT_MS
      const recent = own.points.slice(-8)
      return {
        ...own.last,
        state: silent
          ? 'silent'
          : liveState(
              key.split(' ')[1] as Channel,
              recent.length > 0 ? recent : [[own.last.at, own.last.value]],
              own.last.at,
            ),
      }
    },
    /** When a device was heard of last, on any channel; undefined: it never was. */
    saidAt(deviceId: string): number | undefined {
      const own = [...kept].flatMap(([key, { last }]) =>
        key.startsWith(`${deviceId} `) && last ? [last.at] : [],
      )
      return own.length > 0 ? Math.max(...own) : undefined
    },
    /** Past and present as one line, with a break where nothing came. */
    line(key: ChannelKey): (Point | null)[] {
      const own = kept.get(key)
      if (!own) return []
      const since = broken(own.points)
      const lastPast = own.past.findLast((each) => each !== null)
      const first = own.points[0]
      if (
        lastPast &&
        first &&
        first[0] - lastPast[0] > Math.max(gapOf(own.points.map(([at]) => at)), SILENT_MS)
      )
        return [...own.past, null, ...since]
      return [...own.past, ...since]
    },
    subscribe(tell: () => void) {
      readers.add(tell)
      return () => void readers.delete(tell)
    },
    version: () => version,
    /** The past has been told: what says nothing now says nothing. */
    told: () => told,
  }
}

/** Keeps the order of time. @returns false where it is there already */
function insert(points: Point[], point: Point): boolean {
  let i = points.length
  while (i > 0 && points[i - 1]![0] > point[0]) i--
  if (i > 0 && points[i - 1]![0] === point[0]) return false
  points.splice(i, 0, point)
  return true
}

function broken(points: readonly Point[]): (Point | null)[] {
  const gapMs = Math.max(gapOf(points.map(([at]) => at)), SILENT_MS)
  return points.flatMap((point, i): (Point | null)[] =>
    i > 0 && point[0] - points[i - 1]![0] > gapMs ? [null, point] : [point],
  )
}

const thinner = (points: Point[]) => points.filter((_, i) => i > points.length / 2 || i % 2 === 0)
