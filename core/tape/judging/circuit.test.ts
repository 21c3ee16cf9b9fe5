import { describe, expect, it } from 'vitest'
import { aCourse, type Course } from '../../../testing/a-course'
import { PA_PER_MICRON } from '../../units'
import { holdPassed } from '../../vacuum'
import {
  holdStands,
  judgeLastHold,
  type JudgingContext,
  leakKnown,
  nextStep,
  openPoints,
  stageProgress,
} from '..'

const KNOWS: JudgingContext = {
  books: null,
  plate: { massMg: 3_000_000, sigmaMg: 30_000 },
  trade: 'stationary',
  metering: 'valve',
  plateSubcoolingK: null,
}
const points = (course: Course) => openPoints(course.state(), KNOWS)
const next = (course: Course) => nextStep(course.state())
const empty = () => aCourse().about().recover('A', 3).end('emptied')
const tight = () => empty().search(false)
const dry = () => tight().vacuum(250).hold(240, 300)
const charged = (course: Course) => course.target(3).charge('B', 3)

/** A hold that was read every minute. */
function read(course: Course, micron: (minute: number) => number, minutes = 14): Course {
  const pa = (minute: number) => micron(minute) * PA_PER_MICRON
  course.write('hold-started', { holdId: 'read', pressurePa: pa(0) })
  for (let i = 1; i < minutes; i++)
    course.wait(1).write('vacuum-noted', { holdId: 'read', pressurePa: pa(i) })
  return course.wait(1).write('hold-ended', { holdId: 'read', pressurePa: pa(minutes) })
}

describe('whether the hold stands has one answer', () => {
  const ROWS: [string, Course, ReturnType<typeof holdStands>, string, string][] = [
    [
      'it held',
      read(tight().vacuum(200), (m) => 200 + 40 * (1 - Math.exp(-m / 3))),
      'passed',
      'set-target',
      '',
    ],
    [
      'it fell: the pump was never valved off',
      read(tight().vacuum(300), (m) => 300 - 7 * m),
      'cannot-tell',
      'hold-vacuum',
      'hold-cannot-tell',
    ],
    // 20 micron a minute, dead straight for half an hour: 800 at its end, below 1,000.
    [
      'it stayed below the limit, and leaks',
      read(tight().vacuum(200), (m) => 200 + 20 * m, 30),
      'leaking',
      'pump-on-or-find-leak',
      'hold-leaking',
    ],
    [
      'it rose above the limit',
      tight().vacuum(400).hold(400, 1_300),
      'failed',
      'pump-on-or-find-leak',
      'hold-failed',
    ],
    ['it began at 700 micron', tight().vacuum(700).hold(700, 720), 'pump-on', 'evacuate', 'hold-failed'],
    // 20 % of 990 is 198: it may have been 1,190.
    [
      '990 of 1,000 micron on a gauge of 20 %',
      tight().vacuum(400).hold(400, 990),
      'cannot-tell',
      'evacuate',
      'hold-cannot-tell',
    ],
    ['five minutes', tight().vacuum(400).hold(400, 420, 5), 'cannot-tell', 'hold-vacuum', 'hold-cannot-tell'],
  ]
  it.each(ROWS)('%s', (_, course, stands, step, point) => {
    const state = course.state()
    expect(holdStands(state)).toBe(stands)
    // The card, the run sheet, the next step and the open points say the same.
    expect(holdPassed(judgeLastHold(state, KNOWS)!.code)).toBe(stands === 'passed')
    expect(stageProgress(state).evacuate === 'done').toBe(stands === 'passed')
    expect(nextStep(state)).toBe(step)
    const hold = points(charged(course)).filter((each) => each.includes('hold'))
    expect(hold).toEqual(point ? [point] : [])
  })

  it('on a manifold gauge needs a depth that it can show', () => {
    const plan = {
      method: 'timed',
      gaugeAt: 'system',
      hose: '1/4',
      lengthM: 1.5,
      coresOut: false,
      pumpM3S: 1e-3,
      targetPa: 66,
      targetFrom: 'shop',
    } as const
    const held = (fromPa: number, toPa: number) => {
      const course = tight().write('vacuum-planned', plan).write('vacuum-noted', { pressurePa: fromPa })
      course.write('hold-started', { holdId: 'm', pressurePa: fromPa })
      return course.wait(6).write('hold-ended', { holdId: 'm', pressurePa: toPa }).state()
    }
    // 29 inHg below zero is 3.1 kPa; 57,700 micron is 7.7 kPa, 27.7 inHg.
    expect(holdStands(held(3_100, 3_100))).toBe('passed')
    expect(holdStands(held(57_700 * PA_PER_MICRON, 57_800 * PA_PER_MICRON))).toBe('pump-on')
    expect(nextStep(held(57_700 * PA_PER_MICRON, 57_800 * PA_PER_MICRON))).toBe('evacuate')
  })
})

describe('what is done on the circuit voids what was proved of it before', () => {
  it('stands while nothing is done', () => {
    expect(next(dry())).toBe('set-target')
    expect(points(charged(dry()))).not.toContain('no-hold')
  })
  it.each([
    ['a joint opened', (course: Course) => course.step('repair-opened')],
    ['a new drier', (course: Course) => course.step('repair-drier')],
    [
      'a new valve',
      (course: Course) => course.write('part-replaced', { part: 'valve', number: '', text: '' }),
    ],
    ['nitrogen let in', (course: Course) => course.write('nitrogen-let-in', { pressurePa: 120_000 })],
  ])('%s: leak test, vacuum and hold again', (_, act) => {
    expect(next(act(dry()))).toBe('check-leaks')
    expect(holdStands(act(dry()).state())).toBe('none')
    const open = points(charged(act(dry())))
    expect(open).toContain('no-leak-test')
    expect(open).toContain('no-hold')
    // And once all of it is done again, it stands again.
    expect(next(act(dry()).search(false).vacuum(250).hold(240, 300))).toBe('set-target')
  })
  it('a fan is changed with the circuit shut', () => {
    expect(next(dry().write('part-replaced', { part: 'fan', number: '', text: '' }))).toBe('set-target')
  })
  it('a pressure test is a leak test, and puts nitrogen in: never a charge, nor a hold, on that', () => {
    const again = (course: Course) =>
      course
        .write('pressure-test-started', { testId: 't', part: 'whole', pressurePa: 2.5e6, tempK: 293 })
        .wait(60)
        .write('pressure-test-ended', { testId: 't', pressurePa: 2.5e6, tempK: 293 })
    expect(next(again(dry()))).toBe('evacuate')
    expect(next(again(dry()).vacuum(250))).toBe('hold-vacuum')
    expect(points(charged(again(dry())))).toContain('no-hold')
  })
  it('nitrogen between two vacuums dries, and asks for no new leak test', () => {
    const triple = tight().vacuum(1_000).write('nitrogen-let-in', { pressurePa: 120_000 })
    expect(next(triple)).toBe('evacuate')
    expect(next(triple.vacuum(250))).toBe('hold-vacuum')
    expect(next(triple.hold(240, 300))).toBe('set-target')
  })
  it('what is ticked once gas is in it was done before', () => {
    expect(points(charged(dry()).step('repair-drier'))).not.toContain('no-hold')
  })
})

describe('an overruling is of one verdict', () => {
  const judged = (course: Course, about: 'hold' | 'charge', code: string, numbers: object[]) =>
    course.write('verdict-given', {
      about,
      verdict: { outcome: 'bad', code, reasons: [], numbers, rule: { code: 'hold-below-limit' } },
      engine: 0,
      tables: 1,
    } as never)
  const overruled = (course: Course) =>
    course.write('verdict-overruled', { entryId: course.entries.at(-1)!.entryId, reason: 'a slow gauge' })
  const pa = (name: string, micron: number) => ({ name, value: micron * PA_PER_MICRON, unit: 'Pa' })

  it('of a hold: the next one that rises is open again', () => {
    const first = overruled(
      judged(tight().vacuum(400).hold(400, 1_300), 'hold', 'hold-failed', [
        pa('start', 400),
        pa('end', 1_300),
        pa('highest', 1_300),
      ]),
    )
    expect(points(charged(first))).not.toContain('hold-failed')
    const again = overruled(
      judged(tight().vacuum(400).hold(400, 1_300), 'hold', 'hold-failed', [
        pa('start', 400),
        pa('end', 1_300),
        pa('highest', 1_300),
      ]),
    )
    expect(points(charged(again.vacuum(400).hold(400, 20_000)))).toContain('hold-failed')
  })
  it('of a charge: what goes in afterwards is open again', () => {
    const kg = (name: string, value: number) => ({ name, value, unit: 'kg' })
    const over = () =>
      overruled(
        judged(dry().target(3).charge('B', 3.1), 'charge', 'over', [
          kg('charged', 3.1),
          kg('target', 3),
          kg('tolerance', 0.03),
        ]),
      )
    expect(points(over())).not.toContain('charge-over')
    expect(points(over().charge('B', 1.5))).toContain('charge-over')
  })
})

describe('a leak that was found', () => {
  const found = () => aCourse().about().search(true, 'detector')
  it('stands until it is repaired, or called a false alarm', () => {
    expect(leakKnown(found().state())).toBe(true)
    expect(leakKnown(found().step('repair-done').state())).toBe(false)
    const denied = found().write('leak-checked', {
      method: 'detector',
      found: false,
      text: 'solvent on a rag',
      falseAlarm: true,
    })
    expect(leakKnown(denied.state())).toBe(false)
    expect(leakKnown(denied.search(true, 'bubbles').state())).toBe(true)
  })
  it('is not cleared by a rougher search that finds none', () => {
    const course = found().search(false, 'bubbles')
    expect(leakKnown(course.state())).toBe(true)
    expect(points(course)).toContain('leak-found')
    expect(next(course.recover('A', 3).end('emptied'))).toBe('repair')
  })
  it('is known from the plan, too', () => {
    const plan = {
      method: 'vapour-only',
      port: 'vapour',
      hose: '1/4',
      coresOut: false,
      level: 'leaking',
    } as const
    const course = () => aCourse().about().write('recovery-planned', plan)
    expect(leakKnown(course().state())).toBe(true)
    expect(leakKnown(course().step('repair-done').state())).toBe(false)
    expect(
      leakKnown(
        course()
          .write('recovery-planned', { ...plan, level: 'appliance' })
          .state(),
      ),
    ).toBe(false)
  })
})
