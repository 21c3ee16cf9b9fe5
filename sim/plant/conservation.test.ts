import fc from 'fast-check'
import { expect, it } from 'vitest'
import { fluidOf } from '../fluid'
import { aPlant } from './testing'
import { type Controls, totalKg } from './state'
import { step } from './step'

const controls = fc.record<Partial<Controls>>(
  {
    line: fc.constantFrom('none', 'machine', 'pump', 'cylinder'),
    valve: fc.constantFrom('closed', 'vapour', 'liquid'),
    machine: fc.constantFrom('off', 'run', 'purge'),
    cylinderOpen: fc.boolean(),
    pump: fc.boolean(),
    fan: fc.boolean(),
    coreIn: fc.boolean(),
    compressor: fc.boolean(),
    ice: fc.boolean(),
    sun: fc.boolean(),
    bathK: fc.option(fc.double({ min: 274, max: 320, noNaN: true }), { nil: undefined }),
  },
  { requiredKeys: [] },
)

it('refrigerant only changes its place, whatever hands do: 1 part in 1e9', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('R-410A', 'R-134a', 'R-407C', 'R-290', 'R-744'),
      fc.record({
        chargeKg: fc.double({ min: 0, max: 12, noNaN: true }),
        fill: fc.double({ min: 0, max: 0.9, noNaN: true }),
        ambientK: fc.double({ min: 250, max: 318, noNaN: true }),
        holeM: fc.constantFrom(0, 0, 0.4e-3),
        stillWaterKg: fc.constantFrom(0, 8),
      }),
      fc.array(fc.tuple(controls, fc.integer({ min: 1, max: 240 })), { minLength: 1, maxLength: 12 }),
      fc.constantFrom(0.1, 0.25, 0.5),
      (refrigerant, { chargeKg, fill, ambientK, holeM, stillWaterKg }, acts, dt) => {
        const { parameters, state } = aPlant({
          refrigerant,
          ambientK,
          system: { chargeKg, holeM, stillWaterKg },
          cylinder: { contentsKg: fill * 11.9e-3 * fluidOf(refrigerant).liquid(ambientK) },
        })
        const before = totalKg(state)
        for (const [set, steps] of acts) {
          Object.assign(state.controls, set)
          for (let i = 0; i < steps; i++) step(parameters, state, dt)
        }
        const { system, machine, cylinder, hoseKg } = state
        expect(Math.abs(totalKg(state) - before)).toBeLessThanOrEqual(1e-9 * Math.max(1, before))
        for (const kg of [
          system.vapourKg,
          system.liquidKg,
          system.pocketKg,
          system.dissolvedKg,
          machine.holdupKg,
          cylinder.kg,
          hoseKg,
        ])
          expect(kg).toBeGreaterThanOrEqual(-1e-12)
        for (const value of [
          state.seen.systemPa,
          state.seen.suctionPa,
          state.seen.dischargePa,
          cylinder.tempK,
          system.mainK,
        ])
          expect(Number.isFinite(value)).toBe(true)
      },
    ),
    { numRuns: 150 },
  )
})
