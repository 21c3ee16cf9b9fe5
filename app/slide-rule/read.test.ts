import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { slots } from './fields'
import { KINDS } from './kinds'
import { readInputs } from './read'
import { limitsOf, variantName } from './limits'
import { schemaOf } from './schema.server'
import { TOOLS, toolNamed } from './tools'

const metric = { units: METRIC_UNITS }
const read = (tool: string, given: Record<string, string>, { strict = false, reading = metric } = {}) =>
  readInputs(toolNamed(tool)!, new URLSearchParams(given), { reading, strict })

describe('readInputs', () => {
  it('reads notation and plain numbers alike, whichever unit they come in', () => {
    const values = [
      { t: '31 C' },
      { t: '31' },
      { t_C: '31' },
      { t_F: '87.8' },
      { t_K: '304.15' },
      { t: '87,8 F' },
    ].map((given) => read('saturation', { refrigerant: 'R-22', ...(given as object) }).values.t as number)
    for (const value of values) expect(value).toBeCloseTo(304.15, 9)
  })
  it('takes gauges to be zeroed in the local air', () => {
    const pressure = (given: Record<string, string>) =>
      read('saturation', { refrigerant: 'R-22', ...given }).values.p as number
    expect(pressure({ p: '5 bar' })).toBeCloseTo(601_325, 6)
    const high = pressure({ p: '5 bar', altitude: '1500 m' })
    expect(high).toBeCloseTo(500_000 + 84_556, -2)
    expect(pressure({ p_bar_g: '5', altitude_m: '1500' })).toBeCloseTo(high, 6)
    expect(pressure({ p_bar_g: '5', altitude_ft: String(1500 / 0.3048) })).toBeCloseTo(high, 6)
    // Absolute pressures stay what they are.
    expect(pressure({ p_Pa_abs: '600000', altitude_m: '1500' })).toBe(600_000)
    expect(
      read('saturation', { refrigerant: 'R-22', p: '5 bar', altitude: '9000 m' }).errors.altitude,
    ).toMatch(/^Between 0 m and 5000 m/)
  })
  it('does not take a gauge pressure below a perfect vacuum on a mountain for a pressure', () => {
    const given = { refrigerant: 'R-22', p_bar_g: '-1', altitude_m: '2500' }
    expect(read('saturation', given).errors.p).toMatch(/^Between/)
  })
  it('says what was taken because nothing was given', () => {
    const { given } = read('fill', { refrigerant: 'R-22', wc: '20 kg' })
    expect(given.find(({ name }) => name === 't')).toMatchObject({ value: 293.15, assumed: true })
    expect(given.find(({ name }) => name === 'wc')).toMatchObject({ value: 20, assumed: false })
  })
  it('knows refrigerants however they are typed, and says which it has no table for', () => {
    expect(read('saturation', { refrigerant: 'r 410a', t: '1' }).values.refrigerant).toBe('R-410A')
    expect(read('saturation', { refrigerant: 'R-1', t: '1' }).errors.refrigerant).toMatch(
      /no table for "R-1"/,
    )
  })
  it('names every field that is wrong at once', () => {
    const { errors, missing } = read('pressure-hold', {
      p1: 'much',
      t1: '900 C',
      p2_bar_g: '1e9',
      held: '1 min',
      gauge: '-3',
    })
    expect(Object.keys(errors).sort()).toEqual(['gauge', 'p1', 'p2', 't1'])
    expect(missing.map(({ name }) => name)).toEqual(['t2'])
  })
  it('takes lines that are begun, in their order, with their numbers', () => {
    const { values, errors } = read('weights', {
      w_2_weight: '3 kg',
      w_4_weight: '1 kg',
      w_4_sign: 'minus',
    })
    expect(errors).toEqual({})
    expect(values.w).toEqual([
      { row: 2, weight: 3, sign: 'plus' },
      { row: 4, weight: 1, sign: 'minus' },
    ])
  })
  it('asks for the figure of a line of which only a choice was made', () => {
    const line = { refrigerant: 'R-410A', plate: '3 kg', line_1_od: '3/4' }
    expect(read('expected-charge', line).errors.line_1_length).toMatch(/Enter length too/)
    expect(read('weights', { w_1_weight: '3 kg', w_5_sign: 'minus' }).errors.w_5_weight).toMatch(
      /Enter .* too/,
    )
  })
  it('wants a line whole', () => {
    expect(read('time-left', { note_1_at: '2 min' }).errors).toMatchObject({
      note_1_weight: expect.any(String) as string,
    })
    expect(read('time-left', { note_1_weight: '2 kg' }).errors).toMatchObject({
      note_1_at: expect.any(String) as string,
    })
  })
  it('refuses days that do not exist, and choices that are not offered', () => {
    const given = { refrigerant: 'R-22', full: '10 kg', add_1_mass: '1 kg' }
    expect(read('leak-rate', { ...given, add_1_on: '2026-02-30' }).errors.add_1_on).toMatch(/no such day/)
    expect(read('leak-rate', { ...given, add_1_on: 'yesterday' }).errors.add_1_on).toMatch(/year-month-day/)
    expect(read('leak-rate', { ...given, use: 'ice' }).errors.use).toMatch(/not offered/)
    expect(read('leak-rate', { ...given, hermetic: 'perhaps' }).errors.hermetic).toMatch(/yes or no/)
    expect(read('leak-rate', { ...given, hermetic: 'on' }).values.hermetic).toBe(true)
  })
  it('ignores strangers on a page, and names them to programs', () => {
    expect(read('lead', { length: '5 m', colour: 'red' }).errors).toEqual({})
    expect(read('lead', { length_m: '5', colour: 'red' }, { strict: true }).errors.colour).toMatch(
      /takes no "colour"/,
    )
    expect(read('lead', { length: '5' }, { strict: true }).errors.length).toMatch(
      /length_m, length_ft, or length=5 m/,
    )
    expect(read('lead', { length: '5 m', units: 'us' }, { strict: true }).errors).toEqual({})
  })
  it('does not choose between two values of the same name', () => {
    const twice = new URLSearchParams('length_m=5&length_m=50')
    expect(readInputs(toolNamed('lead')!, twice, { reading: metric, strict: true }).errors.length).toBe(
      'Give length_m once only.',
    )
  })
  it('keeps the exact number that was read, whatever unit the schema checks it in', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 90, noNaN: true }), (psi) => {
        const text = `${psi.toFixed(2)} psi`
        const { values } = read(
          'saturation',
          { refrigerant: 'R-22', p: text },
          { reading: { units: US_UNITS } },
        )
        expect(values.p).toBe(KINDS.pressure.read(text, metric))
      }),
    )
  })
})

describe.each(TOOLS.map((tool) => [tool.name, tool] as const))('the limits of %s', (_name, tool) => {
  const measures = slots(tool.inputs).filter(({ field }) => field.type === 'measure')

  it('hold at both ends, in every unit', () => {
    for (const { name, field } of measures) {
      const [least, most] = limitsOf(field)
      expect(least).toBeLessThan(most)
      if (field.fallback !== undefined) {
        expect(field.fallback).toBeGreaterThanOrEqual(least)
        expect(field.fallback).toBeLessThanOrEqual(most)
      }
      for (const variant of KINDS[field.kind!].variants) {
        const ask = (si: number) =>
          readInputs(
            tool,
            new URLSearchParams({
              ...tool.example,
              [name]: '',
              [variantName(name, variant)]: String(Number(variant.fromSi(si, 101_325).toPrecision(12))),
            }),
            { reading: metric, strict: false },
          ).errors[name]
        const span = most - least
        expect(ask(least)).toBeUndefined()
        expect(ask(most)).toBeUndefined()
        expect(ask(most + 0.01 * span)).toMatch(/^Between/)
        expect(ask(least - 0.01 * span)).toMatch(/^Between/)
      }
    }
  })

  it('stand in the schema that documents them', () => {
    const described = schemaOf(tool).describe() as { keys: Record<string, { rules?: { name: string }[] }> }
    for (const { name, field } of measures)
      for (const variant of KINDS[field.kind!].variants)
        expect(described.keys[variantName(name, variant)]!.rules!.map((rule) => rule.name)).toEqual([
          'min',
          'max',
        ])
  })
})
