import { describe, expect, it } from 'vitest'
import { tableOf } from '../refrigerants'
import { MG_PER_LB, MG_PER_OZ } from '../units'
import { type Explanation, explanations, type SystemPlate } from '.'

const plate = (over: Partial<SystemPlate> = {}): SystemPlate => ({
  trade: 'stationary',
  refrigerant: 'R-410A',
  plateMg: 3_000_000,
  panelTotalMg: null,
  lines: [],
  accessories: [],
  ...over,
})
const explain = (differenceKg: number, over: Partial<SystemPlate> = {}, sigmaKg = 0.03) =>
  explanations(
    { differenceMg: differenceKg * 1e6, sigmaMg: sigmaKg * 1e6 },
    plate(over),
    tableOf('R-410A'),
  ).flatMap((each: Explanation) =>
    each.kind === 'line'
      ? [`${each.lengthM} m ${each.od}`]
      : each.kind === 'plate'
        ? [`${each.notation} ${(each.massMg / 1e6).toFixed(3)}`]
        : [],
  )

describe('what would explain the difference', () => {
  it('so much liquid line of each usual pipe, as far as such a length is run', () => {
    // 3/8 in holds 47.8 g a metre: 0.86 kg are 18 m. 1/4 in (bore 0.19 in against 0.311): 2.68 times as long, 48 m.
    // 1/2 in (0.436): 1.97 times less, 9 m.
    expect(explain(0.86)).toEqual(['48 m 1/4', '18 m 3/8', '9 m 1/2'])
  })
  it('of the pipe that was entered, where one was', () => {
    const lines = [{ kind: 'liquid' as const, od: '3/8', lengthM: 8, coveredM: 8, guessed: true }]
    expect(explain(0.86, { lines })).toEqual(['18 m 3/8'])
  })
  it('no line where less came out, where it would be absurd, or where a total in the panel counts', () => {
    expect(explain(-0.86)).toEqual([])
    expect(explain(0.02)).toEqual([])
    expect(explain(0.86, { panelTotalMg: 3_000_000 })).toEqual([])
  })
  it('3.6 lb that meant 3 lb 6 oz: 102 g less', () => {
    // 0.6 lb are 9.6 oz; 6 oz are 3.6 oz less, 0.1021 kg.
    const plateMg = Math.round(3.6 * MG_PER_LB)
    expect(explain(-0.1, { plateMg })).toEqual(['lb-oz 1.531'])
    expect(explain(-0.3, { plateMg })).toEqual([])
  })
  it('3 lb 6 oz that meant 3.6 lb, the other way round; 3 lb 11 oz is never 3.11', () => {
    expect(explain(0.1, { plateMg: Math.round(3 * MG_PER_LB + 6 * MG_PER_OZ) })[0]).toBe('lb 1.633')
    expect(explain(0.1, { plateMg: Math.round(3 * MG_PER_LB + 11 * MG_PER_OZ) }).join()).not.toContain('lb ')
  })
})

describe('what the books know', () => {
  const of = (
    differenceMg: number,
    past: Parameters<typeof explanations>[3],
    over: Partial<SystemPlate> = {},
  ) => explanations({ differenceMg, sigmaMg: 15_000 }, plate(over), tableOf('R-410A'), past)
  it('a loss is a leak of so much a year', () => {
    // 0.6 of 3 kg in 73 days: a fifth, which is once the whole charge in a year.
    expect(of(-600_000, { expectedMg: 3_000_000, days: 73 })[0]).toEqual({
      kind: 'leak',
      share: 0.2,
      days: 73,
      perYear: 1,
      massMg: 600_000,
    })
    expect(of(-600_000, { expectedMg: 3_000_000, days: 1 })).toEqual([])
    expect(of(-600_000, {})).toEqual([])
  })
  it('an earlier addition explains what it is as large as', () => {
    expect(of(400_000, { beyondMg: 410_000 })[0]).toEqual({ kind: 'addition', massMg: 410_000 })
    expect(of(400_000, { beyondMg: 900_000 }).map((each) => each.kind)).not.toContain('addition')
  })
  it('an oversized drier: its shell holds six tenths of it as liquid', () => {
    // R-410A at 40 °C weighs 0.976 kg a litre: 0.35 kg are 598 mL of shell.
    const drier = of(350_000, {}).find((each) => each.kind === 'drier')!
    expect(drier).toMatchObject({ massMg: 350_000, shellMl: 600 })
    const known = of(350_000, {}, { accessories: [{ name: 'Drier', massMg: 100_000 }] })
    expect(known.map((each) => each.kind)).not.toContain('drier')
  })
})
