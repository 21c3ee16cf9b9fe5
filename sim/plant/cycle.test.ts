import { describe, expect, it } from 'vitest'
import { type CycleParameters, newCycle, runCycle, TYPICAL_CYCLE } from './cycle'

const RIGHT = TYPICAL_CYCLE.chargeKg
const BAR = 1e5
const GAUGE = 1.01325

/** The mean of the last five of thirty minutes: low and high in bar g, then kelvins. */
function settled(over: Partial<CycleParameters>) {
  const of = { ...TYPICAL_CYCLE, ...over }
  const state = newCycle(of)
  const sums = [0, 0, 0, 0, 0, 0, 0]
  let count = 0
  for (let i = 0; i < 4 * 1_800; i++) {
    const r = runCycle(of, state, 0.25)
    if (i < 4 * 1_500) continue
    count++
    const row = [
      r.lowPa / BAR - GAUGE,
      r.headPa / BAR - GAUGE,
      r.superheatK,
      r.subcoolingK,
      r.splitK,
      r.overAmbientK,
      of.airOnK - r.airOffK,
    ]
    row.forEach((value, k) => (sums[k]! += value))
  }
  return sums.map((sum) => sum / count)
}

const halfAir = { evaporatorAirWK: 310, evaporatorWK: 416 }

describe('a running system settles: low, high, superheat, subcooling, split, over ambient, air on less off', () => {
  it.each<[string, Partial<CycleParameters>, number[]]>([
    ['right', {}, [9.6, 26.3, 6, 7, 16, 13, 10.3]],
    ['charge x 0.6', { chargeKg: 0.6 * RIGHT }, [7.1, 24.2, 24, 0, 25, 10, 7.5]],
    ['charge x 0.75', { chargeKg: 0.75 * RIGHT }, [8.9, 25.3, 16, 0, 18, 11, 9.1]],
    ['charge x 0.9', { chargeKg: 0.9 * RIGHT }, [9.8, 25.9, 6, 0.6, 15, 12, 9.9]],
    ['charge x 1.1', { chargeKg: 1.1 * RIGHT }, [9.5, 27.1, 6, 11, 16, 14, 10.5]],
    ['charge x 1.25', { chargeKg: 1.25 * RIGHT }, [9.4, 28.9, 6, 16, 16, 17, 10.5]],
    ['charge x 1.4', { chargeKg: 1.4 * RIGHT }, [9.5, 35.5, 6, 25, 16, 26, 10.5]],
    ['air 0.3 mol', { airMol: 0.3 }, [9.6, 29.6, 6, 12, 16, 18, 10.2]],
    ['air 1 mol', { airMol: 1 }, [9.7, 37.1, 6, 21, 16, 28, 10.2]],
    ['condenser at half', { condenserWK: 420, condenserAirWK: 700 }, [9.8, 36, 6, 16, 15, 26, 9.8]],
    ['restriction 0.62e-6', { restrictionK: 0.62e-6 }, [9, 26.3, 15, 9, 18, 13, 9.9]],
    ['restriction 0.45e-6', { restrictionK: 0.45e-6 }, [7.1, 25.7, 24, 10, 24, 12, 8]],
    ['evaporator air at half', halfAir, [7.7, 25, 6, 5, 23, 11, 17]],
    ['compressor at 0.6', { health: 0.6 }, [11, 23.8, 6, 5, 12, 9, 7.4]],
    ['valve stuck at 0.2', { device: 'stuck', opening: 0.2 }, [6.3, 25.2, 28, 10, 28, 11, 7.1]],
    ['valve stuck at 0.9', { device: 'stuck', opening: 0.9 }, [11.3, 26.7, 0, 0, 11, 14, 7.4]],
    ['orifice', { device: 'orifice' }, [9.4, 26.3, 10, 8, 17, 13, 10.2]],
    [
      'orifice, charge x 0.75',
      { device: 'orifice', chargeKg: 0.75 * RIGHT },
      [7.7, 24.6, 22, 0, 22, 10, 8.1],
    ],
    [
      'orifice, charge x 1.25',
      { device: 'orifice', chargeKg: 1.25 * RIGHT },
      [9.5, 28.8, 3, 16, 16, 17, 10.7],
    ],
    ['orifice, evaporator air at half', { device: 'orifice', ...halfAir }, [8.7, 25.3, 0, 2, 19, 11, 14.5]],
    ['orifice, compressor at 0.6', { device: 'orifice', health: 0.6 }, [12.2, 23.8, 0, 1, 8, 9, 5.7]],
  ])('%s', (_, over, expected) => {
    const found = settled(over)
    expected.forEach((want, k) => {
      // 10 % or 1 K (0.3 bar).
      const within = Math.max(0.1 * want, k < 2 ? 0.3 : 1.05)
      expect(Math.abs(found[k]! - want), `figure ${k}: ${found[k]!.toFixed(2)}, not ${want}`).toBeLessThan(
        within,
      )
    })
  })
})

it('keeps its charge, and loses exactly what is pushed out', () => {
  const state = newCycle(TYPICAL_CYCLE)
  const kg = () => state.evaporatorKg + state.condenserKg
  for (let i = 0; i < 2_000; i++) runCycle(TYPICAL_CYCLE, state, 0.25)
  expect(kg()).toBeCloseTo(RIGHT, 12)
  for (let i = 0; i < 40; i++) runCycle(TYPICAL_CYCLE, state, 0.25, { pushKgS: 0.01 })
  expect(kg()).toBeCloseTo(RIGHT - 0.1, 9)
})

it('its low-side switch stops it', () => {
  const of = { ...TYPICAL_CYCLE, lowSwitchPa: 4e5 }
  const state = newCycle(of)
  for (let i = 0; i < 4_000 && !state.tripped; i++) runCycle(of, state, 0.25, { pushKgS: 0.02 })
  expect(state.tripped).toBe(true)
  expect(runCycle(of, state, 0.25).compressorKgS).toBe(0)
})
