import { describe, expect, it } from 'vitest'
import { newPlant, step, TYPICAL } from '../plant'
import { type SensorChanges, sensorsOf, sensorsWith } from './sensors'

/** A cylinder of 3 kg that nothing happens to. */
const still = () => {
  const parameters = structuredClone(TYPICAL)
  parameters.cylinder.contentsKg = 3
  const state = newPlant(parameters)
  step(parameters, state)
  return { parameters, state }
}

function readings(
  over: SensorChanges,
  channel: 'weight' | 'low' | 'high' | 'vacuum' | 'ambient',
  seconds = 600,
  seed = 7,
) {
  const { parameters, state } = still()
  const sensors = sensorsOf(sensorsWith(over), seed)
  return Array.from({ length: seconds }, (_, second) => {
    state.seconds = second
    return sensors.read(parameters, state)[channel]
  })
}
const mean = (list: (number | undefined)[]) =>
  list.reduce<number>((sum, each) => sum + each!, 0) / list.length

describe('scale', () => {
  it('counts in its divisions around tare and contents, 9 + 3 kg', () => {
    const list = readings({}, 'weight')
    for (const each of list) expect(Math.abs(each! / 0.005 - Math.round(each! / 0.005))).toBeLessThan(1e-6)
    expect(mean(list)).toBeCloseTo(12, 2)
    expect(Math.max(...list.map((each) => Math.abs(each! - 12)))).toBeLessThanOrEqual(0.015)
  })
  it('drifts, is nudged, is pulled by a hose', () => {
    expect(readings({ scale: { driftKgPerHour: 1.2 } }, 'weight').at(-1)! - 12).toBeCloseTo(0.2, 1)
    const nudged = readings({ scale: { nudge: { atS: 300, kg: -0.4 } } }, 'weight')
    expect(mean(nudged.slice(0, 300)) - mean(nudged.slice(300))).toBeCloseTo(0.4, 2)
    const pulled = readings({ scale: { hoseKg: 0.08 } }, 'weight', 3_000)
    expect(mean(pulled)).toBeCloseTo(12.08, 1)
    expect(
      Math.max(...pulled.map((each) => each!)) - Math.min(...pulled.map((each) => each!)),
    ).toBeGreaterThan(0.03)
  })
  it('fails in three ways', () => {
    const stuck = readings({ scale: { failing: { atS: 100, how: 'stuck' } } }, 'weight')
    expect(new Set(stuck.slice(100)).size).toBe(1)
    const jumps = readings({ scale: { failing: { atS: 100, how: 'jumps' } } }, 'weight')
    expect(jumps.slice(100).filter((each) => Math.abs(each! - 12) > 1).length).toBeGreaterThan(50)
    const silent = readings({ scale: { failing: { atS: 100, how: 'silent' } } }, 'weight')
    expect(silent.slice(0, 100).every((each) => each !== undefined)).toBe(true)
    expect(silent.slice(100).every((each) => each === undefined)).toBe(true)
  })
  it('the same seed gives the same scale, another one another', () => {
    expect(readings({}, 'weight', 50, 1)).toEqual(readings({}, 'weight', 50, 1))
    expect(readings({}, 'weight', 50, 1)).not.toEqual(readings({}, 'weight', 50, 2))
  })
})

describe('gauges', () => {
  it('stay within their class, keep their error, and say nothing where there is none', () => {
    const { parameters, state } = still()
    const truePa = Math.min(8e5, state.seen.suctionPa - parameters.atmospherePa)
    for (let seed = 0; seed < 50; seed++) {
      const [first, second] = readings({}, 'low', 2, seed)
      expect(first).toBe(second)
      // 1 % of 8 bar, and half a division.
      expect(Math.abs(first! - truePa)).toBeLessThanOrEqual(8_000 + 500)
    }
    expect(readings({ low: { missing: true } }, 'low', 1)).toEqual([undefined])
  })
  it('off zero: reads so everywhere', () => {
    expect(
      readings({ high: { offZeroPa: 50_000 } }, 'high', 1)[0]! - readings({}, 'high', 1)[0]!,
    ).toBeCloseTo(50_000, 0)
  })
  it('on the cylinder: its saturation pressure, and more where air is in it', () => {
    const { parameters, state } = still()
    const at = (airMol: number) => {
      state.cylinder.airMol = airMol
      const sensors = sensorsOf(sensorsWith({ cylinder: { classPct: 0, divisionPa: 0 } }), 1)
      return sensors.read(parameters, state)['cylinder-pressure']!
    }
    // R-410A at 25 C, bubble: 16.53 bar absolute; a gauge shows 1.013 bar less.
    expect(at(0) / 1e5).toBeCloseTo(15.52, 1)
    // Of 3 kg 0.6 are vapour, and 2.4 kg of liquid at 1.06 kg/L leave 9.64 of 11.9 L to the gas: 1 mol of air at 298 K
    // makes 8.314 x 298 / 0.00964 = 2.57 bar.
    expect((at(1) - at(0)) / 1e5).toBeCloseTo(2.57, 1)
  })
  it('a clamp follows slowly, and is off by no more than it may', () => {
    const parameters = structuredClone(TYPICAL)
    const state = newPlant(parameters)
    const sensors = sensorsOf(sensorsWith({ clamp: { accuracyK: 0 } }), 1)
    const at = (second: number, tempK: number) => {
      state.seconds = second
      state.cylinder.tempK = tempK
      return sensors.read(parameters, state).cylinder!
    }
    expect(at(0, 298.15)).toBeCloseTo(298.15, 1)
    // One time constant of 8 s: 63 % of 20 K.
    expect(at(8, 318.15)).toBeCloseTo(298.15 + 12.6, 1)
    for (let seed = 0; seed < 30; seed++)
      expect(Math.abs(readings({}, 'ambient', 1, seed)[0]! - 298.15)).toBeLessThanOrEqual(0.55)
  })
})

it('a vacuum gauge at the pump reads far lower than one at the system while the pump draws', () => {
  const parameters = structuredClone(TYPICAL)
  parameters.system.chargeKg = 0
  parameters.system.airMol = 0.4
  const state = newPlant(parameters, { line: 'pump', pump: true, valve: 'vapour' })
  while (state.seen.systemPa > 200 || state.seconds < 1) step(parameters, state)
  const at = (place: 'system' | 'pump') =>
    sensorsOf(sensorsWith({ vacuum: { at: place } }), 3).read(parameters, state).vacuum!
  expect(at('system')).toBeGreaterThan(170)
  expect(at('pump')).toBeLessThan(at('system') / 5)
  // Three digits.
  expect(String(at('system')).replace(/\D/g, '').length).toBeLessThanOrEqual(3)
})

it('an identifier sees air, a detector smells a hole when it is near', () => {
  const parameters = structuredClone(TYPICAL)
  parameters.system.airMol = 2
  parameters.system.holeM = 0.3e-3
  const state = newPlant(parameters)
  step(parameters, state)
  const read = (detectorM?: number) =>
    sensorsOf(sensorsWith(detectorM === undefined ? {} : { detectorM }), 1).read(parameters, state)
  // About 37 mol of refrigerant and 2 of air.
  expect(read().purity).toBeCloseTo(0.95, 1)
  expect(read().purity).toBeLessThan(1)
  expect(read().detector).toBeUndefined()
  expect(read(0.02).detector).toBeGreaterThan(read(1).detector!)
})
