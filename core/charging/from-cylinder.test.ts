import { describe, expect, it } from 'vitest'
import { refrigerant, REFRIGERANTS, tableOf } from '../refrigerants'
import { chargeByVacuumKg, cylinderHeelKg } from '.'

const K = (celsius: number) => celsius + 273.15

describe('cylinderHeelKg', () => {
  it.each([
    ['R-134a', 0.43],
    ['R-22', 0.59],
    ['R-410A', 0.88],
    ['R-404A', 0.87],
    ['R-32', 0.63],
    ['R-290', 0.28],
  ])('13.4 L of %s at 25 C keep %s kg', (code, kg) => {
    expect(Math.abs(cylinderHeelKg(tableOf(code), 0.0134, K(25)) - kg)).toBeLessThan(0.006)
  })
})

describe('chargeByVacuumKg', () => {
  const range = (cylinderC: number, systemM3 = 0.014) =>
    chargeByVacuumKg(
      { systemM3, systemK: K(25), cylinderK: K(cylinderC), availableKg: 8.3 },
      tableOf('R-410A'),
      refrigerant('R-410A').molarMassG,
    )
  // Runs of the plant model: share of 3 kg drawn in half an hour.
  it.each([
    [25, 0.014, 0.51],
    [25, 0.014, 1.7],
    [25, 0.014, 0.24],
    [10, 0.014, 0.22],
    [15, 0.014, 0.28],
    [20, 0.014, 0.57],
    [25, 0.008, 0.61],
    [25, 0.025, 1.45],
    [40, 0.014, 8.3 / 3],
  ])('cylinder at %s C, %s m3: covers %s of the charge', (cylinderC, systemM3, share) => {
    const { leastKg, mostKg } = range(cylinderC, systemM3)
    expect(leastKg).toBeLessThanOrEqual(share * 3)
    expect(mostKg).toBeGreaterThanOrEqual(share * 3 - 1e-9)
  })
  it('never more than the cylinder has', () => {
    expect(range(40).mostKg).toBe(8.3)
  })
})

describe('for every refrigerant', () => {
  it('more heel when warmer, and a range that grows with the cylinder’s warmth', () => {
    for (const code of REFRIGERANTS) {
      const table = tableOf(code)
      const warm = code === 'R-744' ? 20 : 35
      expect(cylinderHeelKg(table, 0.0134, K(warm))).toBeGreaterThan(cylinderHeelKg(table, 0.0134, K(5)))
      const { molarMassG } = refrigerant(code)
      const at = (cylinderC: number) =>
        chargeByVacuumKg(
          { systemM3: 0.01, systemK: K(15), cylinderK: K(cylinderC), availableKg: 50 },
          table,
          molarMassG,
        )
      let before = { leastKg: 0, mostKg: 0 }
      for (const cylinderC of [0, 5, 10, 15, 17, 19]) {
        const now = at(cylinderC)
        expect(now.leastKg).toBeLessThanOrEqual(now.mostKg)
        expect(now.leastKg).toBeGreaterThanOrEqual(before.leastKg)
        expect(now.mostKg).toBeGreaterThanOrEqual(before.mostKg)
        before = now
      }
      expect(before.mostKg).toBe(50)
    }
  })
})
