import { describe, expect, it } from 'vitest'
import { gives, planSources, type Source, sourceKind } from '.'
import { tableOf } from '../refrigerants'

const K = (celsius: number) => celsius + 273.15
const held = {
  kind: 'recovery' as const,
  condition: 'used' as const,
  ownerCustomerId: null,
  waterCapacityMg: 11_878_580,
  balanceMg: 9_000_000,
  offMg: 0,
}

describe('gives', () => {
  it('keeps its vapour, and what lies below the tube: 11.9 L of R-410A at 25 C', () => {
    // 65.6 kg/m3 of vapour: 0.781 kg; a hundredth of it liquid of 1058 kg/m3: 0.126 kg.
    const found = gives(held, tableOf('R-410A'), K(25))!
    expect(found.staysLeastMg / 1e6).toBeCloseTo(0.781, 2)
    expect(found.staysMostMg / 1e6).toBeCloseTo(0.907, 2)
    expect(found.mostMg / 1e6).toBeCloseTo(8.219, 2)
    expect(found.leastMg / 1e6).toBeCloseTo(8.093, 2)
  })
  it('a one-way cylinder stands upside down: 13.4 L of R-134a keep 0.43 kg', () => {
    const found = gives(
      { ...held, kind: 'one-way', waterCapacityMg: 13_375_880, balanceMg: 13_600_000 },
      tableOf('R-134a'),
      K(25),
    )!
    expect(found.staysMostMg).toBe(found.staysLeastMg)
    expect(found.staysMostMg / 1e6).toBeCloseTo(0.43, 1)
  })
  it('one that holds less than its vapour gives nothing for certain', () => {
    expect(gives({ ...held, balanceMg: 500_000 }, tableOf('R-410A'), K(25))).toMatchObject({
      leastMg: 0,
      mostMg: 0,
      staysMostMg: 500_000,
    })
  })
  it('where scale and books differ the lesser is counted on', () => {
    const less = gives({ ...held, offMg: -1_000_000 }, tableOf('R-410A'), K(25))!
    expect(less.mostMg - less.leastMg).toBeGreaterThan(1_000_000)
  })
  it('drawn down by the running system it keeps little: 10.9 L of R-134a in water of 40 C, at 2.5 bar', () => {
    // Ideal gas: 2.5e5 x 0.102 / (8.314 x 313) = 9.8 kg/m3, some 5 % denser as it is: 0.11 kg, 4 oz.
    const found = gives(
      { ...held, waterCapacityMg: 10_880_000, balanceMg: 9_000_000 },
      tableOf('R-134a'),
      K(20),
      { molarMassG: 102, suctionPa: 2.5e5 },
    )!
    expect(found.drawnDown!.warmStaysMg / 1e6).toBeCloseTo(0.112, 2)
    expect(found.drawnDown!.staysMg).toBeGreaterThan(found.drawnDown!.warmStaysMg)
    expect(found.drawnDown!.staysMg).toBeLessThan(found.staysLeastMg)
  })
  it('is not known without a volume, nor above the critical point', () => {
    expect(gives({ ...held, waterCapacityMg: null }, tableOf('R-410A'), K(25))).toBeUndefined()
    expect(gives(held, tableOf('R-744'), K(40))).toBeUndefined()
  })
})

describe('sourceKind', () => {
  const virgin = { kind: 'virgin' as const, condition: 'clean' as const, ownerCustomerId: null }
  it.each([
    [{ ...held }, { ownGasInIt: true, customerId: 'c' }, 'own-gas'],
    [{ ...held, ownerCustomerId: 'c' }, { ownGasInIt: false, customerId: 'c' }, 'owners-gas'],
    [{ ...held }, { ownGasInIt: false, customerId: null }, 'recovered'],
    [virgin, { ownGasInIt: false, customerId: null }, 'virgin'],
    [{ ...virgin, kind: 'one-way' as const }, { ownGasInIt: false, customerId: 'c' }, 'virgin'],
  ] as const)('%#: %s', (cylinder, of, kind) => expect(sourceKind(cylinder, of)).toBe(kind))
})

describe('planSources', () => {
  const source = (cylinderId: string, kind: Source['kind'], leastKg: number): Source => ({
    cylinderId,
    kind,
    gives: { leastMg: leastKg * 1e6, mostMg: leastKg * 1e6, staysLeastMg: 0, staysMostMg: 0 },
  })
  const all = [
    source('virgin', 'virgin', 9),
    source('own', 'own-gas', 1.2),
    source('theirs', 'owners-gas', 0.5),
  ]
  it('this job’s gas first, then the owner’s, then virgin for the rest', () => {
    expect(planSources(all, 3_000_000)).toEqual({
      takes: [
        { cylinderId: 'own', kind: 'own-gas', massMg: 1_200_000 },
        { cylinderId: 'theirs', kind: 'owners-gas', massMg: 500_000 },
        { cylinderId: 'virgin', kind: 'virgin', massMg: 1_300_000 },
      ],
      shortMg: 0,
    })
  })
  it('changes no hoses for a few grams that another has, and takes them where nobody has', () => {
    // 31 g of 1.96 kg are 1.6 %.
    const few = [source('own', 'own-gas', 0.031), source('shop', 'recovered', 5)]
    expect(planSources(few, 1_960_000).takes).toEqual([
      { cylinderId: 'shop', kind: 'recovered', massMg: 1_960_000 },
    ])
    expect(planSources(few, 5_020_000)).toMatchObject({ takes: [{ massMg: 31_000 }, {}], shortMg: 0 })
  })
  it('says what is missing', () => {
    expect(planSources(all, 12_000_000).shortMg).toBe(1_300_000)
    expect(planSources([], 1_000)).toEqual({ takes: [], shortMg: 1_000 })
  })
  it('of two of one kind the one that has just enough, else the fullest', () => {
    const two = [source('full', 'virgin', 9), source('begun', 'virgin', 2)]
    expect(planSources(two, 1_500_000).takes.map((each) => each.cylinderId)).toEqual(['begun'])
    expect(planSources(two, 10_000_000).takes.map((each) => each.cylinderId)).toEqual(['full', 'begun'])
  })
  it('one whose content nobody knows is not counted on', () => {
    expect(planSources([{ cylinderId: 'x', kind: 'own-gas', gives: undefined }], 100).takes).toEqual([])
  })
})
