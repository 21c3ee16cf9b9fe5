import { describe, expect, it } from 'vitest'
import { aCourse, type Course } from '../../../testing/a-course'
import { saturationPressurePa, tableOf } from '../../refrigerants'
import { ZERO_CELSIUS_K } from '../../units'
import { airIn, notices } from '..'

const codes = (course: Course, chargeKg: number | null = 3) =>
  notices(course.state(), chargeKg).map((each) => each.code)
const pulled = () => aCourse().about('R-410A').recover('A', 2)

describe('notices', () => {
  it('hold the low side after the last pull against the level', () => {
    // R-410A under 200 lb: 0 inHg, so atmosphere; half of 0.2 bar is the gauge's.
    expect(codes(pulled().low(0.05))).toEqual([])
    expect(codes(pulled().low(0.3))).toEqual(['low-above-level'])
    expect(codes(aCourse().about('R-410A').low(8).recover('A', 2))).toEqual([])
    // R-134a: 10 inHg below atmosphere.
    expect(codes(aCourse().about('R-134a').recover('A', 2).low(-0.1))).toEqual(['low-above-level'])
    expect(codes(aCourse().about('R-134a').recover('A', 2).low(-0.34))).toEqual([])
  })
  it('see a rebound in two readings, and that it may be too soon', () => {
    expect(codes(pulled().low(-0.4).wait(8).low(-0.1))).toEqual(['rebounds'])
    expect(codes(pulled().low(-0.4).wait(3).low(-0.1))).toEqual(['rebounds-early'])
    expect(codes(pulled().low(-0.4).wait(8).low(-0.39))).toEqual([])
  })
  it('warn below atmosphere with a known leak', () => {
    const leaking = aCourse().about('R-410A').search(true).recover('A', 2)
    expect(codes(leaking.low(-0.2))).toEqual(['air-through-leak'])
    expect(
      codes(aCourse().about('R-410A').search(true).step('repair-done').recover('A', 2).low(-0.2)),
    ).toEqual([])
  })
  it('belong to the cylinder that they were read on', () => {
    const atRest = (course: Course, bar: number) =>
      course
        .write('pressure-noted', {
          point: 'cylinder',
          pressurePa: saturationPressurePa(tableOf('R-410A'), 20 + ZERO_CELSIUS_K, 'bubble') + bar * 1e5,
        })
        .wait(2)
        .write('temperature-noted', { point: 'cylinder', tempK: 20 + ZERO_CELSIUS_K })
    const airy = () => atRest(pulled(), 2)
    expect(codes(airy())).toEqual(['cylinder-above'])
    const next = airy().recover('B', 0.5)
    expect(codes(next)).toEqual([])
    expect(airIn(next.state(), 'A')).toMatchObject({ isMeasured: true })
    expect(airIn(next.state(), 'A').share).toBeGreaterThan(0.05)
    expect(airIn(next.state(), 'B')).toEqual({ isMeasured: false })
    expect(airIn(atRest(next, 0).state(), 'B')).toEqual({ isMeasured: true })
    expect(airIn(next.state(), 'A').share).toBeGreaterThan(0.05)
  })
  it('tell air or another gas in the cylinder by pressure and temperature', () => {
    const cylinder = (bar: number) =>
      aCourse()
        .about('R-410A')
        .write('pressure-noted', {
          point: 'cylinder',
          pressurePa: saturationPressurePa(tableOf('R-410A'), 20 + ZERO_CELSIUS_K, 'bubble') + bar * 1e5,
        })
        .wait(2)
        .write('temperature-noted', { point: 'cylinder', tempK: 20 + ZERO_CELSIUS_K })
    expect(codes(cylinder(0))).toEqual([])
    expect(codes(cylinder(2))).toEqual(['cylinder-above'])
    expect(codes(cylinder(-3))).toEqual(['cylinder-below'])
  })
})
