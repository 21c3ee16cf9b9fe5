import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { VALVE_CORE } from '../hoses'
import { airLeft, effectiveSpeed, evacuationCurve, NeverReachedError } from '.'

const ATMOSPHERE = 101_325
const TARGET = 500 * 0.133322368
const rig = (boreMm: number, { core = false, lengthM = 1.5, litres = 2.4 } = {}) => ({
  tubes: [{ boreM: boreMm / 1000, lengthM }, ...(core ? [VALVE_CORE] : [])],
  pumpM3s: litres / 1000,
  ultimatePa: 2,
})
const minutes = (...[boreMm, options]: Parameters<typeof rig>) =>
  evacuationCurve(rig(boreMm, options), 0.01, ATMOSPHERE, TARGET).at(-1)!.atS / 60

describe('evacuation', () => {
  it.each([
    [4.8, true, 13.4],
    [7.9, true, 6.1],
    [11, true, 5.2],
    [4.8, false, 8.9],
    [7.9, false, 1.6],
    [11, false, 0.8],
  ])('10 L, 2.4 L/s, %s mm, core in %s: %s min to 500 micron', (mm, core, wanted) => {
    expect(Math.abs(minutes(mm, { core }) - wanted)).toBeLessThan(0.1)
  })
  it('takes 22 min through 3 m, and hardly less with a bigger pump', () => {
    expect(minutes(4.8, { core: true, lengthM: 3 })).toBeCloseTo(22, 0)
    expect(minutes(4.8, { core: true, litres: 7.2 }) / minutes(4.8, { core: true })).toBeGreaterThan(0.95)
  })
  it('a 6 cfm pump works at little over 1 % of its size on a 1/4 in hose', () => {
    const speed = effectiveSpeed(rig(4.8, { litres: 2.83 }), 67)
    expect(speed / 0.00283).toBeGreaterThan(0.008)
    expect(speed / 0.00283).toBeLessThan(0.015)
  })
  it('comes down monotonically, and slower with a leak', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 15, noNaN: true }),
        fc.double({ min: 0.001, max: 0.2, noNaN: true }),
        (mm, volume) => {
          const curve = evacuationCurve(rig(mm), volume, ATMOSPHERE, TARGET)
          for (const [i, point] of curve.entries())
            if (i > 0) {
              expect(point.atS).toBeGreaterThan(curve[i - 1]!.atS)
              expect(point.pressurePa).toBeLessThan(curve[i - 1]!.pressurePa)
            }
        },
      ),
      { numRuns: 20 },
    )
    const tight = evacuationCurve(rig(8), 0.01, ATMOSPHERE, TARGET).at(-1)!.atS
    const leaking = evacuationCurve(rig(8), 0.01, ATMOSPHERE, TARGET, 0.005).at(-1)!.atS
    expect(leaking).toBeGreaterThan(tight)
  })
  it('says how low it gets when it never gets there', () => {
    const attempt = () => evacuationCurve(rig(8), 0.01, ATMOSPHERE, TARGET, 1)
    expect(attempt).toThrow(NeverReachedError)
    expect(() => evacuationCurve(rig(8), 0.01, ATMOSPHERE, 1)).toThrow(NeverReachedError)
  })
  it('three evacuations leave next to nothing', () => {
    expect(airLeft(TARGET, ATMOSPHERE, 1)).toBeCloseTo(6.58e-4, 6)
    expect(airLeft(TARGET, ATMOSPHERE, 3)).toBeLessThan(3e-10)
  })
})
