import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Said } from '../news/changes'
import { keyOf, liveStore } from './live-store'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

const said = (...samples: [at: number, value: number][]): Said => ({
  kind: 'samples',
  id: 'd',
  samples: samples.map(([at, value], i) => ['weight', at, value, i]),
})
const key = keyOf('d', 'weight')

it('tells its readers four times a second at most', () => {
  const store = liveStore()
  let told = 0
  store.subscribe(() => told++)
  for (let i = 0; i < 100; i++) {
    store.said(said([i * 20, 12]))
    vi.advanceTimersByTime(20)
  }
  // Two seconds, and once at once.
  expect(told).toBeLessThanOrEqual(9)
  expect(told).toBeGreaterThanOrEqual(8)
})

it('tells what comes after a pause at once', () => {
  const store = liveStore()
  let told = 0
  store.subscribe(() => told++)
  store.said(said([0, 12]))
  vi.advanceTimersByTime(1)
  expect(told).toBe(1)
  vi.advanceTimersByTime(600)
  store.said(said([600, 13]))
  vi.advanceTimersByTime(1)
  expect(told).toBe(2)
  // The next within a quarter of a second waits for its end.
  store.said(said([700, 14]))
  vi.advanceTimersByTime(200)
  expect(told).toBe(2)
  vi.advanceTimersByTime(60)
  expect(told).toBe(3)
})

it('keeps the order of time, and takes nothing twice', () => {
  const store = liveStore()
  store.said(said([1_000, 12], [3_000, 14]))
  store.said(said([2_000, 13], [3_000, 14]))
  expect(store.line(key)).toEqual([
    [1_000, 12],
    [2_000, 13],
    [3_000, 14],
  ])
  expect(store.reading(key, () => 3_500)).toMatchObject({ at: 3_000, value: 14, state: 'live' })
})

it('goes silent four seconds after it was heard, whatever its own clock says', () => {
  let now = 0
  const store = liveStore(() => now)
  store.said(said([9e12, 12]))
  now = 3_900
  expect(store.reading(key, () => 0)!.state).toBe('live')
  now = 4_100
  expect(store.reading(key, () => 0)!.state).toBe('silent')
})

it('the past and what is heard are one line; where nothing came there is a break', () => {
  const store = liveStore()
  store.said(said([2_000, 13], [2_500, 13.5], [60_000, 20]))
  store.past([
    {
      deviceId: 'd',
      channel: 'weight',
      points: [
        [500, 11],
        [1_500, 12],
        [2_000, 13],
      ],
      last: { at: 2_000, value: 13, seq: 4 },
    },
  ])
  expect(store.line(key)).toEqual([[500, 11], [1_500, 12], [2_000, 13], [2_500, 13.5], null, [60_000, 20]])
})

it('a long evening stays small', () => {
  const store = liveStore()
  for (let i = 0; i < 40_000; i++) store.said(said([i * 1_000, i]))
  const line = store.line(key)
  expect(line.length).toBeLessThan(9_000)
  expect(line[0]).toEqual([0, 0])
  expect(line.at(-1)).toEqual([39_999_000, 39_999])
})

it('knows when a device was heard last, on any channel', () => {
  const store = liveStore()
  expect(store.saidAt('d')).toBeUndefined()
  store.said(said([1_000, 12]))
  store.said({ kind: 'samples', id: 'd', samples: [['low', 3_000, 1, 0]] })
  store.said({ kind: 'samples', id: 'dd', samples: [['low', 9_000, 1, 0]] })
  expect(store.saidAt('d')).toBe(3_000)
})
