import { describe, expect, it } from 'vitest'
import { leakRateOf } from './leak-rate'

const NOW = Date.parse('2026-11-27T12:00:00Z')
const job = (day: string, outKg: number, inKg: number, status: 'closed' | 'open' = 'closed') => ({
  status,
  recoveredMg: outKg * 1e6,
  chargedMg: inKg * 1e6,
  openedAt: new Date(`${day}T08:00:00Z`),
  closedAt: status === 'closed' ? new Date(`${day}T12:00:00Z`) : null,
})

describe('what a system lost a year by its jobs', () => {
  it('is what was put in beyond what came out, within 365 days, of its full charge', () => {
    // 545 g of 3.4 kg twelve days ago; the 1 kg before it lies 400 days back.
    const rate = leakRateOf([job('2025-10-23', 2.4, 3.4), job('2026-11-15', 2.85, 3.395)], 3.4e6, NOW)!
    expect(rate.rolling).toBeCloseTo(0.545 / 3.4, 9)
    // 388 days between the two: at most 365 count.
    expect(rate.annualised).toBeCloseTo(0.545 / 3.4, 9)
  })
  it('a top-up three months after another: that much faster', () => {
    const rate = leakRateOf([job('2026-05-01', 0.5, 1), job('2026-08-01', 0, 0.3)], 1e6, NOW)!
    // 0.3 of 1 kg in the 92 days from May to August.
    expect(rate.annualised).toBeCloseTo((0.3 * 365) / 92, 9)
    expect(rate.rolling).toBeCloseTo(0.8, 9)
  })
  it('a first fill, what a scale cannot tell, and jobs that are not closed are no additions', () => {
    expect(leakRateOf([job('2026-03-01', 0, 3.4)], 3.4e6, NOW)).toBeUndefined()
    expect(leakRateOf([job('2026-03-01', 3.4, 3.42)], 3.4e6, NOW)).toBeUndefined()
    expect(leakRateOf([job('2026-03-01', 1, 3.4, 'open')], 3.4e6, NOW)).toBeUndefined()
  })
})
