// Real courses of work: what happened, what comes next, how far each stage is.
import { describe, expect, it } from 'vitest'
import { aCourse, type Course } from '../../testing/a-course'
import { type NextStep, nextStep, runsOn, type Stage, stageProgress } from '.'

const opened = () => aCourse().about().choose('recover', 'A', 3)
const pulled = () => opened().recover('A', 3).end('emptied')
const tight = () => pulled().search(false)
const dry = () => tight().vacuum(480).hold(430, 520)
const charged = () => dry().target(3).choose('charge', 'A').charge('A', 3)

type Row = [name: string, course: Course, next: NextStep, done: Stage[], begun?: Stage[]]

const COURSES: Row[] = [
  ['nothing is known', aCourse().write('job-described', { title: 'van' }), 'describe-system', []],
  ['only the refrigerant is known', aCourse().about(), 'choose-cylinder', [], ['prepare']],
  ['a cylinder is chosen', opened(), 'start-recovery', ['prepare']],
  ['the recovery runs', opened().begin('recover', 'A', 1), 'note-weight', ['prepare'], ['recover']],
  ['the transfer has ended', opened().recover('A', 3), 'end-recovery', ['prepare'], ['recover']],
  [
    'the first of two planned cylinders is full',
    opened().choose('recover', 'B', 2).recover('A', 3),
    'next-cylinder',
    ['prepare'],
    ['recover'],
  ],
  [
    'both planned cylinders have taken it',
    opened().choose('recover', 'B', 2).recover('A', 3).recover('B', 2),
    'end-recovery',
    ['prepare'],
    ['recover'],
  ],
  ['emptied', pulled(), 'check-leaks', ['prepare', 'recover']],
  [
    'nothing came out of a shut valve',
    opened().recover('A', 0).end('not-emptied'),
    'pull-again',
    ['prepare'],
    ['recover'],
  ],
  [
    'stopped before it was empty',
    opened().recover('A', 2).end('not-emptied'),
    'pull-again',
    ['prepare'],
    ['recover'],
  ],
  [
    '"emptied" against a gauge that says otherwise',
    opened().recover('A', 2).low(3).end('emptied'),
    'pull-again',
    ['prepare'],
    ['recover'],
  ],
  ['another pull after the end', pulled().recover('A', 0.1), 'end-recovery', ['prepare'], ['recover']],
  ['the charge was gone', opened().end('lost'), 'check-leaks', ['prepare', 'recover']],
  ['recovered elsewhere', opened().end('elsewhere'), 'check-leaks', ['prepare', 'recover']],
  [
    'the unit is taken away after the recovery',
    pulled().step('unit-taken-away'),
    'close-job',
    ['prepare', 'recover'],
  ],
  [
    'a search before the opening is not the test after it',
    aCourse().about().search(false, 'detector').choose('recover', 'A').recover('A', 3).end('emptied'),
    'check-leaks',
    ['prepare', 'recover'],
    ['leak-test'],
  ],
  ['a leak found wants a repair', pulled().search(true), 'repair', ['prepare', 'recover'], ['leak-test']],
  [
    'after the repair it is tested again',
    pulled().search(true).step('repair-done'),
    'check-leaks',
    ['prepare', 'recover', 'repair'],
    ['leak-test'],
  ],
  ['tight', tight(), 'evacuate', ['prepare', 'recover', 'leak-test']],
  [
    '20,000 micron: pump on, do not hold',
    tight().vacuum(20_000),
    'evacuate',
    ['prepare', 'recover', 'leak-test'],
    ['evacuate'],
  ],
  [
    'at 480 micron: hold',
    tight().vacuum(480),
    'hold-vacuum',
    ['prepare', 'recover', 'leak-test'],
    ['evacuate'],
  ],
  [
    'the hold runs',
    tight().vacuum(480).holding(430),
    'watch-hold',
    ['prepare', 'recover', 'leak-test'],
    ['evacuate'],
  ],
  [
    'a hold that failed',
    tight().vacuum(480).hold(430, 1800),
    'pump-on-or-find-leak',
    ['prepare', 'recover', 'leak-test'],
    ['evacuate'],
  ],
  [
    'pumped down again after a failed hold',
    tight().vacuum(480).hold(430, 1800).vacuum(470),
    'hold-vacuum',
    ['prepare', 'recover', 'leak-test'],
    ['evacuate'],
  ],
  [
    'a shallow hold is not done',
    tight().vacuum(900).hold(800, 850),
    'evacuate',
    ['prepare', 'recover', 'leak-test'],
    ['evacuate'],
  ],
  [
    'a hold that was too short',
    tight().vacuum(480).hold(430, 450, 3),
    'hold-vacuum',
    ['prepare', 'recover', 'leak-test'],
    ['evacuate'],
  ],
  ['tight and dry', dry(), 'set-target', ['prepare', 'recover', 'leak-test', 'evacuate']],
  [
    'a target is set',
    dry().target(3),
    'choose-charge-cylinder',
    ['prepare', 'recover', 'leak-test', 'evacuate'],
    ['charge'],
  ],
  [
    'a cylinder to charge from',
    dry().target(3).choose('charge', 'A'),
    'start-charge',
    ['evacuate'],
    ['charge'],
  ],
  [
    'charging',
    dry().target(3).choose('charge', 'A').begin('charge', 'A', 1),
    'charge-on',
    ['evacuate'],
    ['charge'],
  ],
  [
    'a forgotten hold does not block',
    tight().vacuum(480).holding(430).target(3).choose('charge', 'A').begin('charge', 'A', 1),
    'charge-on',
    ['recover'],
    ['evacuate', 'charge'],
  ],
  [
    'part of the charge is in',
    dry().target(3).choose('charge', 'A').charge('A', 1.8),
    'go-on-charging',
    ['evacuate'],
    ['charge'],
  ],
  [
    'the rest came from a second cylinder',
    dry().target(3).choose('charge', 'A').charge('A', 1.8).charge('B', 1.2),
    'note-readings',
    ['evacuate', 'charge'],
  ],
  ['charged', charged(), 'note-readings', ['evacuate', 'charge']],
  [
    'a little too much was taken out again',
    dry().target(3).choose('charge', 'A').charge('A', 3.2).recover('A', 0.2),
    'note-readings',
    ['charge'],
  ],
  ['one pressure alone is no check', charged().low(8), 'note-readings', ['charge'], ['verify']],
  [
    'pressures of the recovery are no check readings',
    dry().low(0).suction(20).target(3).choose('charge', 'A').charge('A', 3),
    'note-readings',
    ['charge'],
  ],
  ['checked', charged().wait(5).low(8).wait(1).suction(12), 'close-job', ['charge'], ['verify']],
  [
    'a leak is found after the charge',
    charged().search(true, 'bubbles'),
    'start-recovery',
    ['charge'],
    ['leak-test'],
  ],
  [
    'recovered a second time',
    charged().search(true).recover('A', 2.9).end('emptied'),
    'repair',
    ['recover'],
    ['leak-test'],
  ],
  [
    'charged a second time',
    charged()
      .search(true)
      .recover('A', 2.9)
      .end('emptied')
      .step('repair-done')
      .search(false)
      .vacuum(400)
      .hold(400, 450)
      .charge('A', 3),
    'note-readings',
    ['recover', 'charge', 'evacuate'],
  ],
  ['a top-up without a recovery', aCourse().about().charge('B', 0.4), 'note-readings', ['prepare', 'charge']],
  [
    'a new or evacuated system is charged',
    aCourse().about().search(false).vacuum(450).hold(400, 450),
    'set-target',
    ['evacuate', 'leak-test'],
    ['prepare'],
  ],
  [
    'vacuum while a half recovered charge is in there',
    opened().recover('A', 1).vacuum(900),
    'account-for-gas',
    ['prepare'],
    ['recover', 'evacuate'],
  ],
  ['shut in', opened().end('shut-in'), 'check-leaks', ['prepare', 'recover']],
  [
    'shut in, the rest is dry',
    opened().end('shut-in').search(false).vacuum(450).hold(400, 450),
    'open-valves',
    ['recover', 'evacuate'],
  ],
  [
    'shut in, valves open again',
    opened().end('shut-in').search(false).vacuum(450).hold(400, 450).step('valves-opened'),
    'note-readings',
    ['recover', 'evacuate'],
  ],
  [
    'valves open again, and nothing was proved: nobody opens it now',
    opened().end('shut-in').step('valves-opened'),
    'note-readings',
    ['recover'],
  ],
  [
    'another gas is planned, and the old one waits behind the valves',
    opened().write('retrofit-planned', {}).end('shut-in').search(false).vacuum(450).hold(400, 450),
    'open-valves',
    ['recover', 'evacuate'],
  ],
  ['waiting for a part', pulled().write('job-waiting', { what: 'x' }), 'wait', ['recover']],
  ['closed', charged().write('job-closed', {}), 'nothing', ['close']],
  [
    'opened again',
    charged().wait(5).low(8).suction(12).write('job-closed', {}).write('job-reopened', { reason: '' }),
    'close-job',
    ['charge'],
  ],
]

describe('a course of work', () => {
  it('is told by at least thirty', () => expect(COURSES.length).toBeGreaterThanOrEqual(30))
  it.each(COURSES)('%s', (_name, course, next, done, begun = []) => {
    const state = course.state()
    expect(nextStep(state)).toBe(next)
    const progress = stageProgress(state)
    for (const stage of done) expect([stage, progress[stage]]).toEqual([stage, 'done'])
    for (const stage of begun) expect([stage, progress[stage]]).toEqual([stage, 'begun'])
  })
})

describe('what a running transfer keeps', () => {
  it('its cylinder and its scale: nobody else is offered either', () => {
    const course = aCourse().about()
    const start = { runId: 'r', use: 'recover', cylinderId: 'A', scale: 'Bench scale', scaleId: 'S' } as const
    course.write('run-started', { ...start, mode: 'gross', weightMg: 20e6 })
    expect(runsOn(course.state())).toEqual(['A', 'S'])
    course.write('run-ended', { runId: 'r', weightMg: 21e6 })
    expect(runsOn(course.state())).toEqual([])
  })
})
