import { describe, expect, it } from 'vitest'
import { filterOf } from './filter.server'

const filter = (search: string, timeZone = 'UTC') => filterOf(new URLSearchParams(search), timeZone)

describe('filterOf', () => {
  it('takes days as days where the shop is, the last one included', () => {
    expect(filter('from=2026-03-01&to=2026-03-01')).toEqual({
      from: new Date('2026-03-01T00:00:00Z'),
      to: new Date('2026-03-02T00:00:00Z'),
    })
    expect(filter('from=2026-07-01', 'Europe/Lisbon')).toEqual({ from: new Date('2026-06-30T23:00:00Z') })
    // The day on which the clocks go forward has 23 hours.
    expect(filter('from=2026-03-29&to=2026-03-29', 'Europe/Lisbon')).toEqual({
      from: new Date('2026-03-29T00:00:00Z'),
      to: new Date('2026-03-29T23:00:00Z'),
    })
  })
  it('leaves out what it cannot read', () => {
    expect(filter('from=yesterday&to=2026-99-99&refrigerant=R-1&cylinder=x')).toEqual({})
  })
  it('takes refrigerants and cylinders that there can be', () => {
    const cylinder = '6f1a51f0-7d2c-4c1e-9d5e-3b0c8e3f5a11'
    expect(filter(`refrigerant=R-410A&cylinder=${cylinder}`)).toEqual({
      refrigerant: 'R-410A',
      cylinderId: cylinder,
    })
  })
})
