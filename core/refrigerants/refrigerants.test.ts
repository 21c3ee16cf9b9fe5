import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  glideK,
  liquidDensity,
  OutOfRangeError,
  REFRIGERANTS,
  refrigerant,
  refrigerantCode,
  saturationPressurePa,
  saturationTable,
  saturationTempK,
  tableDataOf,
  tableOf,
  vapourDensity,
} from '.'

const celsius = (t: number) => t + 273.15

describe('the tables', () => {
  it('hold 37 refrigerants, each with its facts', () => {
    expect(REFRIGERANTS).toHaveLength(37)
    for (const code of REFRIGERANTS) expect(refrigerant(code).molarMassG).toBeGreaterThan(16)
  })

  it('give back their own rows', () => {
    const data = tableDataOf('R-407C')
    expect(saturationPressurePa(tableOf('R-407C'), celsius(-60), 'bubble')).toBeCloseTo(42978.91, 2)
    expect(saturationPressurePa(tableOf('R-407C'), celsius(-54), 'dew')).toBeCloseTo(39893.17, 2)
    expect(data.liquid[0]).toBe(1430.026)
  })

  it('has the bubble pressure at 40 C of every table beside its curve', () => {
    for (const code of REFRIGERANTS) {
      const table = tableOf(code)
      const above = table.firstC + table.rows - 1 < 40
      expect(refrigerant(code).bubble40Pa).toBe(above ? null : tableDataOf(code).bubblePa[40 - table.firstC])
    }
  })
  it.each(REFRIGERANTS)('%s gives back every row of its table, both ways', (code) => {
    const data = tableDataOf(code)
    const table = tableOf(code)
    const near = (found: number, wanted: number) => expect(Math.abs(found / wanted - 1)).toBeLessThan(1e-9)
    for (const [i, bubblePa] of data.bubblePa.entries()) {
      const tempK = celsius(data.firstC + i)
      const dewPa = (data.dewPa ?? data.bubblePa)[i]!
      near(saturationPressurePa(table, tempK, 'bubble'), bubblePa)
      near(saturationPressurePa(table, tempK, 'dew'), dewPa)
      near(liquidDensity(table, tempK), data.liquid[i]!)
      near(vapourDensity(table, tempK), data.vapour[i]!)
      expect(Math.abs(saturationTempK(table, bubblePa, 'bubble') - tempK)).toBeLessThan(1e-6)
      expect(Math.abs(saturationTempK(table, dewPa, 'dew') - tempK)).toBeLessThan(1e-6)
    }
  })

  it.each(REFRIGERANTS)(
    '%s: every other row predicts the rest (the sparse grid errs 16 times as much as the full one)',
    (code) => {
      const data = tableDataOf(code)
      const even = (values: number[]) => values.filter((_, i) => i % 2 === 0)
      // A 2 K grid posed as a 1 K grid at half the temperatures.
      const sparse = saturationTable({
        ...data,
        firstC: 0,
        bubblePa: even(data.bubblePa),
        dewPa: even(data.dewPa ?? data.bubblePa),
        liquid: even(data.liquid),
        vapour: even(data.vapour),
      })
      const upToC = code === 'R-744' ? 25 : 55
      for (let i = 3; i < data.bubblePa.length - 3; i += 2) {
        const tempC = data.firstC + i
        if (tempC < -45 || tempC > upToC) continue
        const at = celsius(i / 2)
        expect(Math.abs(saturationPressurePa(sparse, at, 'bubble') / data.bubblePa[i]! - 1)).toBeLessThan(
          1e-5,
        )
        expect(
          Math.abs(saturationPressurePa(sparse, at, 'dew') / (data.dewPa ?? data.bubblePa)[i]! - 1),
        ).toBeLessThan(1e-5)
        // Temperature from pressure: half a grid step of the sparse table is one kelvin.
        expect(Math.abs(saturationTempK(sparse, data.bubblePa[i]!, 'bubble') - at) * 2).toBeLessThan(1e-3)
        expect(Math.abs(liquidDensity(sparse, at) / data.liquid[i]! - 1)).toBeLessThan(5e-4)
        expect(Math.abs(vapourDensity(sparse, at) / data.vapour[i]! - 1)).toBeLessThan(5e-4)
      }
    },
  )

  it('invert exactly, and rise with temperature', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...REFRIGERANTS),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom('bubble' as const, 'dew' as const),
        (code, share, side) => {
          const table = tableOf(code)
          const tempK = celsius(table.firstC + share * (table.rows - 3))
          const pressure = saturationPressurePa(table, tempK, side)
          expect(Math.abs(saturationTempK(table, pressure, side) - tempK)).toBeLessThan(1e-6)
          expect(saturationPressurePa(table, tempK + 0.5, side)).toBeGreaterThan(pressure)
        },
      ),
    )
  })

  it('refuse what lies outside', () => {
    expect(() => saturationPressurePa(tableOf('R-744'), celsius(55), 'bubble')).toThrow(OutOfRangeError)
    expect(() => saturationTempK(tableOf('R-134a'), 1, 'dew')).toThrow(/R-134a is tabulated from/)
    expect(() => liquidDensity(tableOf('R-134a'), NaN)).toThrow(OutOfRangeError)
  })
})

describe('facts', () => {
  it('weigh the warming potential by mass', () => {
    expect(refrigerant('R-410A').gwp).toBeCloseTo(2087.5, 6)
    expect(refrigerant('R-404A').gwp).toBeCloseTo(3921.6, 6)
    expect(refrigerant('R-454B').gwp).toBeCloseTo(466.319, 2)
    expect(refrigerant('R-717').gwp).toBe(0)
  })
  it('know what burns', () => {
    expect(refrigerant('R-290')).toMatchObject({
      safetyClass: 'A3',
      flammable: true,
      lowerFlammableLimit: 0.038,
    })
    expect(refrigerant('R-123').flammable).toBe(false)
    expect(refrigerant('R-410A')).not.toHaveProperty('lowerFlammableLimit')
  })
  it('read codes however they are typed', () => {
    expect(refrigerantCode('r410a')).toBe('R-410A')
    expect(refrigerantCode('1234ze e')).toBe('R-1234ze(E)')
    expect(refrigerantCode('R-999')).toBeUndefined()
  })
})

describe('glide', () => {
  it('of every refrigerant can be said; pure ones and near-azeotropes have none to speak of', () => {
    for (const code of REFRIGERANTS) expect(glideK(tableOf(code), 273.15)).toBeGreaterThanOrEqual(0)
    expect(glideK(tableOf('R-744'), 273.15)).toBe(0)
    expect(glideK(tableOf('R-410A'), 273.15)).toBeLessThan(0.2)
    // R-407C boils over about 7 K at 0 °C.
    expect(glideK(tableOf('R-407C'), 273.15)).toBeGreaterThan(6)
  })
})
