import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { refrigerant, REFRIGERANTS, saturationPressurePa, tableOf, vapourDensity, vapourDensityAt } from '.'

describe('vapourDensityAt', () => {
  it('meets the table at saturation and the ideal gas at low pressure, and rises with pressure', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...REFRIGERANTS),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        (code, share) => {
          const table = tableOf(code)
          const { molarMassG } = refrigerant(code)
          const tempK = 285.15
          const dew = saturationPressurePa(table, tempK, 'dew')
          const at = (pa: number) => vapourDensityAt(table, molarMassG, pa, tempK)
          expect(at(dew) / vapourDensity(table, tempK)).toBeCloseTo(1, 9)
          expect(at(dew * 2)).toBe(at(dew))
          expect(at(dew * share)).toBeLessThan(at(dew))
          expect(at(100) / ((100 * molarMassG) / 1000 / (8.314462618 * tempK))).toBeCloseTo(1, 2)
        },
      ),
    )
  })
})
