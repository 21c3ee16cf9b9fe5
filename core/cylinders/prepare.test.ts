import { describe, expect, it } from 'vitest'
import { aCylinderRecord } from '../../testing/a-cylinder-record'
import { judgePreparation, mayDecant, type Cylinder } from '.'

const MICRON = 0.133322368
const fine = {
  stampedMg: 12e6,
  weighedMg: 12.01e6,
  divisionMg: 5_000,
  provedPa: 200 * MICRON,
  pulledPa: 400 * MICRON,
}
const of = (over = {}) => {
  const { code, reasons } = judgePreparation({ ...fine, ...over })
  return [code, ...reasons.map((each) => each.code)]
}

describe('a cylinder that is prepared', () => {
  it('kit and cylinder below 500 micron, and its weight as it is stamped', () => {
    expect(of()).toEqual(['prepared', 'tare-agrees', 'valves-first'])
  })
  it('the kit alone must hold first; then the cylinder must be deep: each at its border', () => {
    expect(of({ provedPa: 500 * MICRON })[0]).toBe('kit-not-proved')
    expect(of({ pulledPa: 500 * MICRON })[0]).toBe('not-deep-enough')
    expect(of({ provedPa: 499.9 * MICRON, pulledPa: 499.9 * MICRON })[0]).toBe('prepared')
  })
  it('heavier: contents, or scale or stamp; lighter: scale or stamp; a coarse scale tells less', () => {
    expect(of({ weighedMg: 12.0501e6 })).toEqual(['tare-off', 'tare-more'])
    expect(of({ weighedMg: 11.9499e6 })).toEqual(['tare-off', 'tare-less'])
    expect(of({ weighedMg: 12.05e6 })[0]).toBe('prepared')
    expect(of({ weighedMg: 12.06e6, divisionMg: 20_000 })[0]).toBe('prepared')
  })
})

describe('from one cylinder into another', () => {
  const giver = aCylinderRecord({
    cylinderId: 'g',
    kind: 'one-way',
    refrigerant: 'R-134a',
    condition: 'used',
    balanceMg: 0,
  })
  const taker = (over: Partial<Cylinder> = {}) =>
    aCylinderRecord({ cylinderId: 't', refrigerant: 'R-134a', condition: 'used', balanceMg: 2e6, ...over })
  const may = (over: Partial<Cylinder> = {}, from: Partial<Cylinder> = {}, massMg = 500_000) =>
    mayDecant({ giver: { ...giver, ...from }, taker: taker(over), massMg, today: '2026-06-01', marginPct: 0 })
  it('an empty that the books have nothing in gives what nobody wrote down', () => {
    expect(may()).toEqual({ refusals: [], questions: [], condition: 'used' })
  })
  it('never past the limit, never another gas, never into itself', () => {
    expect(may({}, {}, 30e6).refusals).toEqual(['past-the-limit'])
    expect(may({ refrigerant: 'R-410A' }).refusals).toContain('other-refrigerant')
    expect(may({ cylinderId: 'g' }).refusals).toContain('same-cylinder')
    expect(may({}, { refrigerant: null }).refusals).toEqual(['giver-without-gas'])
  })
  it('mixed onto mixed may be, it goes to the reclaimer; onto anything else it may not', () => {
    expect(may({ condition: 'mixed' }, { condition: 'mixed' }).refusals).toEqual([])
    expect(may({}, { condition: 'mixed' }).refusals).toContain('foul-gas')
    expect(may({ condition: 'mixed' }).refusals).toContain('mixed')
  })
  it('somebody’s gas onto the shop’s own is asked about, onto somebody else’s refused', () => {
    expect(may({}, { ownerCustomerId: 'c' })).toMatchObject({ refusals: [], questions: ['owner-onto-shops'] })
    expect(may({ ownerCustomerId: 'c' }, { ownerCustomerId: 'c' })).toMatchObject({
      refusals: [],
      questions: [],
    })
    expect(may({ ownerCustomerId: 'd' }, { ownerCustomerId: 'c' }).refusals).toEqual(['other-owner'])
  })
  it('asks about a weight that is far from the books of what stands on the scale', () => {
    const from = (
      grossKg: number,
      on: 'taker' | 'giver' = 'taker',
      kind: 'one-way' | 'recovery' = 'one-way',
    ) =>
      mayDecant({
        giver: { ...giver, kind, balanceMg: 5e6 },
        taker: taker(),
        massMg: 500_000,
        today: '2026-06-01',
        marginPct: 0,
        before: { on, grossMg: grossKg * 1e6 },
      }).questions
    const { tareMg } = taker()
    const stands = tareMg / 1e6 + 2
    expect(from(stands + 0.25)).toEqual([])
    expect(from(stands * 10)).toEqual(['before-off-the-books'])
    expect(from(stands - 1)).toEqual(['before-off-the-books'])
    // Zeroed with it on; and what an empty weighs nobody has written down.
    expect(from(0)).toEqual([])
    expect(from(stands + 1, 'giver')).toEqual([])
    expect(from(giver.tareMg / 1e6 + 5, 'giver', 'recovery')).toEqual([])
    expect(from(giver.tareMg / 1e6 + 3, 'giver', 'recovery')).toEqual(['before-off-the-books'])
  })
  it('asks about more than its books had, but of an empty', () => {
    const recovery = { kind: 'recovery' as const, balanceMg: 1e6 }
    expect(may({}, recovery, 1.2e6).questions).toEqual([])
    expect(may({}, recovery, 1.4e6).questions).toEqual(['more-than-it-had'])
    expect(may({}, { balanceMg: 1e6 }, 1.4e6).questions).toEqual([])
  })
  it('worse gas never onto better; into an empty one it makes it worse', () => {
    expect(may({}, { condition: 'doubtful' }).refusals).toEqual(['worse-onto-better'])
    expect(may({ balanceMg: 0, refrigerant: null, condition: 'clean' }, { condition: 'doubtful' })).toEqual({
      refusals: [],
      questions: [],
      condition: 'doubtful',
    })
  })
})
