import { describe, expect, it } from 'vitest'
import {
  type Ask,
  type PlannedStep,
  PROGRAMME_STEPS,
  type ProgrammeOrder,
  USUAL_STEPS,
} from '#core/programme'
import { totalKg } from '../plant'
import { type Said, type Station, stationOf, type StationSetup, type VehicleSetup } from '.'

const TARE_KG = 12.4
const setup = (vehicle: Partial<VehicleSetup> = {}, contentsKg = 8): StationSetup => ({
  tank: {
    volumeM3: 20e-3,
    steelKg: 9,
    contentsKg,
    tareKg: TARE_KG,
    divisionKg: 0.005,
    refrigerant: 'R-134a',
  },
  ambientK: 298.15,
  vehicles: [vehicle],
  oilMl: 250,
  dyeMl: 60,
})
const steps = (...left: PlannedStep['step'][]): PlannedStep[] =>
  PROGRAMME_STEPS.filter((step) => !left.includes(step)).map((step) => ({
    step,
    ...USUAL_STEPS[step],
    ...(step === 'charge' && { massMg: 550_000 }),
  }))
const order = (over: Partial<ProgrammeOrder> = {}): ProgrammeOrder => ({
  programmeId: 'p',
  vehicle: 'bus',
  plateKg: 0.55,
  refrigerant: 'R-134a',
  steps: steps(),
  leastKg: TARE_KG + 2,
  mostKg: TARE_KG + 12,
  ...over,
})

/** Runs it with hands that are there at once, unless they say no; so many hours at most. */
function course(station: Station, given = order(), no?: Ask): Said[] {
  const said = [...station.order(given)]
  let heard = 0
  for (let i = 0; i < 4 * 7_200 && station.state.order; i++) {
    for (; heard < said.length; heard++) {
      const { ask } = said[heard]!
      if (ask) said.push(...station.answer(ask, ask === no ? 'no' : 'done'))
    }
    said.push(...station.advance())
  }
  return said
}
const done = (said: Said[], step: PlannedStep['step']) =>
  said.find((each) => each.kind === 'done' && each.step === step)?.readings ?? {}

describe('a vehicle on the station', () => {
  const station = stationOf(setup(), 7)
  const said = course(station)
  it('goes through every step in order, asks for hands, and comes to its end', () => {
    expect(said.filter((each) => each.kind === 'done').map((each) => each.step)).toEqual(PROGRAMME_STEPS)
    expect(said.map((each) => each.nr)).toEqual(said.map((_, i) => i + 1))
    expect(said.flatMap((each) => each.ask ?? [])).toEqual([
      'hoses-on',
      'engine-on',
      'engine-off',
      'look-at-hold',
      'sniff-vents',
      'engine-on',
      'high-side-off',
      'engine-off',
      'hoses-off',
    ])
    expect(said.at(-1)).toMatchObject({ kind: 'ended', how: 'finished' })
  })
  it('takes out what was in it, 78 % of 550 g less what stays in oil and vapour, and puts 550 g in', () => {
    const began = said.find((each) => each.step === 'recover')!.readings!.weightKg!
    const out = done(said, 'recover').weightKg! - began
    expect(out).toBeGreaterThan(0.39)
    expect(out).toBeLessThan(0.43)
    const before = said.find((each) => each.kind === 'began' && each.step === 'charge')!.readings!.weightKg!
    // Two readings of a 5 g scale with 2 g of noise.
    expect(Math.abs(before - done(said, 'clear').weightKg! - 0.55)).toBeLessThanOrEqual(0.0151)
  })
  it('runs weaker before than after: less charge, less cold', () => {
    expect(done(said, 'before').lowPa!).toBeLessThan(done(said, 'after').lowPa!)
    expect(done(said, 'before').ventK!).toBeGreaterThan(done(said, 'after').ventK!)
    // 1.2 to 3 bar g, and 15 to 28 K over 25 C, which is 8.9 to 12.9 bar g of R-134a.
    expect(done(said, 'after').lowPa! / 1e5).toBeGreaterThan(1.2)
    expect(done(said, 'after').highPa! / 1e5).toBeGreaterThan(8.9)
    expect(done(said, 'after').highPa! / 1e5).toBeLessThan(12.9)
  })
  it('gives the drained oil back, and takes dye from its bottle', () => {
    expect(done(said, 'oil-in').oilMl).toBe(14)
    expect(station.state.oilMl).toBe(236)
    expect(station.state.dyeMl).toBe(52.5)
  })
})

it('refrigerant only changes its place: what the pump blows out is counted, too', () => {
  const station = stationOf(setup(), 3)
  // The vehicle comes with the first order, and is still there for the second.
  station.order(order())
  station.stop('by-hand')
  const kept = totalKg(station.state.plant)
  course(station)
  expect(Math.abs(totalKg(station.state.plant) - kept)).toBeLessThan(1e-9)
})

describe('stops by itself, shut, and says why', () => {
  it.each<[string, Partial<VehicleSetup>, Partial<ProgrammeOrder>, string, string]>([
    ['another gas', { gas: 'R-1234yf', purityPct: 97 }, {}, 'identify', 'not-the-gas'],
    ['less than pure', { purityPct: 95 }, {}, 'identify', 'not-the-gas'],
    ['no room', {}, { mostKg: TARE_KG + 8.2 }, 'recover', 'tank-full'],
    ['a large hole', { leakPaS: 15 }, {}, 'hold', 'pressure-lost'],
    ['the bottle ends', { oilOutMl: 300 }, {}, 'oil-in', 'oil-bottle-empty'],
    ['the tank ends', {}, { leastKg: TARE_KG + 8.1 }, 'charge', 'tank-empty'],
  ])('%s', (_, vehicle, over, step, why) => {
    const station = stationOf(setup(vehicle), 5)
    expect(course(station, order(over)).at(-1)).toMatchObject({ kind: 'ended', how: 'stopped', step, why })
    expect(station.state.plant.controls).toMatchObject({ line: 'none', valve: 'closed', machine: 'off' })
  })
  it('another gas than its tank: nothing is touched', () => {
    expect(course(stationOf(setup(), 5), order({ refrigerant: 'R-1234yf' })).map((each) => each.why)).toEqual(
      ['does-not-know'],
    )
  })
  it('somebody finds a leak at the vents', () => {
    expect(course(stationOf(setup(), 5), order(), 'sniff-vents').at(-1)).toMatchObject({
      why: 'answered-no',
      step: 'charge',
    })
  })
  it('a knee against the scale while nothing flows', () => {
    const station = stationOf(setup(), 5)
    const begun = [...station.order(order({ steps: steps('before', 'identify', 'recover', 'charge') }))]
    begun.push(...station.answer('hoses-on', 'done'))
    for (let i = 0; i < 400; i++) station.advance()
    station.state.plant.cylinder.kg += 0.3
    expect(station.advance()).toMatchObject([{ kind: 'ended', why: 'scale-touched' }])
  })
})

describe('the next programme', () => {
  it('on the same vehicle finds it as it was left; on another one finds another', () => {
    const station = stationOf(setup(), 7)
    course(station, order({ steps: steps('charge', 'after', 'before') }))
    const left = station.state.plant.system
    station.order(order({ programmeId: 'q' }))
    expect(station.state.plant.system).toBe(left)
    station.stop('by-hand')
    station.order(order({ programmeId: 'r', vehicle: 'tractor' }))
    expect(station.state.plant.system.liquidKg).toBeGreaterThan(0.2)
  })
  it('waits for the hand that it asked for, and hears no other', () => {
    const station = stationOf(setup(), 7)
    station.order(order())
    expect(station.answer('engine-on', 'done')).toEqual([])
    expect(station.state.ask).toBe('hoses-on')
    expect(station.order(order({ programmeId: 'second' }))).toEqual([])
    expect(station.state.order!.programmeId).toBe('p')
  })
})
