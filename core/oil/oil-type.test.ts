import { describe, expect, it } from 'vitest'
import { REFRIGERANTS } from '../refrigerants'
import { judgeOilType, OIL_TYPES } from '.'

describe('judgeOilType', () => {
  it.each([
    ['PAG', 'R-134a', 'belt', 'good'],
    ['PAG', 'R-1234yf', 'high-voltage', 'bad'],
    ['POE', 'R-1234yf', 'high-voltage', 'good'],
    ['POE', 'R-134a', 'belt', 'caution'],
    ['POE', 'R-410A', 'stationary', 'good'],
    ['mineral', 'R-410A', 'stationary', 'bad'],
    ['mineral', 'R-22', 'stationary', 'good'],
    ['mineral', 'R-422D', 'stationary', 'good'],
    ['POE', 'R-717', 'stationary', 'bad'],
    ['mineral', 'R-290', 'stationary', 'good'],
    ['PAG', 'R-744', 'belt', 'good'],
  ] as const)('%s with %s, %s: %s', (oil, code, drive, outcome) => {
    expect(judgeOilType(oil, code, drive).outcome).toBe(outcome)
  })
  it('every refrigerant has an oil that fits', () => {
    for (const code of REFRIGERANTS)
      expect(OIL_TYPES.some((oil) => judgeOilType(oil, code, 'stationary').outcome === 'good')).toBe(true)
  })
})
