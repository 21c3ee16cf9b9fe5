import { describe, expect, it } from 'vitest'
import { watch } from '../recovery'
import type { Channel, Point } from '../samples'
import { type Entry, foldTape, openTransfer } from '../tape'
import { wrote } from '../../testing/an-entry'
import { pullOf } from './pull-of'

const T0 = 1_000_000_000
const at = (seconds: number) => T0 + seconds * 1_000
const pressure = (seconds: number, pressurePa: number, point: 'low' | 'cylinder' = 'low') =>
  wrote('pressure-noted', { point, pressurePa }, at(seconds))
/** Before the pull. */
const earlier = pressure(-60, 9e5)
const described = wrote('job-described', { title: '', systemId: null, refrigerant: 'R-410A' }, at(0))
const started = wrote(
  'run-started',
  { runId: 'r', use: 'recover', cylinderId: 'c', scale: 'S', scaleId: 'k', mode: 'gross', weightMg: 12e6 },
  at(0),
)
const weight = (seconds: number, kg: number) =>
  wrote('weight-noted', { runId: 'r', weightMg: kg * 1e6, on: started.entryId }, at(seconds))
function pull(
  entries: Entry[],
  spoken: Partial<Record<Channel, [seconds: number, value: number][]>> = {},
  { nowS = 600, speed = 1, atmospherePa = 95_000 } = {},
) {
  const state = foldTape([earlier, described, started, ...entries])
  const lines = (channel: Channel): Point[] =>
    (spoken[channel] ?? []).map(([seconds, value]) => [T0 + seconds * 1_000, value])
  return pullOf(state, openTransfer(state)!, lines, {
    atmospherePa,
    expected: { massMg: 3e6 },
    trade: 'stationary',
    speed,
    nowMs: T0 + nowS * 1_000,
  })
}
const stream = (count: number, value: (second: number) => number): [number, number][] =>
  Array.from({ length: count }, (_, i) => [i, value(i)])

describe('typed only', () => {
  it('weights are what has come, pressures absolute, from the start of this pull on', () => {
    const seen = pull([weight(60, 12.8), pressure(70, 3e5), weight(120, 13.6)])
    expect(seen.weights).toEqual([
      { atS: 0, value: 0 },
      { atS: 60, value: expect.closeTo(0.8, 9) as number },
      { atS: 120, value: expect.closeTo(1.6, 9) as number },
    ])
    expect(seen.low).toEqual([{ atS: 70, value: 3e5 }])
    expect(seen.nowS).toBe(600)
    // 0 on the gauge, where the air has 0.95 bar.
    expect(seen.levelPa).toBe(95_000)
    expect(watch({ ...seen, nowS: 130 }).state).toMatchObject({ code: 'vapour' })
    expect(watch(seen).state).toEqual({ code: 'stale', agoS: 480 })
  })
  it('that fall are seen to fall: what the tape counts, the watch counts', () => {
    // Half a kilogram a minute back out of the cylinder.
    const seen = pull([
      weight(60, 13),
      weight(90, 14),
      weight(120, 13.75),
      weight(150, 13.5),
      weight(180, 13.25),
      pressure(180, 5e5),
    ])
    expect(seen.weights.at(-1)).toEqual({ atS: 180, value: expect.closeTo(1.25, 9) as number })
    expect(watch({ ...seen, nowS: 185 }).state).toMatchObject({ code: 'falling' })
  })
  it('on another scale it begins anew: what the two differ by is no gas', () => {
    const changed = wrote(
      'scale-changed',
      { runId: 'r', scale: 'T', mode: 'gross', weightMg: 13.9e6 },
      at(120),
    )
    const seen = pull([
      weight(60, 12.8),
      changed,
      wrote('weight-noted', { runId: 'r', weightMg: 14.5e6, on: changed.entryId }, at(180)),
    ])
    expect(seen.weights).toEqual([
      { atS: 0, value: 0 },
      { atS: 60, value: expect.closeTo(0.6, 9) as number },
    ])
  })
})

describe('live', () => {
  it('what streams counts, in its own clock, gauges with the air of the place; what was before the pull does not', () => {
    const seen = pull([weight(20, 12.2)], {
      weight: [[-5, 11], ...stream(30, (second) => 12 + second * 0.01)],
      low: stream(30, () => 4e5),
      'cylinder-pressure': stream(30, () => 10e5),
    })
    expect(seen.weights).toHaveLength(30)
    expect(seen.weights[10]).toEqual({ atS: 10, value: expect.closeTo(0.1, 9) as number })
    expect(seen.low[0]!.value).toBe(495_000)
    expect(seen.cylinderPa[0]!.value).toBe(1_095_000)
  })
  it('mixed: a typed gauge beside a live scale', () => {
    const seen = pull([pressure(20, 5e5)], { weight: stream(30, () => 12) })
    expect(seen.low).toEqual([{ atS: 20, value: 5e5 }])
  })
  it('a scale and a gauge that have gone silent: what is typed goes on from there', () => {
    const seen = pull([weight(10, 12.1), pressure(20, 4e5), weight(90, 13), pressure(95, 2e5)], {
      weight: stream(30, (second) => 12 + second * 0.01),
      low: stream(30, () => 4e5),
    })
    expect(seen.weights.slice(29)).toEqual([
      { atS: 29, value: expect.closeTo(0.29, 9) as number },
      { atS: 90, value: 1 },
    ])
    expect(seen.low.at(-1)).toEqual({ atS: 95, value: 2e5 })
    expect(seen.low).toHaveLength(31)
  })
  it('a stand-in that plays ten times as fast is judged by its own minutes', () => {
    const seen = pull([], { weight: stream(30, (second) => 12 + second * 0.1) }, { nowS: 30, speed: 10 })
    expect(watch(seen).state).toMatchObject({ code: 'vapour', kgPerS: expect.closeTo(0.01, 6) as number })
    expect(watch(seen).jumps).toEqual([])
  })
})
