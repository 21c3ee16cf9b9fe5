import { describe, expect, it } from 'vitest'
import { dueOf, filterUsed, judgeCheck, KIT_KINDS, KINDS_OF_KIT, type KitPiece, mayUse, plusDays } from '.'

describe('the check of a scale', () => {
  const check = (read: number, facts = {}) => judgeCheck('scale-check', facts, { known: 10_000_000, read })
  it('holds it against its stated accuracy and half a step', () => {
    // 10 g stated, counts in 2 g: 11 g either way; at 11 g it still passes.
    const facts = { divisionMg: 2_000, accuracyMg: 10_000 }
    expect(check(10_011_000, facts)).toEqual({ passed: true, off: 11_000, limit: 11_000, limitKnown: true })
    expect(check(10_012_000, facts).passed).toBe(false)
    expect(check(9_989_000, facts).passed).toBe(true)
    expect(check(9_988_000, facts).passed).toBe(false)
  })
  it('takes two steps where nobody knows it, and says so', () => {
    // 5 g up to 60 kg: 2 x 5 + 2.5.
    expect(check(10_012_500)).toMatchObject({ passed: true, limit: 12_500, limitKnown: false })
    expect(check(10_015_000).passed).toBe(false)
    // 10 g above: 2 x 10 + 5.
    expect(judgeCheck('scale-check', {}, { known: 80e6, read: 80e6 }).limit).toBe(25_000)
  })
})

describe('the checks of other instruments', () => {
  it('hold a gauge to its class of its full scale', () => {
    // 1.6 % of 35 bar is 0.56 bar.
    const facts = { fullScalePa: 35e5, classPct: 1.6 }
    const read = (pa: number) => judgeCheck('zero-check', facts, { known: 101_325, read: 101_325 + pa })
    expect(read(-56_000).passed).toBe(true)
    expect(read(57_000).passed).toBe(false)
    expect(judgeCheck('zero-check', {}, { known: 0, read: 20_001 })).toMatchObject({
      passed: false,
      limitKnown: false,
    })
  })
  it('hold a thermometer to a kelvin, a vacuum gauge to a fifth of what it should read', () => {
    expect(judgeCheck('temperature-check', {}, { known: 273.15, read: 274.15 }).passed).toBe(true)
    expect(judgeCheck('temperature-check', { accuracyK: 0.5 }, { known: 273.15, read: 272.5 }).passed).toBe(
      false,
    )
    expect(judgeCheck('vacuum-check', {}, { known: 50, read: 60 }).passed).toBe(true)
    expect(judgeCheck('vacuum-check', { accuracyPct: 10 }, { known: 50, read: 56 }).passed).toBe(false)
  })
})

describe('what is due', () => {
  it('is due at once where it was never done', () => {
    expect(dueOf('scale', {}, { last: {}, here: '2026-11-26' })).toEqual([
      { what: 'scale-check', on: '2026-11-26', never: true },
    ])
  })
  it('comes again after its days, over months and leap days', () => {
    expect(dueOf('scale', {}, { last: { 'scale-check': '2028-02-10' }, here: '2026-01-01' })[0]!.on).toBe(
      '2028-03-11',
    )
    expect(
      dueOf('scale', { checkDays: 7 }, { last: { 'scale-check': '2026-12-28' }, here: '2026-01-01' })[0]!.on,
    ).toBe('2027-01-04')
    expect(plusDays('2026-03-28', 3)).toBe('2026-03-31')
  })
  it('asks for oil that draws water to be used up once it is open, and for no other', () => {
    const opened = { 'bottle-opened': '2026-10-01' }
    expect(dueOf('bottle', { oilType: 'POE 32' }, { last: opened, here: '2026-01-01' })).toEqual([
      { what: 'bottle-opened', on: '2026-11-30', never: false },
    ])
    expect(dueOf('bottle', { oilType: 'Mineral 3GS' }, { last: opened, here: '2026-01-01' })).toEqual([])
    expect(dueOf('bottle', { contents: 'dye' }, { last: opened, here: '2026-01-01' })).toEqual([])
    expect(dueOf('bottle', { oilType: 'PAG 46' }, { last: {}, here: '2026-01-01' })).toEqual([])
  })
  it('asks for fresh pump oil by its hours, where they come before its days', () => {
    const last = { 'oil-changed': '2026-11-01', 'hours-run': '2026-11-20' } as const
    const due = (hoursRun: number) =>
      dueOf('pump', { oilHours: 20 }, { last, here: '2026-01-01', hoursRun })[0]
    expect(due(19.5)).toEqual({ what: 'oil-changed', on: '2027-01-30', never: false })
    expect(due(20)).toEqual({ what: 'oil-changed', on: '2026-11-20', never: false })
  })
  it('knows how far a filter is used up', () => {
    expect(filterUsed({ filterLifeMg: 150_000_000 }, 120_000_000)).toBeCloseTo(0.8, 9)
    expect(filterUsed({}, 1)).toBeNull()
  })
  it('has something to ask of every kind', () => {
    for (const kind of KIT_KINDS)
      expect(new Set(KINDS_OF_KIT[kind].facts).size).toBe(KINDS_OF_KIT[kind].facts.length)
  })
})

describe('what may be used', () => {
  const machine: KitPiece = {
    kitId: 'm',
    kind: 'machine',
    label: 'Machine 1',
    facts: {},
    state: 'in-use',
    lastGas: null,
  }
  it('refuses a machine that is not rated for a flammable gas, and one that still holds another', () => {
    expect(mayUse(machine, 'R-290')).toEqual(['not-rated-flammable'])
    expect(mayUse({ ...machine, facts: { flammableOk: true } }, 'R-290')).toEqual([])
    expect(mayUse(machine, 'R-410A')).toEqual([])
    expect(mayUse({ ...machine, lastGas: 'R-22' }, 'R-410A')).toEqual(['holds-another-gas'])
    expect(mayUse({ ...machine, lastGas: 'R-410A' }, 'R-410A')).toEqual([])
    expect(mayUse({ ...machine, lastGas: 'R-22' }, null)).toEqual([])
  })
  it('refuses what is away, and asks nothing of the gas where no gas is pulled', () => {
    expect(mayUse({ ...machine, state: 'repair' }, 'R-410A')).toEqual(['kit-not-here'])
    expect(mayUse({ ...machine, kind: 'scale' }, 'R-290')).toEqual([])
  })
})
