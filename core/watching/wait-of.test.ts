import { describe, expect, it } from 'vitest'
import { aCourse, type Course } from '../../testing/a-course'
import { judgeWait } from '../recovery'
import type { Point } from '../samples'
import { pullsOf } from '../tape'
import { type LinesOf, type Place, waitedAfter, waitOf } from '.'

const ATMOSPHERE_PA = 101_325
const NONE: LinesOf = () => []
const place = (nowMs: number, over: Partial<Place> = {}): Place => ({
  expected: { massMg: 3e6 },
  trade: 'stationary',
  speed: 1,
  nowMs,
  ...over,
})
const pulled = () => aCourse().about('R-410A').low(8).recover('A', 2)
function waiting(course: Course, minutes: number, lines = NONE, over: Partial<Place> = {}) {
  const state = course.state()
  const pull = waitedAfter(state)!
  return waitOf(state, pull, lines, place(pull.endedAt + minutes * 60_000, over))
}

describe('one waits after a pull', () => {
  it('not while one runs, not after gas went in, not once it was said to be empty', () => {
    expect(waitedAfter(aCourse().state())).toBeUndefined()
    expect(waitedAfter(pulled().state())).toBeDefined()
    expect(waitedAfter(pulled().begin('recover', 'A', 1).state())).toBeUndefined()
    expect(waitedAfter(pulled().end('emptied').state())).toBeUndefined()
    expect(waitedAfter(pulled().end('not-emptied').state())).toBeDefined()
    expect(waitedAfter(pulled().end('emptied').charge('B', 1).state())).toBeUndefined()
  })

  it('typed: from the stop on, and what was read just before it', () => {
    const asked = waiting(pulled().wait(2).low(0).wait(8).low(0.7), 12)
    expect(asked.low).toEqual([
      { atS: 120, value: ATMOSPHERE_PA },
      { atS: 600, value: expect.closeTo(ATMOSPHERE_PA + 70_000, 3) as number },
    ])
    expect(asked).toMatchObject({ nowS: 720, levelPa: ATMOSPHERE_PA, chargeKg: 3, leaking: false })
    expect(judgeWait(asked).verdict.code).toBe('wait-again')
  })

  it('live: the stream, from just before the stop; the gauge counts from the air of the place', () => {
    const endedAt = waitedAfter(pulled().state())!.endedAt
    const low: Point[] = Array.from({ length: 620 }, (_, i) => [endedAt + (i - 20) * 1_000, 0])
    const asked = waiting(pulled(), 10, (channel) => (channel === 'low' ? low : []), {
      atmospherePa: 95_000,
    })
    expect(asked.low[0]).toEqual({ atS: -10, value: 95_000 })
    expect(asked.levelPa).toBe(95_000)
    expect(judgeWait(asked).verdict.code).toBe('wait-done')
  })

  it('nothing read: by time', () => {
    expect(judgeWait(waiting(pulled(), 11)).verdict.code).toBe('wait-by-time')
  })

  it('the rule is that of the plan, of the trade, and of a leak that is known', () => {
    const level = (course: Course, trade: Place['trade'] = 'stationary') =>
      Math.round(waiting(course, 1, NONE, { trade }).levelPa - ATMOSPHERE_PA)
    const of134a = () => aCourse().about('R-134a')
    const plan = (use: 'small-sealed' | 'appliance') =>
      of134a().write('recovery-planned', {
        method: 'vapour-only',
        port: 'vapour',
        hose: '1/4',
        coresOut: true,
        level: use,
      })
    // 10 inHg is 33 864 Pa, 4 inHg 13 546.
    expect(level(of134a().recover('A', 1))).toBe(-33_864)
    expect(level(of134a().recover('A', 1), 'vehicle')).toBe(-13_546)
    expect(level(plan('small-sealed').recover('A', 1))).toBe(-13_546)
    expect(level(plan('appliance').search(true).recover('A', 1))).toBe(0)
  })
})

describe('pull by pull', () => {
  it('a line each: from, to, how much, and what came back', () => {
    const course = pulled().wait(0.1).low(0).wait(10).low(0.9).wait(1).recover('A', 0.1)
    expect(pullsOf(course.state())).toMatchObject([
      {
        amountMg: 2_000_000,
        startPa: ATMOSPHERE_PA + 8e5,
        endPa: ATMOSPHERE_PA,
        reboundPa: ATMOSPHERE_PA + 0.9e5,
        reboundAfterMs: 606_000,
      },
      { amountMg: 100_000, startPa: ATMOSPHERE_PA + 0.9e5 },
    ])
  })
  it('begins anew once gas has gone in', () => {
    const course = pulled().end('emptied').charge('B', 2).recover('A', 1.9)
    expect(pullsOf(course.state()).map((each) => each.amountMg)).toEqual([1_900_000])
    // What is charged after it leaves its lines where they are.
    expect(pullsOf(pulled().end('emptied').charge('B', 2).state()).map((each) => each.amountMg)).toEqual([
      2_000_000,
    ])
    expect(pullsOf(aCourse().charge('B', 2).state())).toEqual([])
  })
  it('what the purge brought stands on the line of its pull', () => {
    const [runId, kg] = ['r', 1e6]
    const course = aCourse()
      .write('run-started', {
        runId,
        use: 'recover',
        cylinderId: 'A',
        scale: '',
        mode: 'gross',
        weightMg: 12 * kg,
      })
      .write('weight-noted', { runId, weightMg: 14.1 * kg })
      .step('purge-begun')
      .write('run-ended', { runId, weightMg: 14.19 * kg })
    expect(pullsOf(course.state())).toMatchObject([{ amountMg: 2_190_000, purgeMg: 90_000 }])
    expect(pullsOf(pulled().state())[0]).not.toHaveProperty('purgeMg')
  })
  it('without a gauge it says what it weighed', () => {
    const [line] = pullsOf(aCourse().about('R-410A').recover('A', 2).state())
    expect(line).not.toHaveProperty('startPa')
    expect(line).not.toHaveProperty('reboundPa')
  })
})
