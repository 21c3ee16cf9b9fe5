import { describe, expect, it } from 'vitest'
import { aCourse, type Course } from '../../../testing/a-course'
import { type JudgingContext, openPoints } from '..'

const KNOWS: JudgingContext = {
  books: null,
  plate: { massMg: 3_000_000, sigmaMg: 30_000 },
  trade: 'stationary',
  metering: 'valve',
  plateSubcoolingK: null,
}
const open = (course: Course) => openPoints(course.state(), KNOWS)
const judged = (course: Course) => course.write('gas-judged', { cylinderId: 'A', condition: 'used' })
/** A whole job, as far as the charge. */
const charged = (minutes = 12, kg = 3) =>
  judged(aCourse().about().recover('A', 3).end('emptied'))
    .search(false)
    .hold(450, 460, minutes)
    .target(3)
    .charge('B', kg)
const finished = (course: Course) => course.low(8).suction(10).step('caps-on').step('label-in-panel')

describe('what is open before a job is closed', () => {
  it('nothing after a whole job', () => expect(open(finished(charged()))).toEqual([]))
  it('nothing in a job in which nothing was done', () => expect(open(aCourse().about())).toEqual([]))
  it('after the charge: readings, caps and the label', () => {
    expect(open(charged())).toEqual(['readings-missing', 'caps', 'label'])
  })
  it('a hold of five minutes is too short; of twelve it is long enough', () => {
    expect(open(finished(charged(5)))).toEqual(['hold-cannot-tell'])
  })
  it('no hold, no leak test', () => {
    const course = judged(aCourse().about().recover('A', 3).end('emptied')).target(3).charge('B', 3)
    expect(open(finished(course))).toEqual(['no-leak-test', 'no-hold'])
  })
  it('of a charge that was shut in and let back: the circuit that was open has to be proved', () => {
    const shut = () => aCourse().about().end('shut-in')
    expect(open(shut())).toEqual([])
    expect(open(shut().step('valves-opened'))).toEqual(['no-leak-test', 'no-hold'])
    const proved = () => shut().search(false).hold(450, 460, 12)
    expect(open(proved().step('valves-opened'))).toEqual(['caps'])
    // More is wanted, and a little taken out: the circuit is the one that was open still.
    expect(open(judged(shut().step('valves-opened').recover('A', 0.2)))).toEqual([
      'recovery-not-ended',
      'no-leak-test',
      'no-hold',
      'caps',
    ])
  })
  it('a little more put in before it was shut in is a top-up still', () => {
    const topped = () => aCourse().about().charge('B', 0.3)
    expect(open(topped())).toContain('topped-up')
    expect(open(topped().end('shut-in'))).toContain('topped-up')
  })
  it('another gas that was named and not put in', () => {
    const changed = judged(aCourse().about().recover('A', 3).end('emptied'))
      .search(false)
      .hold(450, 460)
      .write('gas-changed', { to: 'R-32', oilType: 'POE', reason: 'x' })
    expect(open(changed)).toContain('no-charge')
  })
  it('less came out than should have, until somebody has looked for the leak or said why', () => {
    // A station says no verdict, and nobody asks it for one: the weight alone is enough.
    const short = () => judged(aCourse().about().recover('A', 2.1).end('emptied'))
    expect(open(short())).toContain('recovered-short')
    expect(open(short().search(false))).not.toContain('recovered-short')
    expect(open(judged(aCourse().about().recover('A', 2.97).end('emptied')))).not.toContain('recovered-short')
  })
  it('check readings that say that something is wrong', () => {
    // R-410A at 8 bar g evaporates at 1.7 C: a suction line of 30 C is 28 K too warm.
    const off = charged().low(8).wait(2).suction(30).step('caps-on').step('label-in-panel')
    expect(open(off)).toEqual(['readings-off'])
  })
  it('a charge that is short, or over', () => {
    // The tolerance of the course is 30 g.
    expect(open(finished(charged(12, 2.8)))).toEqual(['charge-short'])
    expect(open(finished(charged(12, 3.2)))).toEqual(['charge-over'])
  })
  it('a transfer that runs, and a recovery that nobody ended', () => {
    expect(open(aCourse().about().begin('recover', 'A', 1))).toEqual([
      'transfer-running',
      'gas-not-judged',
      'caps',
    ])
    expect(open(judged(aCourse().about().recover('A', 1)))).toEqual(['recovery-not-ended', 'caps'])
    expect(open(judged(aCourse().about().recover('A', 1).end('not-emptied')))).toContain('recovery-not-ended')
  })
  it('a unit that was taken away asks for no vacuum and no charge', () => {
    const course = judged(aCourse().about().recover('A', 3).end('emptied'))
      .step('unit-taken-away')
      .step('caps-on')
    expect(open(course)).toEqual([])
  })
  it('a little added asks for no leak test of an open circuit, but where it went', () => {
    expect(open(finished(aCourse().about().charge('B', 0.3)))).toEqual(['topped-up'])
    expect(open(finished(aCourse().about().search(false, 'detector').charge('B', 0.3)))).toEqual([])
    // What a full charge is judged by judges no top-up.
    expect(open(finished(aCourse().about().search(false).target(3).charge('B', 0.5)))).toEqual([])
    expect(open(aCourse().about().search(false).charge('B', 0.5))).toContain('label')
  })
  it('a leak that was found last, and parts that are still off', () => {
    const course = aCourse().about().step('repair-opened').search(true)
    expect(open(course)).toContain('leak-found')
    expect(open(course)).toContain('parts-back')
  })
  it('oil that came out and has not gone back', () => {
    const course = aCourse().about().write('oil-noted', { direction: 'out', volumeMl: 30, text: '' })
    expect(open(course)).toEqual(['oil-due'])
  })
})
