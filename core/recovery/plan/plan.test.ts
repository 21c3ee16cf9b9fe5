import { describe, expect, it } from 'vitest'
import { aPlant, until, withHoses } from '../../../sim/plant/testing'
import { refrigerant, tableOf } from '../../refrigerants'
import { type BeforeRecovery, expectedDuration, type HoseSize, methodsFor, type RigPlan } from '.'

const PLAIN: BeforeRecovery = {
  compressorRuns: undefined,
  keepOil: false,
  chargeKg: 3,
  machineTakesLiquid: true,
  glide: false,
  flammable: false,
  vehicle: false,
  cylinderEmpty: false,
}
const first = (over: Partial<BeforeRecovery>) => methodsFor({ ...PLAIN, ...over })[0]!.method
const of = (method: string, over: Partial<BeforeRecovery>) =>
  methodsFor({ ...PLAIN, ...over }).find((each) => each.method === method)!

describe('which way to pull', () => {
  it('a few kilograms, nothing else said: liquid first, then vapour', () => {
    expect(first({})).toBe('liquid-then-vapour')
    expect(first({ glide: true })).toBe('liquid-then-vapour')
  })
  it('the oil is to stay, or the machine takes no liquid: vapour only', () => {
    expect(first({ keepOil: true })).toBe('vapour-only')
    expect(first({ machineTakesLiquid: false })).toBe('vapour-only')
    expect(of('liquid-then-vapour', { machineTakesLiquid: false })).toMatchObject({ ruledOut: true })
  })
  it('a small charge and an empty cylinder: let it run over first', () => {
    expect(first({ chargeKg: 0.3, cylinderEmpty: true })).toBe('run-over-first')
    expect(first({ chargeKg: 0.3 })).toBe('vapour-only')
  })
  it('a large charge, the compressor runs, the cylinder is empty: let it push', () => {
    expect(first({ chargeKg: 20, compressorRuns: true, cylinderEmpty: true })).toBe('own-compressor')
    // Into one that holds warm liquid it leaves more than half behind.
    expect(first({ chargeKg: 20, compressorRuns: true })).toBe('liquid-then-vapour')
    expect(of('own-compressor', { compressorRuns: false })).toMatchObject({
      ruledOut: true,
      against: expect.arrayContaining(['compressor-stands']) as string[],
    })
  })
  it('a vehicle: both sides', () => {
    expect(first({ vehicle: true })).toBe('both-sides')
  })
  it('every way has a word for or against it, whatever is known', () => {
    for (const chargeKg of [undefined, 0.058, 3, 300])
      for (const vehicle of [true, false])
        for (const each of methodsFor({ ...PLAIN, chargeKg, vehicle }))
          expect(each.for.length + each.against.length).toBeGreaterThan(0)
  })
})

const R410A = [tableOf('R-410A'), refrigerant('R-410A').molarMassG] as const
const PLAN: RigPlan = {
  chargeKg: 3,
  liquidFirst: true,
  coresOut: false,
  hose: '1/4',
  ambientK: 298.15,
  levelPa: 101_325,
}
const K: Record<HoseSize, number> = { '1/4': 2.4e-6, '3/8': 14e-6, '1/2': 30e-6 }

describe('how long it takes', () => {
  it('holds the plant’s own time, whichever rig, charge, gas and day', () => {
    let [runs, held] = [0, 0]
    for (const gas of ['R-410A', 'R-134a', 'R-404A'])
      for (const hose of ['1/4', '3/8'] as const)
        for (const coresOut of [true, false])
          for (const liquidFirst of [true, false])
            for (const chargeKg of [1, 4])
              for (const ambientK of [283.15, 298.15]) {
                const plant = aPlant(
                  {
                    refrigerant: gas,
                    ambientK,
                    ...withHoses(K[hose]),
                    system: { chargeKg, volumeM3: 4.7e-3 * chargeKg, pocketKg: 0.08 * chargeKg },
                    cylinder: { volumeM3: 30e-3, steelKg: 14 },
                  },
                  {
                    line: 'machine',
                    machine: 'run',
                    valve: liquidFirst ? 'liquid' : 'vapour',
                    coreIn: !coresOut,
                    fan: true,
                  },
                )
                const tookS = until(
                  plant,
                  (state) => state.seen.systemPa <= 101_325 || state.machine.stoppedItself,
                  7_200,
                  0.25,
                ).seconds
                // Behind a core that was left in, the machine stops itself before the system is down.
                if (plant.state.seen.systemPa > 101_325) continue
                const expected = expectedDuration(
                  { ...PLAN, chargeKg, hose, coresOut, liquidFirst, ambientK },
                  tableOf(gas),
                  refrigerant(gas).molarMassG,
                )!
                runs++
                if (tookS >= expected.seconds.least && tookS <= expected.seconds.most) held++
              }
    expect(runs).toBeGreaterThan(60)
    expect(held / runs).toBeGreaterThan(0.95)
  })
  it('three runs of this rig are better than any model; fewer are none', () => {
    const past = [
      { massKg: 2, seconds: 400 },
      { massKg: 3, seconds: 900 },
      { massKg: 1, seconds: 250 },
    ]
    // 200, 250 and 300 s a kilogram: 3 kg in 600 to 900 s, and the last of it.
    expect(expectedDuration(PLAN, ...R410A, past)).toEqual({ seconds: { least: 600, most: 960 }, runs: 3 })
    expect(expectedDuration(PLAN, ...R410A, past.slice(1))!.runs).toBe(2)
    expect(expectedDuration(PLAN, ...R410A, past.slice(1))!.seconds).toEqual(
      expectedDuration(PLAN, ...R410A)!.seconds,
    )
  })
  it('a gas without liquid at this temperature: nothing is said', () => {
    expect(
      expectedDuration({ ...PLAN, ambientK: 310 }, tableOf('R-744'), refrigerant('R-744').molarMassG),
    ).toBeUndefined()
  })
})
