import { describe, expect, it } from 'vitest'
import { liquidDensity, tableOf } from '../refrigerants'
import { conductance, HOSE_BORE_M, seriesConductance, tubeVolumeM3, VALVE_CORE } from '.'

describe('hoses', () => {
  it.each([
    [4.8, 0.04],
    [8, 0.28],
    [12.7, 1.7],
  ])('%s mm, 1.5 m at 500 micron carries %s L/s', (mm, litres) => {
    const found = conductance({ boreM: mm / 1000, lengthM: 1.5 }, 67) * 1000
    expect(found / litres).toBeGreaterThan(0.95)
    expect(found / litres).toBeLessThan(1.05)
  })
  it('1.5 m of 1/4 in full of R-410A liquid at 25 C hold 27 mL, 29 g', () => {
    const volume = tubeVolumeM3({ boreM: HOSE_BORE_M['1/4']!, lengthM: 1.5 })
    expect(volume * 1e6).toBeCloseTo(27.1, 1)
    expect(volume * liquidDensity(tableOf('R-410A'), 298.15) * 1000).toBeCloseTo(28.8, 0)
  })
  it('a core left in is the tightest place', () => {
    const hose = { boreM: 8e-3, lengthM: 1.5 }
    expect(seriesConductance([hose, VALVE_CORE], 67)).toBeLessThan(conductance(hose, 67) / 4)
    expect(seriesConductance([hose, hose], 67)).toBeCloseTo(conductance(hose, 67) / 2, 12)
  })
})
