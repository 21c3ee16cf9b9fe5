import { describe, expect, it } from 'vitest'
import { baselineOf, checkReadings, judgeChecks, patternOf, runningNow } from '.'
import { saturationPressurePa, tableOf } from '../refrigerants'
import { ZERO_CELSIUS_K } from '../units'
import { aCourse, type Course } from '../../testing/a-course'

const context = { metering: 'valve' as const, plateSubcoolingK: null }
const table = tableOf('R-410A')
const bubblePa = (tempC: number) => saturationPressurePa(table, tempC + ZERO_CELSIUS_K, 'bubble')
const dewPa = (tempC: number) => saturationPressurePa(table, tempC + ZERO_CELSIUS_K, 'dew')

/** Evaporating at 8 C with air on 25, condensing at 44 with 32 around; superheat 6, subcooling as asked. */
function read(course: Course, subcoolingK = 6, superheatK = 6): Course {
  course.wait(0).write('pressure-noted', { point: 'low', pressurePa: dewPa(8) })
  course.wait(0).write('pressure-noted', { point: 'high', pressurePa: bubblePa(44) })
  const temps = {
    suction: 8 + superheatK,
    liquid: 44 - subcoolingK,
    ambient: 32,
    'air-on': 25,
    'air-off': 15,
  }
  for (const [point, tempC] of Object.entries(temps))
    course.wait(0).write('temperature-noted', { point: point as 'suction', tempK: tempC + ZERO_CELSIUS_K })
  return course
}
const runs = (beforeS: number, course = aCourse().about('R-410A')) =>
  course.write('system-running', { service: 'comfort', beforeS })

describe('what the readings of a running system say', () => {
  it('all right, once it has settled', () => {
    expect(judgeChecks(read(runs(900)).state(), context).code).toBe('pattern-all-right')
  })
  it('settles from when gas last moved, however long it is said to have run', () => {
    const after = (minutes: number) => aCourse().about('R-410A').charge('B', 0.5).wait(minutes)
    const state = runs(900, after(1)).state()
    expect(runningNow(state)!.since).toBe(state.transfers.at(-1)!.endedAt)
    expect(judgeChecks(read(runs(900, after(1))).state(), context).code).toBe('readings-not-settled')
    expect(judgeChecks(read(runs(900, after(16))).state(), context).code).toBe('pattern-all-right')
  })
  it('too soon, and how long still', () => {
    const verdict = judgeChecks(read(runs(0).wait(4)).state(), context)
    expect(verdict.code).toBe('readings-not-settled')
    // Said, then read at once: ten minutes are still to come.
    expect(verdict.numbers).toEqual([{ name: 'known-after', value: 600, unit: 's' }])
  })
  it('what it was said to be at is of that run: said before the work, it is asked again after it', () => {
    // Evaporating at 15 C with air on 25, condensing at 40 with 32 around: at full load a weak compressor.
    const weak = (course: Course) => {
      course.wait(0).write('pressure-noted', { point: 'low', pressurePa: dewPa(15) })
      course.wait(0).write('pressure-noted', { point: 'high', pressurePa: bubblePa(40) })
      const temps = { suction: 21, liquid: 35.5, ambient: 32, 'air-on': 25, 'air-off': 18.7 }
      for (const [point, tempC] of Object.entries(temps))
        course
          .wait(0)
          .write('temperature-noted', { point: point as 'suction', tempK: tempC + ZERO_CELSIUS_K })
      return course
    }
    const before = weak(runs(900)).write('machine-state', { state: 'part-load', is: false })
    expect(judgeChecks(before.state(), context).code).toBe('pattern-compressor')
    const worked = before.recover('own', 3).end('emptied').target(3).charge('own', 3)
    const after = weak(runs(900, worked)).state()
    expect(judgeChecks(after, context).code).toBe('pattern-open')
    expect(baselineOf(after, context)?.verdict.code).toBe('pattern-compressor')
  })
  it('a vehicle whose vent is as warm as the air that goes in does not cool, whatever the pressures say', () => {
    const vehicle = (lowBar: number, highBar: number, ventC: number) => {
      const course = aCourse().about('R-134a').write('system-running', { service: 'vehicle', beforeS: 600 })
      course.wait(0).write('pressure-noted', { point: 'low', pressurePa: 101_325 + lowBar * 1e5 })
      course.wait(0).write('pressure-noted', { point: 'high', pressurePa: 101_325 + highBar * 1e5 })
      course.wait(0).write('temperature-noted', { point: 'ambient', tempK: 25 + ZERO_CELSIUS_K })
      course.wait(0).write('temperature-noted', { point: 'vent', tempK: ventC + ZERO_CELSIUS_K })
      return judgeChecks(course.state(), context)
    }
    expect(vehicle(2, 12, 24)).toMatchObject({ outcome: 'caution', code: 'vent-warm' })
    // The clutch does not pull in.
    expect(vehicle(5.6, 5.6, 25)).toMatchObject({ outcome: 'caution', code: 'vent-warm' })
    expect(vehicle(2, 12, 7).code).not.toBe('vent-warm')
  })
  it('a store is judged at its own temperature: a warm box loads it beyond what is usual', () => {
    const store = (service: 'cold-store' | 'freezer' | 'comfort', boxC: number) => {
      const course = aCourse().about('R-449A').write('system-running', { service, beforeS: 7_200 })
      course.wait(0).write('pressure-noted', { point: 'low', pressurePa: 401_325 })
      course.wait(0).write('pressure-noted', { point: 'high', pressurePa: 1_601_325 })
      course.wait(0).write('temperature-noted', { point: 'air-on', tempK: boxC + ZERO_CELSIUS_K })
      return judgeChecks(course.state(), context)
    }
    expect(store('cold-store', 14)).toMatchObject({
      outcome: 'open',
      code: 'readings-box-warm',
      numbers: [{ name: 'box-above', value: expect.closeTo(4, 6) as number }],
    })
    expect(store('freezer', -9).code).toBe('readings-box-warm')
    for (const [service, boxC] of [
      ['cold-store', 10],
      ['freezer', -10],
      ['comfort', 26],
    ] as const)
      expect(store(service, boxC).code, `${service} at ${boxC}`).not.toBe('readings-box-warm')
  })
  it('a system at rest is no running one', () => {
    const course = runs(900)
    course.wait(0).write('pressure-noted', { point: 'low', pressurePa: bubblePa(25) })
    course.wait(0).write('pressure-noted', { point: 'high', pressurePa: bubblePa(25) + 10_000 })
    expect(judgeChecks(course.state(), context).code).toBe('readings-at-rest')
  })
  it('a bus with another gas than the usual two is not held against their pressures', () => {
    const course = aCourse().about('R-410A').write('system-running', { service: 'vehicle', beforeS: 900 })
    course.wait(0).write('pressure-noted', { point: 'low', pressurePa: 251_325 })
    course.wait(0).write('pressure-noted', { point: 'high', pressurePa: 1_701_325 })
    for (const [point, tempC] of [
      ['vent', 9],
      ['ambient', 24],
    ] as const)
      course.wait(0).write('temperature-noted', { point, tempK: tempC + ZERO_CELSIUS_K })
    expect(patternOf(course.state(), context)).toBeUndefined()
    expect(judgeChecks(course.state(), context).code).toBe('readings-missing')
  })
  it('hoses swapped', () => {
    const course = runs(900)
    course.wait(0).write('pressure-noted', { point: 'low', pressurePa: bubblePa(44) })
    course.wait(0).write('pressure-noted', { point: 'high', pressurePa: dewPa(8) })
    expect(judgeChecks(course.state(), context).code).toBe('suction-above-head')
  })
  it('without a word on whether it runs only superheat and subcooling are judged', () => {
    const state = read(aCourse().about('R-410A')).state()
    expect(patternOf(state, context)).toBeUndefined()
    expect(judgeChecks(state, context).code).toBe('readings-fit')
  })
  it('gas that moves ends it: what was read before tells of another charge', () => {
    const course = read(runs(900), 0, 16)
    expect(judgeChecks(course.state(), context).code).toBe('pattern-charge-low')
    course.charge('c', 0.3)
    expect(runningNow(course.state())).toBeUndefined()
    expect(judgeChecks(course.state(), context).code).toBe('readings-missing')
    const after = read(runs(900, course))
    expect(judgeChecks(after.state(), context).code).toBe('pattern-all-right')
  })
  it('what was read at rest, before it was started, is not mixed with what it reads running', () => {
    const course = aCourse().about('R-410A')
    course.wait(0).write('pressure-noted', { point: 'high', pressurePa: bubblePa(25) })
    runs(0, course.wait(2))
    course.wait(1).write('pressure-noted', { point: 'low', pressurePa: dewPa(8) })
    expect(checkReadings(course.state())).toMatchObject({ lowPa: dewPa(8) })
    expect(checkReadings(course.state()).highPa).toBeUndefined()
  })
  it('what stood above saturation at rest speaks for air', () => {
    const course = runs(900)
    // 4 K above at 25 C.
    course.write('standing-noted', { pressurePa: bubblePa(29), tempK: 25 + ZERO_CELSIUS_K })
    // Ten kelvin more of head, and of subcooling.
    course.wait(0).write('pressure-noted', { point: 'low', pressurePa: dewPa(8) })
    course.wait(0).write('pressure-noted', { point: 'high', pressurePa: bubblePa(54) })
    for (const [point, tempC] of [
      ['suction', 14],
      ['liquid', 38],
      ['ambient', 32],
      ['air-on', 25],
    ] as const)
      course.wait(0).write('temperature-noted', { point, tempK: tempC + ZERO_CELSIUS_K })
    expect(judgeChecks(course.state(), context).code).toBe('pattern-air')
  })
  it('a reading struck changes what they say', () => {
    const course = read(runs(900))
    const suction = course.entries.find((each) => each.kind === 'temperature-noted')!
    course.write('correction', {
      entryId: suction.entryId,
      kind: 'temperature-noted',
      body: { point: 'suction', tempK: 30 + ZERO_CELSIUS_K },
      reason: 'misread',
    })
    expect(judgeChecks(course.state(), context).code).not.toBe('pattern-all-right')
  })
})
