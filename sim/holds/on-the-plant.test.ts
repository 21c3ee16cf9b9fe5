import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { judgeVacuum } from '#core/vacuum'
import { readScenario } from '../scenario'
import { evacuatedTimes } from './on-the-plant'

const json = JSON.parse(
  readFileSync(new URL('../scenario/scenarios/evacuate-wet.json', import.meta.url), 'utf8'),
) as { parameters: { vacuum: object; system: object } }
const plant = (vacuum: object) =>
  readScenario({
    ...json,
    parameters: { ...json.parameters, vacuum: { ...json.parameters.vacuum, ...vacuum } },
  })
const course = { toPa: 60, longestS: 3_600, holdS: 900 }
const ambientK = 293.15

describe('holds of the plant', () => {
  it('a wet store is wet, and dry after nitrogen and a second pumping: the rise fell', () => {
    const [first, second] = evacuatedTimes(plant({}), { ...course, times: 2 })
    // 5 g take about half an hour on 3/8 in (model.md: 26 min).
    expect(first!.pumpedS / 60).toBeGreaterThan(20)
    expect(first!.pumpedS / 60).toBeLessThan(35)
    const wet = judgeVacuum({ readings: first!.hold, ambientK })
    expect([wet.pass, wet.leak, wet.moisture]).toEqual([false, 'no', 'yes'])
    const dry = judgeVacuum({ readings: second!.hold, previous: first!.hold, ambientK })
    expect(dry.verdict.code).toBe('tight-and-dry')
    expect(dry.verdict.reasons.map(({ code }) => code)).toContain('rise-fell')
  })
  it('a leak stays what it is, however often it is pumped: 0.5 Pa/s in 11.25 L are 5.6 Pa L/s', () => {
    const volumeM3 = 11.25e-3
    const leakPaM3S = 0.5 * volumeM3
    const holds = evacuatedTimes(plant({ waterKg: 0, leakPaS: 0.5 }), { ...course, times: 2 })
    const [, second] = holds
    const found = judgeVacuum({
      readings: second!.hold,
      previous: holds[0]!.hold,
      ambientK,
      volumeM3: { least: volumeM3, most: volumeM3 },
    })
    expect([found.pass, found.leak]).toEqual([false, 'yes'])
    const flow = found.verdict.numbers.find(({ name }) => name === 'leak-flow')!
    expect(flow.least!).toBeLessThanOrEqual(leakPaM3S)
    expect(flow.most!).toBeGreaterThanOrEqual(leakPaM3S)
    expect(found.verdict.reasons.map(({ code }) => code)).toContain('rise-stayed')
  })
})
