import { describe, expect, it } from 'vitest'
import { drierHoldKg, expectedCharge, lineMassPerMetre, type SystemPlate } from '.'
import { tableOf } from '../refrigerants'

const table = tableOf('R-410A')
const plate: SystemPlate = {
  trade: 'stationary',
  refrigerant: 'R-410A',
  plateMg: 3_000_000,
  panelTotalMg: null,
  lines: [],
  accessories: [],
}

describe('expectedCharge', () => {
  it('weighs a metre of line', () => {
    expect(lineMassPerMetre('liquid', '3/8', table) * 1000).toBeCloseTo(47.8, 1)
    expect(lineMassPerMetre('suction', '3/4', table) * 1000).toBeCloseTo(8.9, 1)
    const ozPerFoot =
      ((lineMassPerMetre('liquid', '3/8', table) + lineMassPerMetre('suction', '3/4', table)) * 0.3048) /
      0.028349523125
    expect(ozPerFoot).toBeCloseTo(0.61, 2)
    expect(() => lineMassPerMetre('liquid', '9', table)).toThrow(RangeError)
  })
  it('adds plate, lines beyond what the plate covers, and accessories', () => {
    const expected = expectedCharge(
      {
        ...plate,
        lines: [{ kind: 'liquid', od: '3/8', lengthM: 17.5, coveredM: 7.5, guessed: false }],
        accessories: [{ name: 'large drier', massMg: 350_000 }],
      },
      table,
    )!
    expect(expected.massMg / 1e6).toBeCloseTo(3 + 0.478 + 0.35, 2)
    expect(expected.sigmaMg / 1e6).toBeCloseTo(Math.hypot(0.03, 17.5 * 0.05 * 0.0478, 0.035), 3)
  })
  it('trusts a guessed length less', () => {
    const line = { kind: 'liquid' as const, od: '3/8', lengthM: 20, coveredM: 7.5, guessed: false }
    const measured = expectedCharge({ ...plate, lines: [line] }, table)!
    const guessed = expectedCharge({ ...plate, lines: [{ ...line, guessed: true }] }, table)!
    expect(guessed.massMg).toBe(measured.massMg)
    expect(guessed.sigmaMg).toBeGreaterThan(3 * measured.sigmaMg)
  })
  it('takes the total written in the panel, and keeps the sum beside it', () => {
    expect(expectedCharge({ ...plate, panelTotalMg: 3_400_000 }, table)).toMatchObject({
      massMg: 3_400_000,
      insteadOfMg: 3_000_000,
    })
  })
  it('is null where nothing is known', () => {
    expect(expectedCharge({ ...plate, plateMg: null }, table)).toBeNull()
  })
})

describe('drierHoldKg', () => {
  it('an oversized drier can hold over a third of a kilogram', () => {
    expect(drierHoldKg(tableOf('R-410A'), 0.65e-3)).toBeGreaterThan(0.37)
  })
})
