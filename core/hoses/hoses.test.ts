import fc from 'fast-check'
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

describe('conductance', () => {
  it('ends in molecular flow, and grows with the fourth power of the bore where the gas is thick', () => {
    const tube = { boreM: 8e-3, lengthM: 1.5 }
    // 12.1 d^3/l, cm, for air at 20 C.
    expect(conductance(tube, 1e-6) * 1000).toBeCloseTo((12.1 * 0.8 ** 3) / 150, 5)
    expect(conductance({ ...tube, boreM: 16e-3 }, 1e5) / conductance(tube, 1e5)).toBeCloseTo(16, 1)
  })
  it('falls with length and is never more than the tightest of a row', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-3, max: 2e-2, noNaN: true }),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        fc.double({ min: 1, max: 1e5, noNaN: true }),
        (boreM, lengthM, pa) => {
          const tube = { boreM, lengthM }
          expect(conductance({ boreM, lengthM: 2 * lengthM }, pa)).toBeCloseTo(conductance(tube, pa) / 2, 12)
          expect(seriesConductance([tube, VALVE_CORE], pa)).toBeLessThan(
            Math.min(conductance(tube, pa), conductance(VALVE_CORE, pa)),
          )
        },
      ),
    )
  })
})
