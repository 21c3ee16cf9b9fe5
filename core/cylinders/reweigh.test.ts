import { describe, expect, it } from 'vitest'
import { askAboutReweigh, brimfulMg } from '.'

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
