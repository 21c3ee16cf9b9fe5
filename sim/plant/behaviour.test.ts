// How a plant is known to behave: ranges, 3 kg of R-410A at 25 C unless said.
import { describe, expect, it } from 'vitest'
import { fluidOf } from '../fluid'
import { cylinderPa } from './cylinder'
import { aPlant, type Over, until, withHoses } from './testing'
import { systemKg, totalKg } from './state'

const THREE_EIGHTHS = withHoses(14e-6)
const ON_THE_GAUGE = 101_325

const emptied = (plant: ReturnType<typeof aPlant>, mostS = 3_600) =>
  until(plant, ({ seen, seconds }) => seconds > 1 && seen.suctionPa < ON_THE_GAUGE, mostS)

describe('run-over before the machine', () => {
  const after = (valve: 'vapour' | 'liquid') =>
    until(aPlant({}, { line: 'machine', valve }), () => false, 120).cylinder.kg / 3
  it('takes 8 to 25 % of the charge in the first two minutes, more on the liquid port', () => {
    expect(after('vapour')).toBeGreaterThan(0.08)
    expect(after('vapour')).toBeLessThan(0.25)
    expect(after('liquid')).toBeGreaterThan(after('vapour') + 0.1)
  })
  it('lets nothing come back through the machine when the cylinder is the warmer one', () => {
    const { cylinder } = until(
      aPlant({ cylinder: { contentsKg: 5, tempK: 318 } }, { line: 'machine', valve: 'vapour' }),
      () => false,
      300,
    )
    expect(cylinder.kg).toBeCloseTo(5, 9)
  })
})

describe('to 0 on the gauge, liquid first', () => {
  it.each([
    ['1/4 in with core', {}, true, 380],
    ['1/4 in without', {}, false, 300],
    ['3/8 in without', THREE_EIGHTHS, false, 230],
  ])('%s', (_, over, coreIn, seconds) => {
    const plant = aPlant(over, { line: 'machine', machine: 'run', valve: 'liquid', coreIn })
    expect(emptied(plant).seconds / seconds).toBeCloseTo(1, 1)
  })
  it.each([
    ['1/4 in with core', {}, true, 560],
    ['3/8 in without', THREE_EIGHTHS, false, 390],
  ])('vapour only: %s', (_, over, coreIn, seconds) => {
    const plant = aPlant(over, { line: 'machine', machine: 'run', valve: 'vapour', coreIn })
    expect(emptied(plant).seconds / seconds).toBeCloseTo(1, 1)
  })
})

describe('at rest after the first pull', () => {
  const rebound = (fan: boolean) => {
    const plant = aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid', fan })
    const stopped = emptied(plant)
    const [atS, before] = [stopped.seconds, stopped.cylinder.kg]
    Object.assign(stopped.controls, { machine: 'off', valve: 'closed' })
    const barAfter = (seconds: number) =>
      (until(plant, (state) => state.seconds >= atS + seconds).seen.systemPa - ON_THE_GAUGE) / 1e5
    const [five, ten] = [barAfter(300), barAfter(600)]
    Object.assign(stopped.controls, { machine: 'run', valve: 'vapour' })
    return {
      five,
      ten,
      grams:
        1_000 *
        (until(plant, (s) => s.seconds > atS + 605 && s.seen.suctionPa < ON_THE_GAUGE).cylinder.kg - before),
    }
  }
  it('comes back to 0.4 to 0.7 bar at 5 min and 0.8 to 1.1 at 10, fans off; the second pull yields about 50 g', () => {
    const { five, ten, grams } = rebound(false)
    expect(five).toBeGreaterThan(0.4)
    expect(five).toBeLessThan(0.7)
    expect(ten).toBeGreaterThan(0.8)
    expect(ten).toBeLessThan(1.1)
    expect(grams).toBeGreaterThan(40)
    expect(grams).toBeLessThan(60)
  })
  it('comes back less with fans on, and yields 15 to 20 g', () => {
    const [off, on] = [rebound(false), rebound(true)]
    expect(on.ten).toBeLessThan(off.ten - 0.2)
    expect(on.grams).toBeGreaterThan(12)
    expect(on.grams).toBeLessThan(22)
  })
})

it('after the gauge first reads 0 the scale still gains 20 to 75 g while it runs on to its own stop', () => {
  const plant = aPlant(THREE_EIGHTHS, { line: 'machine', machine: 'run', valve: 'liquid', coreIn: false })
  const before = emptied(plant).cylinder.kg
  const gained = 1_000 * (until(plant, ({ machine }) => machine.stoppedItself).cylinder.kg - before)
  expect(gained).toBeGreaterThan(20)
  expect(gained).toBeLessThan(75)
})

it('self-purge adds 60 to 120 g', () => {
  const plant = aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid' })
  const stopped = emptied(plant)
  const [atS, before] = [stopped.seconds, stopped.cylinder.kg]
  Object.assign(stopped.controls, { machine: 'purge', valve: 'closed' })
  const grams = 1_000 * (until(plant, ({ seconds }) => seconds > atS + 120).cylinder.kg - before)
  expect(grams).toBeGreaterThan(60)
  expect(grams).toBeLessThan(120)
})

describe('a cylinder with 3 kg that takes 6 kg, vapour with fans on', () => {
  const cutOut = (ambientC: number, bathK?: number) => {
    const plant = aPlant(
      { ambientK: 273.15 + ambientC, system: { chargeKg: 6 }, cylinder: { contentsKg: 3 }, ...THREE_EIGHTHS },
      { line: 'machine', machine: 'run', valve: 'vapour', fan: true, coreIn: false, bathK },
    )
    return until(
      plant,
      ({ machine, seen, seconds }) => machine.cutOut || (seconds > 1 && seen.suctionPa < ON_THE_GAUGE),
      1_800,
    )
  }
  it('25 C: no cut-out', () => expect(cutOut(25).machine.cutOut).toBe(false))
  it('35 C: cuts out after 4 to 6 minutes', () => {
    const { machine, seconds } = cutOut(35)
    expect(machine.cutOut).toBe(true)
    expect(seconds / 60).toBeGreaterThan(4)
    expect(seconds / 60).toBeLessThan(6)
  })
  it('42 C: cuts out within 2 minutes, and does not come back', () => {
    const plant = aPlant(
      { ambientK: 315.15, system: { chargeKg: 6 }, cylinder: { contentsKg: 3 }, ...THREE_EIGHTHS },
      { line: 'machine', machine: 'run', valve: 'vapour', fan: true, coreIn: false },
    )
    expect(until(plant, ({ machine }) => machine.cutOut, 1_800).seconds).toBeLessThan(120)
    expect(until(plant, ({ machine }) => !machine.cutOut, 1_800).machine.cutOut).toBe(true)
  })
  it('with a bath of 10 C it finishes', () => {
    for (const ambientC of [35, 42]) {
      const { machine, seen } = cutOut(ambientC, 283.15)
      expect(machine.cutOut).toBe(false)
      expect(seen.suctionPa).toBeLessThan(ON_THE_GAUGE)
    }
  })
})

describe('its own compressor, pushing liquid into a cylinder', () => {
  const left = (contentsKg: number, tempK: number) => {
    const scale = 3 / 2.2
    const plant = aPlant(
      {
        cylinder: { contentsKg, tempK },
        cycle: {
          evaporatorM3: 1.8e-3 * scale,
          condenserM3: 2.6e-3 * scale,
          liquidLineM3: 0.6e-3 * scale,
          lowSwitchPa: 3e5,
        },
      },
      { compressor: true },
    )
    const state = until(plant, () => false, 300)
    Object.assign(state.controls, { line: 'cylinder', valve: 'liquid' })
    state.cycle!.tripped = false
    until(plant, ({ cycle }) => cycle!.tripped, 1_800)
    return systemKg(state) / 3
  }
  it('leaves 18 to 26 % when the cylinder is empty', () => {
    expect(left(0, 298.15)).toBeGreaterThan(0.18)
    expect(left(0, 298.15)).toBeLessThan(0.27)
  })
  it('leaves most where the cylinder already holds warm liquid', () => {
    expect(left(6, 313.15)).toBeGreaterThan(0.55)
    expect(left(6, 313.15)).toBeLessThan(0.8)
  })
})

it.each([
  [0.2e-3, 0.1],
  [0.4e-3, 0.5],
])('a hole of %s m below 0 for 600 s puts %s bar of air into the cylinder', (holeM, bar) => {
  const plant = aPlant(
    { system: { holeM }, machine: { autoStopPa: 0 } },
    { line: 'machine', machine: 'run', valve: 'liquid' },
  )
  const atS = emptied(plant).seconds
  const { cylinder } = until(plant, ({ seconds }) => seconds > atS + 600)
  const { airPa } = cylinderPa(fluidOf('R-410A'), plant.parameters.cylinder, cylinder)
  expect(airPa / 1e5 / bar).toBeGreaterThan(0.7)
  expect(airPa / 1e5 / bar).toBeLessThan(1.35)
})

describe('20 kg of R-134a and 8 kg of still water in the condenser', () => {
  const firstIce = (valve: 'vapour' | 'liquid') => {
    const plant = aPlant(
      {
        refrigerant: 'R-134a',
        system: { chargeKg: 20, volumeM3: 30e-3, stillWaterKg: 8 },
        cylinder: { volumeM3: 30e-3, steelKg: 15 },
        ...THREE_EIGHTHS,
      },
      { line: 'machine', machine: 'run', valve, coreIn: false },
    )
    const state = until(
      plant,
      (s) => s.system.bathIceKg > 0.01 || (s.seconds > 1 && s.seen.suctionPa < ON_THE_GAUGE),
      7_200,
      0.25,
    )
    return state.system.bathIceKg > 0.01 ? state.seconds / 60 : undefined
  }
  it('vapour first: ice after about 20 minutes', () => {
    expect(firstIce('vapour')).toBeGreaterThan(16)
    expect(firstIce('vapour')).toBeLessThan(25)
  })
  it('liquid first: none', () => expect(firstIce('liquid')).toBeUndefined())
})

describe('evacuation', () => {
  const minutes = (hoseBoreM: number, coreIn: boolean, over: object = {}) => {
    const plant = aPlant(
      {
        ambientK: 293.15,
        system: { volumeM3: 11.25e-3, chargeKg: 0, airMol: 0.41571 },
        vacuum: { hoseBoreM, ...over },
      },
      { line: 'pump', pump: true, valve: 'vapour', coreIn },
    )
    let iceKg = 0
    const state = until(
      plant,
      (s) => ((iceKg = Math.max(iceKg, s.system.waterIceKg)), s.seen.systemPa < 66.66),
      4 * 3_600,
      0.25,
    )
    return { minutes: state.seconds / 60, iceKg, pumpPa: state.seen.pumpPa, state }
  }
  it.each([
    [0.0048, true, 13.4],
    [0.0079, true, 6.1],
    [0.011, true, 5.2],
    [0.0048, false, 8.9],
    [0.0079, false, 1.6],
    [0.011, false, 0.8],
  ])('dry, bore %s, core in %s: %s minutes to 500 micron', (bore, core, expected) => {
    expect(minutes(bore, core).minutes / expected).toBeGreaterThan(0.96)
    expect(minutes(bore, core).minutes / expected).toBeLessThan(1.04)
  })
  it('a larger pump hardly matters on a quarter-inch hose; twice the hose takes much longer', () => {
    const usual = minutes(0.0048, true).minutes
    expect(minutes(0.0048, true, { pumpM3S: 6e-3 }).minutes).toBeGreaterThan(0.9 * usual)
    expect(minutes(0.0048, false, { hoseM: 3 }).minutes).toBeGreaterThan(1.7 * minutes(0.0048, false).minutes)
  })
  it('a gauge at the pump reads far too low under flow', () => {
    expect(minutes(0.0048, true).pumpPa).toBeLessThan(66.66 / 10)
  })
  it('5 g of water: about 26 minutes on 3/8 in without core, about 74 on 1/4 in with it; a large pump on 1/2 in freezes it', () => {
    const waterKg = 0.005
    const wide = minutes(0.0079, false, { waterKg })
    expect(wide.minutes).toBeGreaterThan(22)
    expect(wide.minutes).toBeLessThan(31)
    const narrow = minutes(0.0048, true, { waterKg })
    expect(narrow.minutes).toBeGreaterThan(63)
    expect(narrow.minutes).toBeLessThan(85)
    expect(minutes(0.011, false, { waterKg, pumpM3S: 5e-3 }).iceKg).toBeGreaterThan(0.5e-3)
    expect(wide.iceKg).toBe(0)
  })
  it('what stands under vacuum rises by its leak, and by what the walls give', () => {
    const { state } = minutes(0.0079, false)
    const rise = (over: object) => {
      const plant = aPlant(
        {
          ambientK: 293.15,
          system: { volumeM3: 11.25e-3, chargeKg: 0, airMol: (50 * 0.01) / 8.314462618 / 293.15 },
          vacuum: over,
        },
        { line: 'pump', valve: 'closed' },
      )
      return until(plant, () => false, 600).seen.systemPa - 50
    }
    expect(state.seen.systemPa).toBeLessThan(67)
    expect(rise({})).toBeCloseTo(0, 6)
    // 0.5 Pa/s for 600 s.
    expect(rise({ leakPaS: 0.5 })).toBeCloseTo(300, 0)
    expect(rise({ outgassingPa: 100 })).toBeGreaterThan(10)
    expect(rise({ outgassingPa: 100 })).toBeLessThan(60)
  })
})

describe('charging by pressure alone, 3 kg wanted of 9 kg: share drawn in 30 minutes', () => {
  const share = (over: Over, controls = {}) => {
    const plant = aPlant(
      {
        ...over,
        system: { chargeKg: 0, ...over.system },
        cylinder: { contentsKg: 9, airPa: 0, ...over.cylinder },
      },
      { line: 'cylinder', valve: 'liquid', fan: true, ...controls },
    )
    const { cylinder } = until(plant, () => false, 1_800, 0.25)
    return (plant.parameters.cylinder.contentsKg - cylinder.kg) / 3
  }
  it.each<[string, Over, object, number, number]>([
    ['fan on', {}, {}, 1, 0.1],
    ['fan off: overfills', {}, { fan: false }, 1.7, 0.17],
    ['a quarter of the port flow', { port: { coreInK: 0.4e-6 } }, {}, 0.51, 0.05],
    ['cylinder at 10 C', { cylinder: { tempK: 283.15 } }, {}, 0.22, 0.03],
    ['cylinder at 15 C', { cylinder: { tempK: 288.15 } }, {}, 0.28, 0.03],
    // The model this was taken from draws 57 %: with ours the cylinder warms more slowly.
    ['cylinder at 20 C', { cylinder: { tempK: 293.15 } }, {}, 0.5, 0.08],
    ['left open in a bath of 40 C', {}, { bathK: 313.15 }, 2.76, 0.2],
    ['a system of 8 L', { system: { volumeM3: 8e-3 } }, {}, 0.61, 0.06],
    ['a system of 25 L', { system: { volumeM3: 25e-3 } }, {}, 1.45, 0.15],
    ['cylinder nearly empty', { cylinder: { contentsKg: 3.3 } }, {}, 0.87, 0.09],
    ['vapour only', {}, { valve: 'vapour' }, 0.24, 0.03],
  ])('%s', (_, over, controls, expected, within) => {
    expect(Math.abs(share(over, controls) - expected)).toBeLessThan(within)
  })
  it('a bath of 40 C brings the target after two minutes', () => {
    const plant = aPlant(
      { system: { chargeKg: 0 }, cylinder: { contentsKg: 9, airPa: 0 } },
      { line: 'cylinder', valve: 'liquid', fan: true, bathK: 313.15 },
    )
    expect(until(plant, ({ cylinder }) => cylinder.kg < 6, 600).seconds).toBeLessThan(150)
  })
  it('what lies in the hose has left the cylinder, and is not in the system', () => {
    const plant = aPlant(
      { system: { chargeKg: 0 }, cylinder: { contentsKg: 9, airPa: 0 } },
      { line: 'cylinder', valve: 'liquid', fan: true },
    )
    const state = until(plant, () => false, 60)
    // 54 mL full of liquid.
    expect(state.hoseKg).toBeGreaterThan(0.05)
    expect(state.hoseKg).toBeLessThan(0.065)
    expect(9 - state.cylinder.kg - systemKg(state)).toBeCloseTo(state.hoseKg, 9)
    expect(totalKg(state)).toBeCloseTo(9, 9)
  })
})
