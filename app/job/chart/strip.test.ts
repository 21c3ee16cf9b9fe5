import { describe, expect, it } from 'vitest'
import { foldTape, type Entry } from '#core/tape'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { wrote } from '../../../testing/an-entry'
import { stripOf } from './strip'

const words = () => 'noted'
const stateOf = (...entries: Entry[]) => foldTape(entries)
const run = (at: number) =>
  wrote(
    'run-started',
    { runId: 'r', use: 'recover', cylinderId: 'c', scale: '', mode: 'gross', weightMg: 12e6 },
    at,
  )
const band = (strip: ReturnType<typeof stripOf>, name: string) =>
  strip.bands.find((each) => each.name === name)

describe('the strip', () => {
  it('draws how far down a recovery must go, and where one that leaks must stop', () => {
    const state = stateOf(wrote('pressure-noted', { point: 'low', pressurePa: 300_000 }, 1_000))
    const marks = (limits: Parameters<typeof stripOf>[2], units = METRIC_UNITS) =>
      band(stripOf(state, [], limits, { units, atmospherePa: 95_000 }, words), 'pressure')!.marks
    expect(marks({})).toEqual([])
    // 0.61 bar absolute where the air has 0.95: 0.34 bar below zero.
    expect(marks({ levelPa: 61_000 })).toEqual([
      { name: 'down to here', value: expect.closeTo(-0.34, 9) as number, limit: false },
    ])
    expect(marks({ levelPa: 61_000, stopsAtZero: true }, US_UNITS)).toEqual([
      { name: 'stop: it leaks', value: 0, limit: true },
    ])
  })

  it('has a band only for what there is', () => {
    expect(stripOf(stateOf(), [], {}, { units: METRIC_UNITS }, words)).toEqual({ bands: [], pins: [] })
    const strip = stripOf(stateOf(run(1_000)), [], {}, { units: METRIC_UNITS }, words)
    expect(strip.bands.map((each) => each.name)).toEqual(['weight'])
    expect(strip.pins).toEqual([{ at: 1_000, words: 'noted' }])
  })

  it('typed pressures and temperatures are on it, with the air that the gauge was zeroed in', () => {
    const state = stateOf(
      wrote('pressure-noted', { point: 'low', pressurePa: 300_000, atmospherePa: 90_000 }, 1_000),
      wrote('pressure-noted', { point: 'high', pressurePa: 2_101_325 }, 2_000),
      wrote('temperature-noted', { point: 'suction', tempK: 283.15 }, 3_000),
    )
    const metric = stripOf(state, [], {}, { units: METRIC_UNITS }, words)
    // 3 bar absolute where the air has 0.9: 2.1 on the gauge. 21.01325 at sea level: 20.
    expect(band(metric, 'pressure')!.lines.map(({ name, ink, points }) => [name, ink, points])).toEqual([
      ['noted, low side', 'cold', [[1_000, 2.1]]],
      ['noted, high side', 'warm', [[2_000, 20]]],
    ])
    expect(band(metric, 'temperature')!.lines[0]!.points).toEqual([[3_000, 10]])
    const us = stripOf(state, [], {}, { units: US_UNITS }, words)
    expect(band(us, 'temperature')).toMatchObject({ unit: '°F', lines: [{ points: [[3_000, 50]] }] })
    expect(band(us, 'pressure')!.lines[1]!.points[0]![1]).toBeCloseTo(290.1, 1)
  })

  it('from one scale to another no line runs', () => {
    const state = stateOf(
      run(1_000),
      wrote('weight-noted', { runId: 'r', weightMg: 13e6 }, 2_000),
      wrote('scale-changed', { runId: 'r', scale: 'S2', mode: 'net', weightMg: 0, valveShut: true }, 3_000),
    )
    const strip = stripOf(state, [], {}, { units: METRIC_UNITS }, words)
    expect(band(strip, 'weight')!.lines[0]!.points).toEqual([[1_000, 12], [2_000, 13], null, [3_000, 0]])
  })

  it('what was heard is a line with its gaps, in the reader’s units', () => {
    const heard = [
      { channel: 'weight' as const, name: 'Scale 2', points: [[1_000, 12], null, [9_000, 13.6]] as never },
      { channel: 'low' as const, name: 'Gauges', points: [[1_000, 100_000]] as never },
      {
        channel: 'vacuum' as const,
        name: 'Micron',
        points: [
          [1_000, 0],
          [2_000, 66.66],
        ] as never,
      },
    ]
    const metric = stripOf(stateOf(), heard, {}, { units: METRIC_UNITS }, words)
    expect(band(metric, 'weight')!.lines).toEqual([
      { name: 'Scale 2', ink: 'copper', noted: false, points: [[1_000, 12], null, [9_000, 13.6]] },
    ])
    expect(band(metric, 'pressure')!.lines[0]!.points).toEqual([[1_000, 1]])
    // A log axis has no nothing.
    const vacuum = band(metric, 'vacuum')!
    expect(vacuum.log).toBe(true)
    expect(vacuum.lines[0]!.points[0]![1]).toBeGreaterThan(0)
    expect(vacuum.lines[0]!.points[1]![1]).toBeCloseTo(500, 0)
    const us = stripOf(stateOf(), heard, {}, { units: US_UNITS }, words)
    expect(band(us, 'weight')!.lines[0]!.points[0]![1]).toBeCloseTo(26.455, 3)
  })

  it('limits and targets stand in it while a transfer runs, and not after', () => {
    const limits = { grossLimitMg: 20e6, stopMg: 9e6 }
    const strip = (...entries: Entry[]) =>
      stripOf(stateOf(...entries), [], limits, { units: METRIC_UNITS }, words)
    expect(band(strip(run(1_000)), 'weight')!.marks).toEqual([
      { name: 'never past', value: 20, limit: true },
      { name: 'close the valve', value: 9, limit: false },
    ])
    const ended = strip(run(1_000), wrote('run-ended', { runId: 'r', weightMg: 13e6 }, 2_000))
    expect(band(ended, 'weight')!.marks).toEqual([])
  })
})
