import { describe, expect, it } from 'vitest'
import { askAboutArrival, askAboutReweigh, brimfulMg, isUnlikelyTare } from '.'

const KG = 1_000_000
const cylinder = {
  kind: 'recovery' as const,
  tareMg: 6.5 * KG,
  waterCapacityMg: 11.9 * KG,
  fillingRatio: null,
  ratioGas: null,
  workingFillPct: null,
  refrigerant: 'R-134a',
  condition: 'used' as const,
  balanceMg: 5.1 * KG,
}
const ask = (kg: number, over: Partial<typeof cylinder> = {}) =>
  askAboutReweigh(kg * KG, { ...cylinder, ...over }, 0)

describe('a cylinder that is weighed again', () => {
  it('is believed near its books', () => {
    expect(ask(11.6)).toBeUndefined()
    expect(ask(11.1)).toBeUndefined()
    // A tenth of 5.1 kg is 510 g.
    expect(ask(12.1)).toBeUndefined()
  })
  it('115 for 11.5: asks, and offers 11.5', () => {
    expect(ask(115)).toEqual({ code: 'beyond-limit', insteadMg: [11.5 * KG] })
  })
  it('pounds for kilograms', () => {
    // 11.5 kg are 25.353 lb: taken for kilograms they are past the limit.
    const asked = ask(25.353)!
    expect(asked.code).toBe('beyond-limit')
    expect(asked.insteadMg.map((mg) => Math.round(mg / 1000))).toEqual([11_500])
  })
  it('less than empty, and far from the books', () => {
    expect(ask(6.2)?.code).toBe('below-tare')
    expect(ask(1.15)).toEqual({ code: 'below-tare', insteadMg: [11.5 * KG] })
    expect(ask(9)).toEqual({ code: 'far-from-books', insteadMg: [] })
    expect(ask(12.2)?.code).toBe('far-from-books')
  })
  it('that is past its limit by the books already is not asked about each time', () => {
    expect(ask(16.4, { balanceMg: 9.8 * KG })).toBeUndefined()
  })
})

describe('gas that comes in a cylinder', () => {
  const arrival = (kg: number) => askAboutArrival(kg * KG, { ...cylinder, balanceMg: 0 }, 0)
  it('is believed up to its limit; past it, the point or the unit is asked about', () => {
    // 80 % of 11.92 L of R-134a at 55 C, or so: 9 kg are within it, 90 are 9.
    expect(arrival(9)).toBeUndefined()
    expect(arrival(90)).toEqual({ code: 'beyond-limit', insteadMg: [9 * KG] })
    expect(arrival(19.8)?.insteadMg.map((mg) => Math.round(mg / 1000))).toEqual([1_980, 8_981])
  })
})

describe('a tare', () => {
  it('of no cylinder of its water capacity is a point that slipped', () => {
    // 26.2 lb of water: 17 lb of steel. Of a one-way cylinder of 14.4 kg 2.8 kg; of 10 L for 150 bar 14 kg.
    expect(isUnlikelyTare(17, 26.2)).toBe(false)
    expect(isUnlikelyTare(2.8, 14.4)).toBe(false)
    expect(isUnlikelyTare(14, 10)).toBe(false)
    expect(isUnlikelyTare(170, 26.2)).toBe(true)
    expect(isUnlikelyTare(1.7, 26.2)).toBe(true)
  })
})

describe('brimful', () => {
  it('is its volume of cold liquid', () => {
    // 11.9 kg of water are 11.92 L; R-134a at -20 C has 1,358 kg/m3: 16.2 kg.
    expect(brimfulMg(cylinder)! / KG).toBeCloseTo(6.5 + 16.19, 1)
  })
  it('of the densest there is where nobody knows what it holds', () => {
    expect(brimfulMg({ ...cylinder, refrigerant: null })!).toBeGreaterThan(brimfulMg(cylinder)!)
    expect(brimfulMg({ ...cylinder, condition: 'mixed' })).toBe(brimfulMg({ ...cylinder, refrigerant: null }))
  })
  it('is not known without a water capacity', () => {
    expect(brimfulMg({ ...cylinder, waterCapacityMg: null })).toBeUndefined()
  })
})
