import { describe, expect, it } from 'vitest'
import { leakRateOf } from './leak-rate'

const NOW = Date.parse('2026-11-27T12:00:00Z')
type Status = Parameters<typeof leakRateOf>[0][number]['status']
const job = (day: string, addedKg: number, status: Status = 'closed') => ({
  status,
  addedMg: addedKg * 1e6,
  chargedAt: new Date(`${day}T12:00:00Z`),
})

describe('what a system lost a year by its jobs', () => {
  it('is what was put in beyond what came out, within 365 days, of its full charge', () => {
    // 545 g of 3.4 kg twelve days ago; the 1 kg before it lies 400 days back.
    const rate = leakRateOf([job('2025-10-23', 1), job('2026-11-15', 0.545)], 3.4e6, NOW)!
    expect(rate.rolling).toBeCloseTo(0.545 / 3.4, 9)
    // 388 days between the two: at most 365 count.
    expect(rate.annualised).toBeCloseTo(0.545 / 3.4, 9)
  })
  it('a top-up three months after another: that much faster', () => {
    const rate = leakRateOf([job('2026-05-01', 0.5), job('2026-08-01', 0.3)], 1e6, NOW)!
    // 0.3 of 1 kg in the 92 days from May to August.
    expect(rate.annualised).toBeCloseTo((0.3 * 365) / 92, 9)
    expect(rate.rolling).toBeCloseTo(0.8, 9)
  })
  it('counts from when refrigerant went in last, also where that replaced no loss', () => {
    // A first fill in March, half a kilogram missing in June: 92 days.
    const rate = leakRateOf([job('2026-03-01', 0), job('2026-06-01', 0.5)], 3e6, NOW)!
    expect(rate.annualised).toBeCloseTo(((0.5 / 3) * 365) / 92, 9)
  })
  it('has a first top-up, with nothing known before it', () => {
    expect(leakRateOf([job('2026-08-01', 0.3)], 1e6, NOW)).toMatchObject({ addedInYearKg: 0.3 })
  })
  it('has 20 g of a charge of 300', () => {
    expect(leakRateOf([job('2026-08-01', 0.02)], 0.3e6, NOW)!.addedInYearKg).toBeCloseTo(0.02, 9)
    expect(leakRateOf([job('2026-08-01', 0.02)], 3e6, NOW)).toBeUndefined()
  })
  it('has jobs that wait or were given up, and none that is in hand', () => {
    expect(leakRateOf([job('2026-08-01', 0.3, 'waiting')], 1e6, NOW)).toBeDefined()
    expect(leakRateOf([job('2026-08-01', 0.3, 'cancelled')], 1e6, NOW)).toBeDefined()
    expect(leakRateOf([job('2026-08-01', 0.3, 'open')], 1e6, NOW)).toBeUndefined()
    expect(leakRateOf([job('2026-03-01', 0)], 3.4e6, NOW)).toBeUndefined()
  })
})
