import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { forChart, gapOf, largestTriangles, liveState, type Point, rangeOf, withoutGaps } from '.'

const line = (count: number, everyMs = 1_000, value = (i: number) => i): Point[] =>
  Array.from({ length: count }, (_, i) => [i * everyMs, value(i)])

const seriesOf = (points: readonly Point[]) => ({
  at: points.map(([at]) => at),
  value: points.map(([, value]) => value),
})
const times = (points: readonly Point[]) => points.map(([at]) => at)

describe('largest triangles', () => {
  it('keeps first, last and a lone peak', () => {
    const samples = line(10_000, 1_000, (i) => (i === 6_123 ? 50 : 0))
    const kept = largestTriangles(seriesOf(samples), 100)
    expect(kept).toHaveLength(100)
    expect(kept[0]).toEqual(samples[0])
    expect(kept.at(-1)).toEqual(samples.at(-1))
    expect(kept).toContainEqual([6_123_000, 50])
  })
  it('gives what there is when that is little', () => {
    expect(largestTriangles(seriesOf(line(3)), 100)).toEqual(line(3))
    expect(largestTriangles(seriesOf([]), 100)).toEqual([])
  })
  it('gives samples only, in order, never more than asked', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 3, maxLength: 400 }),
        fc.integer({ min: 3, max: 120 }),
        (values, most) => {
          const samples = values.map((value, i): Point => [i * 250, value])
          const kept = largestTriangles(seriesOf(samples), most)
          expect(kept.length).toBeLessThanOrEqual(Math.max(most, 3))
          for (const point of kept) expect(samples).toContainEqual(point)
          for (let i = 1; i < kept.length; i++) expect(kept[i]![0]).toBeGreaterThan(kept[i - 1]![0])
        },
      ),
    )
  })
})

describe('gaps', () => {
  it('a minute without samples at 1 Hz is a gap; three seconds are none', () => {
    const samples = [...line(60), ...line(60).map(([at, value]): Point => [at + 62_000, value])]
    expect(withoutGaps(times(samples))).toHaveLength(1)
    const apart = [...line(60), ...line(60).map(([at, value]): Point => [at + 120_000, value])]
    expect(withoutGaps(times(apart))).toEqual([
      [0, 60],
      [60, 120],
    ])
    expect(forChart(seriesOf(apart), 50).filter((point) => point === null)).toHaveLength(1)
  })
  it('follows the usual interval: thinned samples of 10 s are no gaps', () => {
    expect(withoutGaps(times(line(100, 10_000)))).toHaveLength(1)
    expect(gapOf(times(line(100, 10_000)))).toBe(50_000)
  })
  it('a long tape keeps within its points, gap and all', () => {
    const points = forChart(
      seriesOf([...line(8_000), ...line(6_000).map(([at, v]): Point => [at + 9e6, v])]),
      1_000,
    )
    expect(points.length).toBeLessThanOrEqual(1_002)
    expect(points).toContain(null)
  })
})

describe('live', () => {
  const now = 100_000
  const weights = (...values: number[]) =>
    values.map((value, i): Point => [now - (values.length - 1 - i) * 500, value])
  it('is silent after four seconds, and where nothing ever came', () => {
    expect(liveState('weight', [[now - 3_900, 12]], now)).toBe('live')
    expect(liveState('weight', [[now - 4_100, 12]], now)).toBe('silent')
    expect(liveState('weight', [], now)).toBe('silent')
  })
  it('one knock, and one cylinder put on, are no nonsense; there and back again is', () => {
    expect(liveState('weight', weights(12, 12, 15, 15, 15, 15), now)).toBe('live')
    expect(liveState('weight', weights(12, 12, 15, 12, 12, 12), now)).toBe('live')
    expect(liveState('weight', weights(12, 19, 11, 16, 9, 12), now)).toBe('nonsense')
    expect(liveState('weight', weights(12, 14, 16, 18, 20, 22), now)).toBe('live')
  })
  it('pressures may do what they like', () => {
    expect(liveState('low', weights(1e5, 9e5, 1e5, 9e5, 1e5), now)).toBe('live')
  })
})

it('an instrument’s range is its own where it is known', () => {
  expect(rangeOf('weight', { capacityMg: 100e6 }).most).toBeCloseTo(110, 9)
  expect(rangeOf('weight').most).toBe(5_000)
  expect(rangeOf('low', { fullScalePa: 8e5 })).toEqual({ least: -110_000, most: 8e5 * 1.1 })
  expect(rangeOf('vacuum', { mostPa: 2_700 }).most).toBeCloseTo(2_970, 9)
})
