/** A sample as a chart needs it: time in ms, value in the channel's unit. */
export type Point = [at: number, value: number]

/** More than so many usual intervals between two samples, and at least this long, is a gap and no line. */
const GAP_INTERVALS = 5
const LEAST_GAP_MS = 3_000

/**
 * The samples of one channel as at most about so many points, with a break where there were none for a while: between
 * two parts stands null. The parts share the points by their length; each is drawn by its largest triangles.
 * @param samples in order of time
 */
export function forChart(samples: readonly Point[], most: number): (Point | null)[] {
  const parts = withoutGaps(samples)
  const all = samples.length
  return parts.flatMap((part, i) => {
    const share = all <= most ? part.length : Math.max(3, Math.floor((most * part.length) / all))
    const points: (Point | null)[] = largestTriangles(part, share)
    return i === 0 ? points : [null, ...points]
  })
}

/** Where the next sample came much later than usual, something was missing. */
export function withoutGaps(samples: readonly Point[]): Point[][] {
  if (samples.length === 0) return []
  const gapMs = gapOf(samples)
  const parts: Point[][] = [[samples[0]!]]
  for (let i = 1; i < samples.length; i++) {
    if (samples[i]![0] - samples[i - 1]![0] > gapMs) parts.push([])
    parts.at(-1)!.push(samples[i]!)
  }
  return parts
}

/** How long nothing must come to be a gap, ms: by the usual interval, which is their lower quartile. */
export function gapOf(samples: readonly Point[]): number {
  // Of so few none is usual.
  if (samples.length < 4) return LEAST_GAP_MS
  const intervals: number[] = []
  const every = Math.max(1, Math.floor(samples.length / 500))
  for (let i = every; i < samples.length; i += every) intervals.push(samples[i]![0] - samples[i - 1]![0])
  intervals.sort((a, b) => a - b)
  return Math.max(LEAST_GAP_MS, GAP_INTERVALS * (intervals[Math.floor(intervals.length / 4)] ?? 0))
}

/**
 * Largest triangle, three buckets: keeps first and last, and of each bucket the point that makes the largest triangle
 * with the one kept before and the mean of the next bucket. Peaks and corners stay.
 * Steinarsson, "Downsampling Time Series for Visual Representation", University of Iceland, 2013.
 */
export function largestTriangles(samples: readonly Point[], most: number): Point[] {
  if (samples.length <= most || samples.length <= 2) return [...samples]
  const buckets = Math.max(1, most - 2)
  const size = (samples.length - 2) / buckets
  const kept: Point[] = [samples[0]!]
  for (let bucket = 0; bucket < buckets; bucket++) {
    const from = 1 + Math.floor(bucket * size)
    const to = Math.min(samples.length - 1, 1 + Math.floor((bucket + 1) * size))
    const nextTo = Math.min(samples.length, 1 + Math.floor((bucket + 2) * size))
    const [meanAt, meanValue] = mean(samples, to, Math.max(to + 1, nextTo))
    const [lastAt, lastValue] = kept.at(-1)!
    let best = samples[from]!
    let largest = -1
    for (let i = from; i < to; i++) {
      const [at, value] = samples[i]!
      const area = Math.abs((lastAt - meanAt) * (value - lastValue) - (lastAt - at) * (meanValue - lastValue))
      if (area > largest) {
        largest = area
        best = samples[i]!
      }
    }
    kept.push(best)
  }
  kept.push(samples.at(-1)!)
  return kept
}

function mean(samples: readonly Point[], from: number, to: number): Point {
  let at = 0
  let value = 0
  const end = Math.min(to, samples.length)
  for (let i = from; i < end; i++) {
    at += samples[i]![0]
    value += samples[i]![1]
  }
  const count = Math.max(1, end - from)
  return [at / count, value / count]
}
