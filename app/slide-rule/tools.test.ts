// Every tool: its example, the worked examples of the trade, and whatever anybody may type.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { slots } from './fields'
import { KINDS } from './kinds'
import { workOut } from './work-out'
import { variantName } from './limits'
import type { Surroundings } from './tool'
import { TOOLS, toolNamed } from './tools'

const surroundings: Surroundings = {
  reading: { units: METRIC_UNITS },
  today: '2026-11-25',
  cylinders: [],
  fillMarginPct: 0,
}
const american = { ...surroundings, reading: { units: US_UNITS } }
const worked = (name: string, given: Record<string, string>, around = surroundings) =>
  workOut(toolNamed(name)!, new URLSearchParams(given), around)
const figures = (name: string, given: Record<string, string>) => {
  const { outcome, errors, missing } = worked(name, given)
  if (!outcome) throw new Error(JSON.stringify({ errors, missing: missing.map((m) => m.name) }))
  return Object.fromEntries(outcome.figures.map((f) => [f.name, f.value]))
}
const outcome = (name: string, given: Record<string, string>) => worked(name, given).outcome!

/** Every number is one, and no sentence speaks of what is none. */
function expectNumbers(value: unknown) {
  if (typeof value === 'number') expect(value).toSatisfy(Number.isFinite)
  else if (typeof value === 'string') expect(value).not.toMatch(/NaN|undefined|Infinity/)
  else if (typeof value === 'object' && value !== null) Object.values(value).forEach(expectNumbers)
}

describe.each(TOOLS.map((tool) => [tool.name, tool] as const))('%s', (_name, tool) => {
  it('works its example out in both unit systems, with working, source and caution', () => {
    for (const around of [surroundings, american]) {
      const { outcome, errors } = workOut(tool, new URLSearchParams(tool.example), around)
      expect(errors).toEqual({})
      expect(outcome!.working.length).toBeGreaterThan(1)
      expect(outcome!.source.length).toBeGreaterThan(0)
      expect(outcome!.uncertainty.length).toBeGreaterThan(0)
      expect(outcome!.unknown.length).toBeGreaterThan(0)
      expect(new Set(outcome!.figures.map((f) => f.name)).size).toBe(outcome!.figures.length)
      expectNumbers(outcome)
      // In JSON all of these stand beside each other.
      const names = [
        'summary',
        'verdict',
        ...outcome!.figures.map((f) => f.name),
        ...Object.keys(outcome!.data ?? {}),
      ]
      expect(new Set(names).size).toBe(names.length)
    }
  })

  it('says the same whichever units its link is opened with', () => {
    const [here, there] = [surroundings, american].map((around) =>
      workOut(tool, new URLSearchParams(tool.example), around).outcome!.figures.map((f) => f.value),
    )
    expect(here).toEqual(there)
  })

  it('has no result without what it needs, and says what is missing', () => {
    const { outcome, errors, missing } = workOut(tool, new URLSearchParams(), surroundings)
    expect(outcome).toBeUndefined()
    expect(Object.keys(errors).length + missing.length).toBeGreaterThan(0)
  })

  it('answers anything with a result or with sentences, never with a crash or NaN', () => {
    const names = slots(tool.inputs).flatMap(({ name, field }) => [
      name,
      ...(field.type === 'measure' ? KINDS[field.kind!].variants.map((v) => variantName(name, v)) : []),
    ])
    const options = slots(tool.inputs).flatMap(({ field }) => field.options?.map(([value]) => value) ?? [])
    const value = fc.oneof(
      fc.constantFrom(
        '0',
        '-1',
        'NaN',
        'Infinity',
        '1e308',
        '1e-308',
        '-0',
        '3-9',
        '∞',
        'R-410A',
        'R-744',
        '{x}',
        '2026-02-31',
      ),
      fc.constantFrom(...Object.values(tool.example), ...options, 'on'),
      fc.double({ noNaN: true }).map(String),
      fc.integer({ min: -100, max: 100 }).map(String),
      fc.string({ maxLength: 12 }),
      fc
        .tuple(
          fc.integer({ min: 0, max: 60 }),
          fc.constantFrom('C', 'F', 'bar', 'psi', 'kg', 'lb', 'm', 'mm', 'L', 'min'),
        )
        .map(([n, u]) => `${n} ${u}`),
    )
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom(...names), value, { maxKeys: 8 }),
        fc.boolean(),
        fc.boolean(),
        (given, onTop, strict) => {
          const { outcome, errors, missing } = workOut(
            tool,
            new URLSearchParams(onTop ? { ...tool.example, ...given } : given),
            surroundings,
            strict,
          )
          if (outcome) expectNumbers(outcome)
          else expect(Object.keys(errors).length + missing.length).toBeGreaterThan(0)
          for (const sentence of Object.values(errors)) expect(sentence).toMatch(/^\S.*[.!?]$/s)
        },
      ),
      { numRuns: 150 },
    )
  })
})

describe('the worked examples', () => {
  it('3.6 lb is 3 lb 9.6 oz and 1.633 kg, and 3.6 oz more than 3 lb 6 oz', () => {
    const found = outcome('weights', { w_1_weight: '3.6 lb' })
    expect(found.hero.beside).toBe('3 lb 9.6 oz = 3.600 lb = 57.60 oz = 1.633 kg = 1633 g')
    expect(found.judgement).toMatchObject({ words: '3.6 lb is not 3 lb 6 oz' })
    expect(found.judgement!.reasons[0]).toMatch(/off by 102 g/)
    expect(
      figures('weights', { w_1_weight: '3 lb 9 oz', w_2_weight: '9 oz', w_2_sign: 'minus' }).sum,
    ).toBeCloseTo(1.36077711, 6)
  })
  it('saturation both ways, gauge in the local air', () => {
    const { bubble_pressure } = figures('saturation', { refrigerant: 'r410a', t: '25 C' })
    expect(bubble_pressure! / 1e5).toBeCloseTo(16.57, 1)
    const back = figures('saturation', { refrigerant: 'R-410A', p_Pa_abs: String(bubble_pressure) })
    expect(back.bubble_temperature).toBeCloseTo(298.15, 6)
    const up = figures('saturation', { refrigerant: 'R-410A', p: '15 bar', altitude: '1500 m' })
    expect(up.bubble_temperature).toBeLessThan(
      figures('saturation', { refrigerant: 'R-410A', p: '15 bar' }).bubble_temperature!,
    )
  })
  // Water capacity 21.6 kg: A, B and C less 2 %.
  it.each([
    ['R-22', 17.28, 20.61, 22.88, 'weight-80'],
    ['R-410A', 17.28, 18.33, 18.73, 'weight-80'],
    ['R-454B', 17.28, 17.07, 17.96, 'liquid-80-at-25'],
    ['R-32', 17.28, 16.64, 17.49, 'liquid-80-at-25'],
    ['R-600a', 17.28, 9.53, 11.04, 'liquid-80-at-25'],
    ['R-290', 17.28, 8.52, 9.49, 'liquid-80-at-25'],
  ])('fill of %s', (refrigerant, a, b, c, governs) => {
    const { data } = outcome('fill', { refrigerant, wc: '21.6 kg' })
    const nets = (data!.rules as { net_kg: number }[]).map((r) => r.net_kg)
    expect(nets[0]).toBeCloseTo(a, 2)
    expect(nets[1]).toBeCloseTo(b, 2)
    expect(nets[2]! / 0.98).toBeCloseTo(c, 1)
    expect(data!.governs).toBe(governs)
  })
  it('CO2 is filled by its stamped ratio only', () => {
    expect(worked('fill', { refrigerant: 'R-744', wc: '13.4 kg' }).errors.ratio).toMatch(/no liquid at 55 °C/)
    expect(figures('fill', { refrigerant: 'R-744', wc: '10 kg', ratio: '0.67' }).net_limit).toBeCloseTo(
      6.7,
      6,
    )
    expect(worked('saturation', { refrigerant: 'R-744', t: '55 C' }).errors.t).toMatch(/R-744 is tabulated/)
  })
  it('says that a cylinder is overfilled', () => {
    expect(
      outcome('fill', { refrigerant: 'R-290', wc: '21.6 kg', tare: '10 kg', gross: '22 kg' }).judgement,
    ).toMatchObject({ outcome: 'bad' })
  })
  it('R-410A lines: 3/8 in liquid and 3/4 in suction hold 0.61 oz/ft together', () => {
    const one = figures('expected-charge', {
      refrigerant: 'R-410A',
      plate: '2 kg',
      line_1_od: '3/8',
      line_1_length: '1 m',
      line_2_kind: 'suction',
      line_2_od: '3/4',
      line_2_length: '1 m',
    })
    expect((one.expected! - 2) * 1000).toBeCloseTo(56.7, 0)
  })
  it('24 bar gauge from 25 to 15 C: -0.84 bar without any leak', () => {
    const found = figures('pressure-hold', {
      p1: '24 bar',
      t1: '25 C',
      p2: '23.16 bar',
      t2: '15 C',
      held: '1 h',
    })
    expect(found.by_temperature! / 1e5).toBeCloseTo(-0.84, 2)
  })
  it('rebound of 6 L of R-22 at 20 C by 0.9 bar: at least 19 g', () => {
    const { returned } = figures('rebound', {
      refrigerant: 'R-22',
      p1: '0 bar',
      p2: '0.9 bar',
      volume: '6 L',
      t: '20 C',
    })
    expect(returned! * 1000).toBeGreaterThan(19)
    expect(returned! * 1000).toBeLessThan(20.5)
  })
  it('10 L through 1/4 in with its core: 13.4 min; 3/8 in without: 1.6', () => {
    const { data } = outcome('evacuation-time', {
      volume: '10 L',
      set_1_size: '1/4',
      set_1_length: '1.5 m',
      set_1_core: 'in',
      set_2_size: '3/8',
      set_2_length: '1.5 m',
      set_2_core: 'out',
    })
    const [first, second] = (data!.sets as { time_s: number }[]).map((s) => s.time_s / 60)
    expect(first).toBeCloseTo(13.4, 0)
    expect(second).toBeCloseTo(1.6, 0)
  })
  it('a leak that the pump cannot outrun never gets there', () => {
    expect(worked('evacuation-time', { volume: '10 L', leak: '900' }).errors.leak).toMatch(/never reaches/)
    expect(
      worked('evacuation-time', { volume: '10 L', target: '25 micron', ultimate: '50 micron' }).errors.target,
    ).toMatch(/only reaches/)
  })
  it('a hose chosen without a length has the usual one', () => {
    const { data } = outcome('evacuation-time', { volume: '10 L', set_2_size: '1/2' })
    expect((data!.sets as { name: string }[]).map((s) => s.name)).toEqual(['1/2 in, 1.5 m, core out'])
  })
  it('several additions without their days have no rate', () => {
    const given = { refrigerant: 'R-404A', full: '10 kg', add_1_mass: '1 kg', add_2_mass: '2 kg' }
    expect(worked('leak-rate', given).errors.add_1_on).toMatch(/day of each addition/)
  })
  it('tells air from the refrigerant that should be in it', () => {
    const found = figures('identify', {
      p: '6.72 bar',
      t: '25 C',
      expected: 'R-134a',
      gauge: '0.02 bar',
      clamp: '0.3 K',
    })
    expect(found.air_of_vapour).toBeGreaterThan(0.1)
    const empty = outcome('identify', { p: '3 bar', t: '25 C', expected: 'R-134a' })
    expect(empty.hero.text).toBe('no liquid left')
  })
  it('0.5 in steps of 0.2 is 0.6', () => {
    expect(figures('oil', { out: '0.5 mL', step: '0.2 mL' })).toMatchObject({
      due: 0.5,
      steps: 3,
      injected: 0.6,
    })
    expect(figures('oil', { out: '0' }).due).toBe(0)
    expect(outcome('oil', { out: '10', type: 'PAG', drive: 'high-voltage' }).judgement!.outcome).toBe('bad')
    expect(worked('oil', { part_1_part: 'compressor', part_1_count: '1' }).errors.part_1_each).toMatch(
      /old compressor/,
    )
  })
  it('stop weight = start - target - hose', () => {
    const found = figures('charge', {
      refrigerant: 'R-410A',
      target: '3 kg',
      start: '21.4 kg',
      keeps: 'stays',
      size: '1/4',
      length: '1.5 m',
    })
    expect(found.hose_keeps! * 1000).toBeCloseTo(28.8, 0)
    expect(found.stop_weight).toBeCloseTo(21.4 - 3 - found.hose_keeps!, 9)
    expect(
      figures('charge', { refrigerant: 'R-134a', target: '0.5 kg', net: '5 kg', cylinder: '13.4 L' })
        .cylinder_heel,
    ).toBeCloseTo(0.43, 2)
  })
  it('superheat wanted by a fixed orifice: 67 F wet bulb, 95 F outside: 13 F', () => {
    const found = figures('superheat', {
      refrigerant: 'R-22',
      low: '68 psi',
      suction: '54 F',
      metering: 'fixed',
      wet: '67 F',
      outdoor: '95 F',
    })
    expect(found.target_superheat! * 1.8).toBeCloseTo(13, 1)
  })
  it('annualised leak rate and CO2 equivalent', () => {
    const found = figures('leak-rate', {
      refrigerant: 'R-404A',
      full: '10 kg',
      add_1_mass: '1 kg',
      since: '100 days',
    })
    expect(found.annualised).toBeCloseTo(0.365, 9)
    expect(found.co2_equivalent_t).toBeCloseTo(39.216, 3)
    expect(
      worked('leak-rate', {
        refrigerant: 'R-404A',
        full: '10 kg',
        add_1_mass: '1 kg',
        add_1_on: '2027-01-01',
      }).errors.add_1_on,
    ).toMatch(/still to come/)
  })
  it('a lead of 1.5 mm2, 50 m, 8 A loses 9.7 V', () => {
    expect(
      figures('lead', { size: '1.5 mm2', length: '50 m', current: '8', supply: '230' }).drop,
    ).toBeCloseTo(9.68, 2)
  })
  it('room of 30 m3 and 150 g of R-290: 13 % of the limit', () => {
    expect(
      figures('room', { refrigerant: 'R-290', charge: '150 g', volume: '30 m3' }).of_lower_limit,
    ).toBeCloseTo(0.1316, 4)
  })
})
