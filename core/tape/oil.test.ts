import { describe, expect, it } from 'vitest'
import { needsClearing, oilDueMl, oilMoves, openPoints } from '.'
import { aCourse } from '../../testing/a-course'

const context = {
  books: null,
  plate: null,
  trade: 'vehicle' as const,
  metering: 'unknown' as const,
  plateSubcoolingK: null,
}
const vehicle = () => aCourse().about('R-1234yf')

describe('oil', () => {
  it('nothing out and nothing replaced: nothing in', () => {
    expect(oilDueMl(vehicle().state())).toBe(0)
  })
  it('the drain bottle before and after, and what the new parts took', () => {
    const course = vehicle()
      .write('drain-read', { when: 'before', volumeMl: 120 })
      .write('drain-read', { when: 'after', volumeMl: 135 })
      .write('part-replaced', { part: 'condenser', number: '', text: '', oilMl: 30 })
    expect(oilDueMl(course.state())).toBe(45)
    course.write('oil-noted', { direction: 'in', volumeMl: 45, text: '', oil: 'PAG' })
    expect(oilDueMl(course.state())).toBe(0)
  })
  it('too much is open: 90 mL beyond what came out, and not what an injector rounds up', () => {
    const over = (inMl: number) =>
      openPoints(
        vehicle()
          .write('oil-noted', { direction: 'out', volumeMl: 41, text: '' })
          .write('oil-noted', { direction: 'in', volumeMl: inMl, text: '', oil: 'POE' })
          .state(),
        context,
      )
    expect(over(131)).toContain('oil-over')
    expect(over(50)).not.toContain('oil-over')
  })
  it('a bottle that was emptied meanwhile tells nothing', () => {
    const course = vehicle()
      .write('drain-read', { when: 'before', volumeMl: 120 })
      .write('drain-read', { when: 'after', volumeMl: 10 })
    expect(oilDueMl(course.state())).toBe(0)
  })
  it('every millilitre is somewhere', () => {
    const state = vehicle()
      .write('drain-read', { when: 'before', volumeMl: 0 })
      .write('drain-read', { when: 'after', volumeMl: 15 })
      .write('oil-noted', { direction: 'parts', volumeMl: 30, text: '' })
      .write('oil-noted', { direction: 'in', volumeMl: 45, text: '', oil: 'POE', bottleId: 'b' })
      .write('dye-noted', { volumeMl: 7, text: '' })
      .state()
    expect(oilMoves(state).map(({ what, from, to, volumeMl }) => [what, from, to, volumeMl])).toEqual([
      ['oil', 'system', 'waste', 15],
      ['oil', 'system', 'part', 30],
      ['oil', 'bottle', 'system', 45],
      ['dye', 'unnamed', 'system', 7],
    ])
  })
  it('what is struck moved nothing', () => {
    const course = vehicle().write('oil-noted', { direction: 'in', volumeMl: 45, text: '' })
    course.write('correction', {
      entryId: course.entries.at(-1)!.entryId,
      kind: 'oil-noted',
      version: 2,
      body: null,
      reason: 'slip',
    })
    expect(oilMoves(course.state())).toEqual([])
  })
  it('dye is remembered, whichever way it came', () => {
    expect(vehicle().state().dyed).toBe(false)
    expect(
      vehicle().write('oil-noted', { direction: 'parts', volumeMl: 0, text: '', dyed: true }).state().dyed,
    ).toBe(true)
    expect(
      vehicle().write('oil-noted', { direction: 'out', volumeMl: 9, text: '', dyed: true }).state().dyed,
    ).toBe(false)
  })
})

describe('a high-voltage compressor', () => {
  const highVoltage = () => vehicle().write('drive-noted', { drive: 'high-voltage' })
  it('gets no oil before somebody has cleared the way', () => {
    expect(needsClearing(vehicle().state())).toBe(false)
    expect(needsClearing(highVoltage().state())).toBe(true)
    const cleared = highVoltage().write('oil-cleared', { how: 'own-tool', who: 'Teo' })
    expect(needsClearing(cleared.state())).toBe(false)
  })
  it('PAG in it is never lost from sight', () => {
    const state = highVoltage()
      .write('oil-noted', { direction: 'in', volumeMl: 20, text: '', oil: 'PAG' })
      .state()
    expect(state.flags).toContain('oil-wrong-for-drive')
    expect(openPoints(state, context)).toContain('oil-wrong')
    const right = highVoltage().write('oil-noted', { direction: 'in', volumeMl: 20, text: '', oil: 'POE' })
    expect(right.state().flags).toEqual([])
  })
  it('in either order, and no more once it is struck', () => {
    const course = vehicle().write('oil-noted', { direction: 'in', volumeMl: 20, text: '', oil: 'PAG' })
    const { entryId } = course.entries.at(-1)!
    course.write('drive-noted', { drive: 'belt' })
    expect(course.state().flags).toEqual([])
    course.write('drive-noted', { drive: 'high-voltage' })
    expect(openPoints(course.state(), context)).toContain('oil-wrong')
    course.write('correction', { entryId, kind: 'oil-noted', version: 2, body: null, reason: 'other bottle' })
    expect(openPoints(course.state(), context)).not.toContain('oil-wrong')
  })
})
