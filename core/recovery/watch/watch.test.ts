// What is said of a pull, held against the simulated plant, which knows the truth, and against traces made by hand.
import { describe, expect, it } from 'vitest'
import { sensorsOf, type SensorChanges, sensorsWith } from '../../../sim'
import { aPlant, withHoses } from '../../../sim/plant/testing'
import { step } from '../../../sim/plant'
import { tableOf } from '../../refrigerants'
import { canPassKgS } from '../plan'
import { type AlarmFacts, type At, type Pull, pullAlarms, type PullState, watch } from '.'

const ATMOSPHERE_PA = 101_325
const FACTS: AlarmFacts = { roomKg: undefined, leaking: false, ratingPa: undefined }

/** A plant that is watched twice a second: every state that was said, with the second of it. */
function watched(
  plant: ReturnType<typeof aPlant>,
  seconds: number,
  {
    sensors = {},
    act = () => {},
    facts = () => FACTS,
    seed = 1,
    known = {},
  }: {
    sensors?: SensorChanges
    act?: (plant: ReturnType<typeof aPlant>, atS: number) => void
    facts?: (plant: ReturnType<typeof aPlant>) => AlarmFacts
    seed?: number
    /** What was said before it began. */
    known?: Partial<Pull>
  } = {},
) {
  const { parameters, state } = plant
  const instruments = sensorsOf(sensorsWith({ low: { fullScalePa: 35e5, classPct: 0.5 }, ...sensors }), seed)
  const startKg = state.cylinder.kg
  const said: { atS: number; state: PullState; alarms: ReturnType<typeof pullAlarms> }[] = []
  const heard: Record<'weights' | 'low' | 'cylinderPa' | 'cylinderK' | 'coilK', At[]> = {
    weights: [],
    low: [],
    cylinderPa: [],
    cylinderK: [],
    coilK: [],
  }
  for (let atS = 0.5; atS <= seconds; atS += 0.5) {
    act(plant, atS)
    for (let i = 0; i < 5; i++) step(parameters, state, 0.1)
    const read = instruments.read(parameters, state)
    const put = (into: At[], value: number | undefined) => value !== undefined && into.push({ atS, value })
    put(heard.weights, read.weight === undefined ? undefined : read.weight - 9 - startKg)
    put(heard.low, read.low === undefined ? undefined : read.low + ATMOSPHERE_PA)
    const held = read['cylinder-pressure']
    put(heard.cylinderPa, held === undefined ? undefined : held + ATMOSPHERE_PA)
    put(heard.cylinderK, read.cylinder)
    put(heard.coilK, read.suction)
    const pull: Pull = {
      ...heard,
      nowS: atS,
      divisionKg: 0.005,
      gaugePa: 8_750,
      atmospherePa: ATMOSPHERE_PA,
      ambientK: parameters.ambientK,
      levelPa: ATMOSPHERE_PA,
      table: tableOf(parameters.refrigerant),
      ...known,
    }
    const now = watch(pull)
    said.push({ atS, state: now.state, alarms: pullAlarms(pull, now, facts(plant)) })
  }
  return said
}

type Said = ReturnType<typeof watched>
const firstOf = (said: Said, code: PullState['code']) => said.find(({ state }) => state.code === code)?.atS
const shareOf = (said: Said, fromS: number, toS: number, codes: PullState['code'][]) => {
  const within = said.filter(({ atS }) => atS >= fromS && atS <= toS)
  return within.filter(({ state }) => codes.includes(state.code)).length / within.length
}
const alarmsOf = (said: Said) => new Set(said.flatMap(({ alarms }) => alarms.map(({ code }) => code)))

describe('on the simulated plant', () => {
  it('run-over, machine off: says so, and when both sides are equal', () => {
    const said = watched(aPlant({}, { line: 'machine', valve: 'vapour' }), 3_000)
    expect(shareOf(said, 12, 60, ['running-over'])).toBeGreaterThan(0.9)
    expect(said.at(-1)!.state.code).toBe('equal')
    expect(firstOf(said, 'stuck')).toBeUndefined()
  })

  it('liquid first, fans off: liquid, then boiling cold, near zero and still coming, done, and back again', () => {
    const plant = aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid' })
    // What the plant knows: when the liquid within reach was gone, and when the machine stopped itself.
    let liquidGoneS = Infinity
    let stoppedS = Infinity
    const said = watched(plant, 1_300, {
      act: ({ state }, atS) => {
        if (state.system.liquidKg < 0.25 * 2.69 + 0.01) liquidGoneS = Math.min(liquidGoneS, atS)
        if (state.machine.stoppedItself) stoppedS = Math.min(stoppedS, atS)
      },
    })
    expect(shareOf(said, 12, liquidGoneS - 15, ['liquid'])).toBeGreaterThan(0.9)
    // By the trace of the same plant its metal is 8.5 K and more below the air from 117 to 262 s.
    expect(shareOf(said, 125, 255, ['boiling-cold'])).toBeGreaterThan(0.9)
    const zeroS = firstOf(said, 'last-of-it')!
    expect(shareOf(said, zeroS, zeroS + 150, ['last-of-it'])).toBe(1)
    // Not before the machine has as good as nothing left to draw: the scale gains less than 10 g from there on.
    expect(firstOf(said, 'maybe-done')!).toBeGreaterThan(zeroS + 150)
    expect(firstOf(said, 'maybe-done')!).toBeLessThan(stoppedS + 60)
    expect(said.at(-1)!.state.code).toBe('comes-back')
  })

  it('the same with the fans on never boils cold for long', () => {
    const said = watched(aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid', fan: true }), 300)
    expect(shareOf(said, 0, 300, ['boiling-cold'])).toBeLessThan(0.35)
  })

  it('a valve that is shut in the middle: stuck within a minute and a half, and only then', () => {
    // Between machine and system: the gauge beside the system’s valve keeps its pressure.
    const said = watched(aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid' }), 300, {
      sensors: { low: { at: 'system' } },
      act: ({ state }, atS) => {
        if (atS === 100) state.controls.valve = 'closed'
      },
    })
    expect(firstOf(said, 'stuck')!).toBeGreaterThan(140)
    expect(firstOf(said, 'stuck')!).toBeLessThan(190)
    expect(said.at(-1)!.state).toMatchObject({ code: 'stuck' })
  })

  it('into a cylinder that is full of warm liquid on a hot day: against it, and the cut-out, never “done”', () => {
    const plant = aPlant(
      { ambientK: 315.15, cylinder: { contentsKg: 3 }, system: { chargeKg: 6 }, ...withHoses(14e-6) },
      { line: 'machine', machine: 'run', valve: 'vapour', fan: true, coreIn: false },
    )
    let cutOutS = Infinity
    const said = watched(plant, 420, {
      act: ({ state }, atS) => {
        if (state.machine.cutOut) cutOutS = Math.min(cutOutS, atS)
      },
    })
    expect(cutOutS).toBeLessThan(200)
    expect(firstOf(said, 'cut-out')! - cutOutS).toBeLessThan(90)
    expect(firstOf(said, 'maybe-done')).toBeUndefined()
  })

  it('a hot cylinder put into ice: against it, and after that it comes again', () => {
    const plant = aPlant(
      { ambientK: 308.15, cylinder: { contentsKg: 3 }, system: { chargeKg: 6 }, ...withHoses(14e-6) },
      { line: 'machine', machine: 'run', valve: 'vapour', fan: true, coreIn: false },
    )
    const said = watched(plant, 900, {
      act: ({ state }, atS) => {
        // Cold water over it, a hundred seconds before it would cut out.
        if (atS === 200) state.controls.bathK = 283.15
      },
    })
    expect(firstOf(said, 'pushing-hot')!).toBeLessThan(120)
    expect(shareOf(said, 340, 900, ['pushing-hot'])).toBe(0)
    expect(['last-of-it', 'maybe-done', 'comes-back', 'slowing', 'vapour']).toContain(said.at(-1)!.state.code)
    expect(plant.state.machine.cutOut).toBe(false)
  })

  it('a valve hardly open: held back, against what core and hose pass; an open one never', () => {
    const rig = { coresOut: true, hose: '3/8', liquidFirst: true, ambientK: 298.15 } as const
    const canPass = (lowPa: number) => canPassKgS(rig, lowPa, tableOf('R-410A'), 72.585)
    const run = (k: number) =>
      watched(
        aPlant(
          { port: { coreInK: k, coreOutK: k }, cylinder: { contentsKg: 3 }, ...withHoses(14e-6) },
          { line: 'machine', machine: 'run', valve: 'liquid', coreIn: false, fan: true },
        ),
        240,
        { known: { canPass }, sensors: { low: { fullScalePa: 35e5, classPct: 0.5, at: 'system' } } },
      )
    expect(firstOf(run(0.5e-6), 'restricted')!).toBeLessThan(180)
    expect(firstOf(run(10e-6), 'restricted')).toBeUndefined()
  })

  it('still water in the condenser: called before there is ice, and only where water is known', () => {
    const plant = () =>
      aPlant(
        {
          refrigerant: 'R-134a',
          system: { chargeKg: 20, volumeM3: 30e-3, stillWaterKg: 8 },
          cylinder: { volumeM3: 30e-3, steelKg: 15 },
          ...withHoses(14e-6),
        },
        { line: 'machine', machine: 'run', valve: 'vapour', coreIn: false },
      )
    const wet = plant()
    let iceS = Infinity
    const said = watched(wet, 1_800, {
      known: { waterCooled: true },
      sensors: { low: { at: 'system' } },
      act: ({ state }, atS) => {
        if (state.system.bathIceKg > 0.01) iceS = Math.min(iceS, atS)
      },
    })
    const called = said.find(({ alarms }) => alarms.some(({ code }) => code === 'may-freeze'))!.atS
    expect(iceS).toBeLessThan(1_800)
    expect(called).toBeLessThan(iceS)
    expect(alarmsOf(watched(plant(), 600, { sensors: { low: { at: 'system' } } }))).not.toContain(
      'may-freeze',
    )
  })

  it('a leaking system: the stop is called before zero is crossed, and about when it said', () => {
    const plant = aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid', fan: true })
    const said = watched(plant, 500, { facts: () => ({ ...FACTS, leaking: true }) })
    const near = said.flatMap(({ atS, alarms }) =>
      alarms.flatMap((each) => (each.code === 'stop-line-near' ? [{ atS, inS: each.inS }] : [])),
    )
    const crossedS = said.find(({ alarms }) => alarms.some(({ code }) => code === 'below-stop-line'))!.atS
    expect(crossedS - near[0]!.atS).toBeGreaterThan(45)
    // In the last minute, a gauge’s doubt of zero left out: within a half and twice as long.
    for (const { atS, inS } of near.filter(({ atS, inS }) => atS > crossedS - 60 && inS > 15)) {
      expect((crossedS - atS) / inS).toBeGreaterThan(0.5)
      expect((crossedS - atS) / inS).toBeLessThan(2.5)
    }
    expect(alarmsOf(watched(aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid' }), 300))).toEqual(
      new Set(),
    )
  })

  it('the limit is called minutes before it is reached, with a range that holds the moment', () => {
    const plant = aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid' })
    const roomAt = ({ state }: typeof plant) => 1.2 - state.cylinder.kg
    const said = watched(plant, 120, { facts: (of) => ({ ...FACTS, roomKg: roomAt(of) }) })
    const passedS = said.find(({ alarms }) => alarms.some(({ code }) => code === 'limit-passed'))!.atS
    for (const { atS, alarms } of said) {
      const near = alarms.find((each) => each.code === 'limit-near')
      if (!near || atS < 20 || atS > passedS - 3) continue
      expect(near.leastS).toBeLessThan(passedS - atS)
      expect(near.mostS).toBeGreaterThan(passedS - atS)
    }
    expect(said.some(({ atS, alarms }) => atS < passedS - 30 && alarms[0]?.code === 'limit-near')).toBe(true)
  })

  it('a nudge is found to within two divisions, at its second, and is taken out of the rate', () => {
    for (const kg of [-0.4, 0.3]) {
      const said = watched(aPlant({}, { line: 'machine', machine: 'run', valve: 'liquid' }), 90, {
        sensors: { scale: { nudge: { atS: 45, kg } } },
      })
      const nudges = said.at(-1)!.alarms.filter((each) => each.code === 'nudged')
      expect(nudges).toHaveLength(1)
      expect(Math.abs(nudges[0]!.byKg - kg)).toBeLessThan(0.03)
      expect(Math.abs(nudges[0]!.atS - 45)).toBeLessThanOrEqual(1)
      expect(firstOf(said, 'falling')).toBeUndefined()
      expect(shareOf(said, 12, 60, ['liquid', 'running-over'])).toBeGreaterThan(0.9)
    }
  })

  it('no alarm is false in thirty recoveries of all sizes, with the usual instruments', () => {
    for (let seed = 0; seed < 30; seed++) {
      const plant = aPlant(
        { system: { chargeKg: 1 + (seed % 6) / 2 }, ambientK: 283.15 + (seed % 5) * 4 },
        { line: 'machine', machine: 'run', valve: seed % 2 ? 'liquid' : 'vapour', fan: seed % 3 === 0 },
      )
      const said = watched(plant, 240, { seed })
      expect(alarmsOf(said), `seed ${seed}`).toEqual(new Set())
      expect(firstOf(said, 'falling'), `seed ${seed}`).toBeUndefined()
      expect(firstOf(said, 'stuck'), `seed ${seed}`).toBeUndefined()
    }
  }, 60_000)
})

describe('by hand', () => {
  const pull = (over: Partial<Pull>): Pull => ({
    weights: [],
    low: [],
    cylinderPa: [],
    cylinderK: [],
    coilK: [],
    nowS: over.weights?.at(-1)?.atS ?? 0,
    divisionKg: 0.005,
    gaugePa: 8_750,
    atmospherePa: ATMOSPHERE_PA,
    ambientK: 298.15,
    levelPa: ATMOSPHERE_PA,
    table: tableOf('R-410A'),
    ...over,
  })
  const weights = (...values: [atS: number, kg: number][]): At[] =>
    values.map(([atS, value]) => ({ atS, value }))
  const codeOf = (over: Partial<Pull>) => watch(pull(over)).state.code

  it('typed only, a minute apart: coming, slower, nothing, by weights alone', () => {
    const typed = weights([0, 0], [60, 0.8], [120, 1.6], [180, 2.0])
    expect(codeOf({ weights: [] })).toBe('too-few')
    expect(codeOf({ weights: typed.slice(0, 1) })).toBe('too-few')
    expect(watch(pull({ weights: typed.slice(0, 3) })).state).toEqual({ code: 'vapour', kgPerS: 0.8 / 60 })
    // 0.4 of 0.8 kg a minute.
    expect(watch(pull({ weights: typed })).state).toMatchObject({
      code: 'slowing',
      share: expect.closeTo(0.5, 9) as number,
    })
    expect(codeOf({ weights: [...typed, ...weights([240, 2.005])] })).toBe('flat')
    expect(codeOf({ weights: [...typed, ...weights([240, 2.005])], low: weights([230, 95_000]) })).toBe(
      'maybe-done',
    )
    expect(codeOf({ weights: [...typed, ...weights([240, 2.005])], low: weights([230, 500_000]) })).toBe(
      'stuck',
    )
    expect(codeOf({ weights: [...typed, ...weights([240, 2.1])], low: weights([230, 100_000]) })).toBe(
      'last-of-it',
    )
  })
  it('near zero is not done where the rule goes lower', () => {
    const flat = weights([0, 0], [60, 1], [120, 1.002], [180, 1.003])
    // 15 inHg below the air: 101,325 less 50,796 Pa.
    const levelPa = 50_529
    const low = (pa: number) => weights([120, pa + 1_000], [180, pa])
    expect(watch(pull({ weights: flat, low: low(100_000), levelPa })).state).toMatchObject({
      code: 'above-level',
      levelPa,
    })
    expect(codeOf({ weights: flat, low: low(55_000), levelPa })).toBe('maybe-done')
    expect(codeOf({ weights: flat, low: low(300_000), levelPa })).toBe('stuck')
  })
  it('55 g at 6 g a minute still come; at 0.2 g a minute they do not', () => {
    const at = (gPerMin: number) =>
      codeOf({
        divisionKg: 0.001,
        chargeKg: 0.055,
        weights: weights(
          ...[0, 1, 2, 3, 4, 5].map((m): [number, number] => [60 * m, 0.02 + (m * gPerMin) / 1000]),
        ),
        low: weights([240, 250_000], [300, 250_000]),
      })
    expect(['vapour', 'slowing', 'restricted']).toContain(at(6))
    expect(at(0.2)).toBe('stuck')
  })
  it('a scale of half an ounce takes longer to tell: 20 g a minute is not stuck', () => {
    const ounces = (minutes: number, gPerMin: number) =>
      codeOf({
        divisionKg: 0.014,
        chargeKg: 3,
        weights: Array.from({ length: minutes + 1 }, (_, m) => ({
          atS: 60 * m,
          value: 0.014 * Math.round((1_000 + m * gPerMin) / 14),
        })),
        low: weights([60 * (minutes - 1), 500_000], [60 * minutes, 500_000]),
      })
    expect(ounces(6, 20)).not.toBe('stuck')
    expect(ounces(6, 1)).toBe('stuck')
  })
  it('a pressure that falls says that it comes, where the weight cannot tell yet', () => {
    const flat = weights([0, 0], [60, 1], [120, 1.002], [180, 1.003])
    const low = weights([60, 500_000], [120, 460_000], [180, 420_000])
    expect(codeOf({ weights: flat, low })).toBe('slowing')
  })
  it('two weights a second apart tell no rate, and no limit that is near', () => {
    const at = pull({ weights: weights([0, 0], [1, 0.45]) })
    expect(watch(at).state).toEqual({ code: 'too-few' })
    expect(pullAlarms(at, watch(at), { ...FACTS, roomKg: 5 })).toEqual([])
  })
  it('what rises again is not done, however little the gauge is worth', () => {
    const flat = weights([0, 0], [60, 1], [120, 1.002], [180, 1.003])
    const low = weights([60, 101_000], [120, 110_000], [180, 146_000])
    for (const gaugePa of [2_000, 25_000])
      expect(watch(pull({ weights: flat, low, gaugePa })).state).toMatchObject({
        code: 'comes-back',
        fromPa: 101_000,
      })
    expect(codeOf({ weights: flat, low: weights([120, 101_000], [180, 112_000]), gaugePa: 25_000 })).toBe(
      'maybe-done',
    )
  })
  it('a reading of three minutes ago says nothing about now', () => {
    const flat = weights([0, 0], [60, 1], [120, 1.005])
    expect(codeOf({ weights: flat, low: weights([0, 95_000]), nowS: 181 })).toBe('flat')
    expect(codeOf({ weights: flat, low: weights([0, 95_000]), nowS: 179 })).toBe('maybe-done')
    expect(watch(pull({ weights: flat, nowS: 301 })).state).toEqual({ code: 'stale', agoS: 181 })
  })
  it('what goes back is falling, a division to and fro is not', () => {
    expect(codeOf({ weights: weights([0, 2], [60, 1.9]) })).toBe('falling')
    expect(codeOf({ weights: weights([0, 2], [60, 1.995]) })).toBe('flat')
  })
  it('a jump in a stream stays; a knock that comes back, and typed weights, are none', () => {
    const stream = (at: (i: number) => number) =>
      Array.from({ length: 40 }, (_, i) => ({ atS: i / 2, value: 0.005 * i + at(i) }))
    expect(watch(pull({ weights: stream((i) => (i >= 20 ? 0.3 : 0)) })).jumps).toMatchObject([{ atS: 10 }])
    expect(watch(pull({ weights: stream((i) => (i === 20 ? 0.6 : 0)) })).jumps).toEqual([])
    expect(watch(pull({ weights: weights([0, 0], [60, 3], [120, 3.1]) })).jumps).toEqual([])
    // A ship's plant through a half-inch hose: 0.5 kg a second, and a knee at the platform.
    const plant = Array.from({ length: 200 }, (_, i) => ({ atS: i / 2, value: 0.25 * i }))
    expect(watch(pull({ weights: plant, divisionKg: 0.05 })).jumps).toEqual([])
    expect(watch(pull({ weights: plant, divisionKg: 0.05 })).state).toMatchObject({
      kgPerS: expect.closeTo(0.5, 9) as number,
    })
    const knee = plant.map(({ atS, value }, i) => ({ atS, value: value + (i >= 150 ? 4 : 0) }))
    expect(watch(pull({ weights: knee, divisionKg: 0.05 })).jumps).toMatchObject([{ atS: 75, byKg: 4.25 }])
  })
  it('heat and rating are said above their border, and not at it', () => {
    const facts = { ...FACTS, ratingPa: 27.6e5 }
    const alarms = (cylinderPa: number, cylinderK: number) => {
      const at = pull({
        weights: weights([0, 0], [60, 1]),
        cylinderPa: weights([60, cylinderPa]),
        cylinderK: weights([60, cylinderK]),
      })
      return pullAlarms(at, watch(at), facts).map(({ code }) => code)
    }
    expect(alarms(27.6e5 + ATMOSPHERE_PA, 323.1)).toEqual([])
    expect(alarms(27.7e5 + ATMOSPHERE_PA, 323.2)).toEqual(['above-rating', 'cylinder-hot'])
  })
})

describe('the limit', () => {
  const weights: At[] = Array.from({ length: 60 }, (_, i) => ({ atS: i, value: i * 0.05 }))
  const pull: Pull = {
    weights,
    low: [],
    cylinderPa: [],
    cylinderK: [],
    coilK: [],
    nowS: 59,
    divisionKg: 0.005,
    gaugePa: 8_750,
    atmospherePa: ATMOSPHERE_PA,
    ambientK: 298,
    levelPa: ATMOSPHERE_PA,
  }
  const codes = (over: Partial<AlarmFacts>) =>
    pullAlarms(pull, watch(pull), { ...FACTS, ...over }).map(({ code }) => code)
  it('is near by the rate, unless less is left than there is room for', () => {
    // 3 kg a minute: 5 kg of room are full in 1.3 to 3.3 minutes.
    expect(codes({ roomKg: 5 })).toEqual(['limit-near'])
    expect(codes({ roomKg: 5, comesKg: 4.9 })).toEqual([])
    expect(codes({ roomKg: 5, comesKg: 5.1 })).toEqual(['limit-near'])
    expect(codes({ roomKg: -0.1, comesKg: 1 })).toEqual(['limit-passed'])
  })
})
