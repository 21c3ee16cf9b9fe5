/** A sample as a chart needs it: time in ms, value in the channel's unit. */
export type Point = [at: number, value: number]

/** More than so many usual intervals between two samples, and at least this long, is a gap and no line. */
const GAP_INTERVALS = 5
const LEAST_GAP_MS = 3_000

/** The samples of one channel in order of time: a column of times in ms, and one of values. */
export interface Series {
  at: readonly number[]
  value: readonly number[]
}

/** Part of a series: from the first of these places up to, and without, the second. */
type Part = [from: number, to: number]

/**
 * The samples of one channel as at most about so many points, with a break where there were none for a while: between
 * two parts stands null. The parts share the points by their length; each is drawn by its largest triangles.
 */
export function forChart(series: Series, most: number): (Point | null)[] {
  const all = series.at.length
  return withoutGaps(series.at).flatMap((part, i) => {
    const length = part[1] - part[0]
    const share = all <= most ? length : Math.max(3, Math.floor((most * length) / all))
    const points: (Point | null)[] = largestTriangles(series, share, part)
    return i === 0 ? points : [null, ...points]
  })
}

/** Where the next sample came much later than usual, something was missing. */
export function withoutGaps(at: readonly number[]): Part[] {
  if (at.length === 0) return []
  const gapMs = gapOf(at)
  const parts: Part[] = [[0, at.length]]
  for (let i = 1; i < at.length; i++)
    if (at[i]! - at[i - 1]! > gapMs) {
      parts.at(-1)![1] = i
      parts.push([i, at.length])
    }
  return parts
}

/** How long nothing must come to be a gap, ms: by the usual interval, which is their lower quartile. */
export function gapOf(at: readonly number[]): number {
  // Of so few none is usual.
  if (at.length < 4) return LEAST_GAP_MS
  const intervals: number[] = []
  const every = Math.max(1, Math.floor(at.length / 500))
  for (let i = every; i < at.length; i += every) intervals.push(at[i]! - at[i - 1]!)
  intervals.sort((a, b) => a - b)
  return Math.max(LEAST_GAP_MS, GAP_INTERVALS * (intervals[Math.floor(intervals.length / 4)] ?? 0))
}

/**
 * Largest triangle, three buckets: keeps first and last, and of each bucket the point that makes the largest triangle
 * with the one kept before and the mean of the next bucket. Peaks and corners stay.
 * Steinarsson, "Downsampling Time Series for Visual Representation", University of Iceland, 2013.
 */
export function largestTriangles(
  series: Series,
  most: number,
  [start, end]: Part = [0, series.at.length],
): Point[] {
  const { at, value } = series
  const length = end - start
  const point = (i: number): Point => [at[i]!, value[i]!]
  if (length <= most || length <= 2) return Array.from({ length }, (_, i) => point(start + i))
  const buckets = Math.max(1, most - 2)
  const size = (length - 2) / buckets
  const first = (bucket: number) => start + 1 + Math.floor(bucket * size)
  const kept: Point[] = [point(start)]
  let last = start
  for (let bucket = 0; bucket < buckets; bucket++) {
    const from = first(bucket)
    const to = Math.min(end - 1, first(bucket + 1))
    const nextTo = Math.min(end, Math.max(to + 1, first(bucket + 2)))
    const meanAt = mean(at, to, nextTo)
    const meanValue = mean(value, to, nextTo)
    const lastAt = at[last]!
    const lastValue = value[last]!
    let best = from
    let largest = -1
    for (let i = from; i < to; i++) {
      const area = Math.abs(
        (lastAt - meanAt) * (value[i]! - lastValue) - (lastAt - at[i]!) * (meanValue - lastValue),
      )
      if (area > largest) {
        largest = area
        best = i
      }
    }
    kept.push(point(best))
    last = best
  }
  kept.push(point(end - 1))
  return kept
}

function mean(column: readonly number[], from: number, to: number): number {
  let sum = 0
  for (let i = from; i < to; i++) sum += column[i]!
  return sum / Math.max(1, to - from)
}
