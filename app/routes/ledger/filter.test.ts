import { describe, expect, it } from 'vitest'
import { filterOf } from '~/pages/ledger/filter.server'

const filter = (search: string, timeZone = 'UTC') => filterOf(new URLSearchParams(search), timeZone).filter
const wrong = (search: string) => filterOf(new URLSearchParams(search), 'UTC').wrong

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
  it.each([
    ['from=yesterday', 'no day “yesterday”'],
    ['from=2026-02-31', 'no day “2026-02-31”'],
    ['to=9999-12-31', 'no day “9999-12-31”'],
    ['refrigerant=constructor', 'no refrigerant “constructor”'],
    ['cylinder=x', 'no cylinder'],
    ['from=2026-03-02&to=2026-03-01', 'turn them round'],
  ])('says of %s that it cannot be read, instead of showing everything', (search, sentence) => {
    expect(wrong(search)).toContain(sentence)
  })
  it('takes empty fields for no wish', () => {
    expect(filter('from=&to=&refrigerant=')).toEqual({})
    expect(wrong('from=&to=&refrigerant=')).toBeUndefined()
  })
  it('takes refrigerants and cylinders that there can be', () => {
    const cylinder = '6f1a51f0-7d2c-4c1e-9d5e-3b0c8e3f5a11'
    expect(filter(`refrigerant=R-410A&cylinder=${cylinder}`)).toEqual({
      refrigerant: 'R-410A',
      cylinderId: cylinder,
    })
  })
})
