import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aCylinderRecord } from '../../testing/a-cylinder-record'
import {
  type Cylinder,
  fillLimit,
  liquidLevel,
  looksLikeASizeName,
  mayGive,
  mayTake,
  NoFillLimitError,
  testDate,
  neededPressurePa,
} from '.'
import { REFRIGERANTS } from '../refrigerants'

const kg = (value: number) => Math.round(value * 1e6)
const psiG = (value: number) => Math.round(101325 + value * 6894.757293)

const cylinder = (over: Partial<Cylinder> = {}) =>
  aCylinderRecord({
    tareMg: kg(12.5),
    servicePressurePa: psiG(400),
    testedOn: '2024-03-01',
    condition: 'used',
    balanceMg: 0,
    ...over,
  })
const request = { refrigerant: 'R-410A', massMg: kg(3), today: '2026-11-24', customerId: null, marginPct: 0 }
const codes = (c: Cylinder, over = {}) => mayTake(c, { ...request, ...over }).refusals.map((r) => r.code)

describe('fillLimit', () => {
  it.each([
    ['R-22', 17.28, 20.61, 22.88, 'weight-80'],
    ['R-134a', 17.28, 20.89, 23.33, 'weight-80'],
    ['R-1234yf', 17.28, 18.9, 20.91, 'weight-80'],
    ['R-410A', 17.28, 18.33, 18.73, 'weight-80'],
    ['R-404A', 17.28, 18.07, 18.6, 'weight-80'],
    ['R-454B', 17.28, 17.07, 17.96, 'liquid-80-at-25'],
    ['R-32', 17.28, 16.64, 17.49, 'liquid-80-at-25'],
    ['R-600a', 17.28, 9.53, 11.04, 'liquid-80-at-25'],
    ['R-290', 17.28, 8.52, 9.49, 'liquid-80-at-25'],
  ])('for 21.6 kg of water, %s', (refrigerant, a, b, c, governs) => {
    const limit = fillLimit({ tareMg: kg(12), waterCapacityMg: kg(21.6), refrigerant })
    const netKg = limit.rules.map((r) => r.netMg! / 1e6)
    expect(netKg[0]).toBeCloseTo(a, 2)
    expect(netKg[1]).toBeCloseTo(b, 2)
    // The third column stands before the 2 % for oil.
    expect(netKg[2]! / 0.98).toBeCloseTo(c, 2)
    expect(limit.governs).toBe(governs)
    expect(limit.netMg).toBe(Math.min(...limit.rules.map((r) => r.netMg!)))
    expect(limit.grossMg).toBe(kg(12) + limit.netMg)
  })

  it('fills carbon dioxide by the stamped ratio only', () => {
    const input = { tareMg: kg(12), waterCapacityMg: kg(10), refrigerant: 'R-744' }
    expect(() => fillLimit(input)).toThrow(NoFillLimitError)
    expect(fillLimit({ ...input, fillingRatio: 0.68 })).toMatchObject({
      governs: 'stamped-ratio',
      netMg: kg(6.8),
    })
  })

  it('takes the lowest density for unknown contents', () => {
    const unknown = fillLimit({ tareMg: 0, waterCapacityMg: kg(20), refrigerant: null }).netMg
    for (const refrigerant of REFRIGERANTS.filter((r) => r !== 'R-744'))
      expect(unknown).toBeLessThanOrEqual(
        fillLimit({ tareMg: 0, waterCapacityMg: kg(20), refrigerant }).netMg,
      )
  })

  it('grows with water capacity, falls with the margin, and is never liquid-full at 55 C', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...REFRIGERANTS.filter((r) => r !== 'R-744')),
        fc.integer({ min: kg(1), max: kg(60) }),
        fc.integer({ min: 0, max: 30 }),
        (refrigerant, waterCapacityMg, marginPct) => {
          const limit = fillLimit({ tareMg: kg(5), waterCapacityMg, refrigerant, marginPct })
          const larger = fillLimit({
            tareMg: kg(5),
            waterCapacityMg: waterCapacityMg + kg(0.1),
            refrigerant,
            marginPct,
          })
          const safer = fillLimit({
            tareMg: kg(5),
            waterCapacityMg,
            refrigerant,
            marginPct: Math.min(30, marginPct + 1),
          })
          expect(larger.netMg).toBeGreaterThan(limit.netMg)
          expect(safer.netMg).toBeLessThanOrEqual(limit.netMg)
          expect(liquidLevel(limit.netMg / 1e6, limit.volumeM3, refrigerant, 328.15)).toBeLessThan(0.981)
        },
      ),
    )
  })
})

describe('mayTake', () => {
  it('says yes with the room and the gross limit', () => {
    expect(mayTake(cylinder({ balanceMg: kg(4), reservedMg: kg(1) }), request)).toEqual({
      refusals: [],
      warnings: [],
      roomMg: kg(17.28 - 5),
      grossLimitMg: kg(12.5 + 17.28),
    })
  })
  it('gives every refusal its reason', () => {
    expect(codes(cylinder({ retired: true }))).toEqual(['retired'])
    expect(codes(cylinder({ kind: 'virgin' }))).toEqual(['virgin-only'])
    expect(codes(cylinder({ kind: 'one-way' }))).toContain('one-way')
    expect(codes(cylinder({ refrigerant: 'R-22' }))).toEqual(['other-refrigerant'])
    expect(codes(cylinder({ condition: 'mixed' }))).toEqual(['mixed'])
    expect(codes(cylinder({ ownerCustomerId: 'other' }))).toEqual(['other-owner'])
    expect(codes(cylinder({ testedOn: '2021-11-23' }))).toEqual(['test-overdue'])
    expect(codes(cylinder({ testedOn: null }))).toEqual(['test-unknown'])
    expect(codes(cylinder({ servicePressurePa: psiG(350) }))).toEqual(['pressure-too-low'])
    expect(codes(cylinder({ servicePressurePa: null }))).toEqual(['pressure-unknown'])
    expect(codes(cylinder({ waterCapacityMg: null }))).toEqual(['capacity-unknown'])
    expect(codes(cylinder({ balanceMg: kg(16) }))).toEqual(['too-small'])
    expect(codes(cylinder({ balanceMg: kg(10), reservedMg: kg(6) }))).toEqual(['room-reserved'])
    expect(codes(cylinder({ refrigerant: 'R-32' }), { refrigerant: 'R-32' })).toEqual(['not-for-flammable'])
    expect(codes(cylinder({ balanceMg: kg(17.28) }), { massMg: null })).toEqual(['full'])
  })
  it('names several at once, and lets an empty cylinder take any gas it is strong enough for', () => {
    expect(codes(cylinder({ testedOn: '2020-01-01', refrigerant: 'R-134a' }))).toEqual([
      'other-refrigerant',
      'test-overdue',
    ])
    expect(
      codes(cylinder({ refrigerant: null, servicePressurePa: psiG(350) }), { refrigerant: 'R-134a' }),
    ).toEqual([])
  })
  it('warns where one should look first', () => {
    expect(mayTake(cylinder({ testedOn: '2021-12-10' }), { ...request, massMg: null }).warnings).toEqual([
      { code: 'test-due-soon' },
      { code: 'amount-unknown' },
    ])
  })
})

describe('mayGive', () => {
  it('lets clean gas go, and used gas to its owner', () => {
    expect(mayGive(cylinder({ condition: 'clean', balanceMg: 1 }), request).refusals).toEqual([])
    expect(mayGive(cylinder({ balanceMg: kg(9) }), request).warnings).toEqual([{ code: 'used-gas' }])
    const little = mayGive(cylinder({ condition: 'clean', balanceMg: kg(1) }), { ...request, massMg: kg(2) })
    expect(little).toEqual({ refusals: [], warnings: [{ code: 'not-enough' }] })
    // Clean or used, it is theirs.
    const theirs = cylinder({ condition: 'clean', balanceMg: 1, ownerCustomerId: 'a' })
    expect(mayGive(theirs, request).refusals).toEqual([{ code: 'other-owner' }])
    expect(mayGive(cylinder({ balanceMg: 1, ownerCustomerId: 'a' }), request).refusals).toEqual([
      { code: 'other-owner' },
    ])
    expect(mayGive(cylinder({ balanceMg: 0 }), request).refusals).toEqual([{ code: 'empty' }])
    expect(mayGive(cylinder({ balanceMg: 1, condition: 'doubtful' }), request).refusals).toEqual([
      { code: 'doubtful-gas' },
    ])
  })
})

describe('the rest', () => {
  it('needs 400 psi for R-410A', () => {
    expect((neededPressurePa('R-410A') - 101325) / 1e5).toBeCloseTo(33.3, 0)
  })
  it('needs the pressure of the critical point where there is no liquid at 55 °C', () => {
    expect(neededPressurePa('R-744') / 1e5).toBeGreaterThan(68)
    expect(neededPressurePa('R-744') / 1e5).toBeLessThan(74)
    const carbon = { refrigerant: 'R-744', fillingRatio: 0.6, ratioGas: 'R-744' }
    const ask = { refrigerant: 'R-744', massMg: kg(3) }
    // 400 psi x 5/4 is 34 bar.
    expect(codes(cylinder(carbon), ask)).toEqual(['pressure-too-low'])
    expect(codes(cylinder({ ...carbon, servicePressurePa: 150e5 }), ask)).toEqual([])
    expect(codes(cylinder({ ...carbon, servicePressurePa: 150e5, ratioGas: 'R-22' }), ask)).toEqual([
      'ratio-of-another-gas',
    ])
  })
  it("warns before a customer's gas goes onto the shop's own", () => {
    const ask = { ...request, customerId: 'c' }
    expect(mayTake(cylinder({ balanceMg: kg(4) }), ask).warnings).toEqual([{ code: 'owner-onto-shops' }])
    expect(mayTake(cylinder({ balanceMg: 0 }), ask).warnings).toEqual([])
    expect(mayTake(cylinder({ balanceMg: kg(4) }), { ...ask, ownGasInIt: true }).warnings).toEqual([])
  })
  it('takes foul gas only into an empty cylinder, or one marked mixed, and by the lightest liquid it may be', () => {
    const foul = { ...request, massMg: null, foul: true }
    expect(codes(cylinder({ balanceMg: kg(4) }), foul)).toEqual(['foul-gas'])
    expect(codes(cylinder({ balanceMg: 50_001 }), foul)).toEqual(['foul-gas'])
    expect(codes(cylinder({ balanceMg: 50_000 }), foul)).toEqual([])
    expect(codes(cylinder({ balanceMg: kg(1), condition: 'mixed' }), foul)).toEqual([])
    expect(codes(cylinder({ balanceMg: kg(1), condition: 'mixed' }), { ...foul, foul: false })).toEqual([
      'mixed',
    ])
    const empty = cylinder({ balanceMg: 0 })
    expect(mayTake(empty, foul).roomMg!).toBeLessThan(mayTake(empty, { ...foul, foul: false }).roomMg! / 1.5)
  })
  it('knows test dates', () => {
    expect(testDate('2021-11-24', 5, '2026-11-24')).toEqual({
      state: 'due-soon',
      dueOn: '2026-11-24',
      days: 0,
    })
    expect(testDate('2021-11-24', 5, '2026-11-25').state).toBe('overdue')
    expect(testDate('2024-02-29', 5, '2026-11-25')).toMatchObject({ state: 'in-date', dueOn: '2029-02-28' })
    expect(testDate(null, 5, '2026-11-25', true).state).toBe('not-needed')
  })
  it('questions a round water capacity', () => {
    expect(looksLikeASizeName(Math.round(30 * 453592.37))).toBe(true)
    expect(looksLikeASizeName(Math.round(26.2 * 453592.37))).toBe(false)
    expect(looksLikeASizeName(kg(21.6))).toBe(false)
    expect(looksLikeASizeName(kg(20))).toBe(true)
  })
})
