import { describe, expect, it } from 'vitest'
import { euCheckRule, judgePressureHold, leakRate, slowLeak, usLeakRule } from '.'

const bar = (gauge: number) => gauge * 1e5 + 101_325
const hold = (endPa: number, over = {}) =>
  judgePressureHold({
    startPa: bar(24),
    endPa,
    startK: 298.15,
    endK: 288.15,
    heldS: 3600,
    gaugePa: 5_000,
    clampK: 1,
    ...over,
  })

describe('judgePressureHold', () => {
  it('24 bar gauge from 25 to 15 C loses 0.84 bar without any leak', () => {
    const { expectedPa } = hold(bar(23.16))
    expect((expectedPa - bar(24)) / 1e5).toBeCloseTo(-0.84, 2)
    expect(hold(bar(23.16)).verdict).toMatchObject({ outcome: 'good', code: 'pressure-held' })
  })
  it('judges only beyond the uncertainty, and says what it could have seen', () => {
    expect(hold(bar(22)).verdict.code).toBe('pressure-lost')
    expect(hold(bar(25)).verdict.outcome).toBe('open')
    const wide = hold(bar(22.6), { clampK: 5, heldS: 10_800 })
    expect(wide.verdict.code).toBe('pressure-held')
    expect(wide.smallestPaPerS * 10_800).toBeCloseTo(2 * wide.sigmaPa, 6)
    expect(hold(bar(23), { volumeM3: 0.01 }).smallestLeakPaM3s).toBeCloseTo(
      hold(bar(23)).smallestPaPerS * 0.01,
      12,
    )
  })
})

describe('a nitrogen hold that lost nothing', () => {
  // 25 bar abs: 2 sigma = 2/sqrt(3) x hypot(5000, 5000, 0.5/298 x 25.01e5 twice) = 10,659 Pa; out in 3 days at 24 bar: 9.26 Pa/s.
  const stood = (heldS: number, over = {}) =>
    hold(bar(24), { endK: 298.15, clampK: 0.5, heldS, ...over }).verdict.code
  it('says nothing before a leak that empties it in three days would have shown', () => {
    expect(stood(10)).toBe('pressure-too-short')
    expect(hold(bar(24), { endK: 298.15, clampK: 0.5 }).leastS).toBeCloseTo(1_151, -1)
    expect(stood(1_100)).toBe('pressure-too-short')
    expect(stood(1_200)).toBe('pressure-held')
  })
  it('nor at a tenth of a bar, nor under half of what it may be tested with', () => {
    const low = { startPa: bar(0.1), endK: 298.15, clampK: 0.5 }
    expect(hold(bar(0.1), { ...low, heldS: 86_400 }).verdict.code).toBe('pressure-too-short')
    expect(hold(bar(0.1), { ...low, heldS: 1e6, mostPa: bar(10) }).verdict.code).toBe('pressure-too-low')
    expect(stood(3_600, { mostPa: bar(42) })).toBe('pressure-held')
    expect(stood(3_600, { mostPa: bar(49) })).toBe('pressure-too-low')
  })
  it('at the pressure of the air there is no time that is long enough, and none is said', () => {
    const none = hold(95_000, { startPa: 95_000, endK: 298.15, heldS: 1e6 })
    expect([none.verdict.code, none.verdict.rule.numbers]).toEqual(['pressure-too-low', undefined])
  })
  it('what it lost is lost, however short', () => {
    expect(hold(bar(20), { endK: 298.15, heldS: 10 }).verdict.code).toBe('pressure-lost')
  })
})

describe('leakRate', () => {
  it('takes what was added on one day for one addition', () => {
    // 3 kg of 10 over the 100 days since the one before: 3/10 x 365/100.
    const found = leakRate(10, [
      { massKg: 1, daysAgo: 10 },
      { massKg: 2, daysAgo: 10 },
      { massKg: 2, daysAgo: 110 },
    ])
    expect(found.annualised).toBeCloseTo((3 / 10) * 3.65, 9)
    expect(found.overDays).toBe(100)
  })
  it('annualises the newest addition over the time since the one before', () => {
    const found = leakRate(10, [
      { massKg: 1, daysAgo: 10 },
      { massKg: 2, daysAgo: 110 },
      { massKg: 5, daysAgo: 400 },
    ])
    expect(found.annualised).toBeCloseTo(0.365, 9)
    expect(found.rolling).toBeCloseTo(0.3, 9)
    expect(found.overDays).toBe(100)
  })
  it('looks back no further than a year, and knows none without a day before', () => {
    expect(leakRate(10, [{ massKg: 1, daysAgo: 0 }], 800).annualised).toBeCloseTo(0.1, 9)
    expect(leakRate(10, [{ massKg: 1, daysAgo: 0 }])).not.toHaveProperty('annualised')
    expect(leakRate(10, []).rolling).toBe(0)
  })
  it('sizes a slow leak', () => {
    expect(slowLeak(2, 0.5, 730)).toEqual({ kgPerYear: 0.25, share: 0.125 })
  })
})

describe('rules', () => {
  it('United States: ozone-depleting from 50 lb, GWP over 53 from 15 lb, else not', () => {
    expect(usLeakRule('R-22', 22, 'commercial')).toMatchObject({ applies: false, trigger: 0.2 })
    expect(usLeakRule('R-22', 23, 'commercial').applies).toBe(true)
    expect(usLeakRule('R-404A', 6.9, 'process')).toMatchObject({ applies: true, why: 'hfc', trigger: 0.3 })
    expect(usLeakRule('R-290', 100, 'comfort')).toMatchObject({ applies: false, why: 'low-gwp' })
  })
  it('European Union: by CO2 equivalent, olefins by mass, doubled with detection', () => {
    expect(euCheckRule('R-404A', 1.2)).not.toHaveProperty('everyMonths')
    expect(euCheckRule('R-404A', 1.3).everyMonths).toBe(12)
    expect(euCheckRule('R-404A', 1.3, { hermetic: true })).not.toHaveProperty('everyMonths')
    expect(euCheckRule('R-404A', 15, { detection: true })).toMatchObject({
      everyMonths: 6,
      intervalMonths: 12,
    })
    expect(euCheckRule('R-404A', 130).everyMonths).toBe(3)
    expect(euCheckRule('R-1234yf', 1)).toMatchObject({ everyMonths: 12, by: 'mass' })
    expect(euCheckRule('R-744', 1000).by).toBe('none')
  })
})
