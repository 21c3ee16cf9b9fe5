import { describe, expect, it } from 'vitest'
import { wrote as entry } from '../../../testing/an-entry'
import { type Entry, foldTape, holdVerdict, holdStands, nextStep, openTransfer, stageProgress } from '..'

const run = (runId: string, use: 'recover' | 'charge', weightMg: number) =>
  entry('run-started', { runId, use, cylinderId: 'A', scale: '', mode: 'gross', weightMg })
const end = (runId: string, weightMg: number) => entry('run-ended', { runId, weightMg, hoseMg: 0 })
const described = entry('job-described', { refrigerant: 'R-134a' }, 1)
const emptied = () => entry('recovery-ended', { how: 'emptied' })
const after = (...entries: Entry[]) => nextStep(foldTape([described, ...entries]))

let last = 0
/** A hold from one pressure to another, so many seconds long, after all that was noted before. */
function hold(fromPa: number, toPa: number, seconds: number): Entry[] {
  const holdId = `h${(last += 1e9)}`
  return [
    entry('hold-started', { holdId, pressurePa: fromPa }, last),
    entry('hold-ended', { holdId, pressurePa: toPa }, last + seconds * 1000),
  ]
}
const noLeak = () => entry('leak-checked', { method: 'nitrogen', found: false, text: '' })

describe('nextStep', () => {
  it('goes back to recover when another pull begins after the end', () => {
    const pulled = [run('a', 'recover', 12e6), end('a', 13e6), emptied()]
    expect(after(...pulled)).toBe('check-leaks')
    const again = [...pulled, run('b', 'recover', 13e6)]
    expect(after(...again)).toBe('note-weight')
    expect(after(...again, end('b', 13.1e6))).toBe('end-recovery')
  })
  it('asks for another hold after one that failed or was too short', () => {
    const before = [emptied(), noLeak(), entry('vacuum-noted', { pressurePa: 60 })]
    expect(after(...before)).toBe('hold-vacuum')
    expect(after(...before, ...hold(60, 64, 120))).toBe('hold-vacuum')
    expect(after(...before, ...hold(60, 300, 700))).toBe('pump-on-or-find-leak')
    expect(after(...before, ...hold(60, 75, 700))).toBe('set-target')
  })
  it('waits, and has nothing to say of what is finished', () => {
    expect(after(entry('job-waiting', { what: 'x' }))).toBe('wait')
    expect(after(entry('job-closed', {}))).toBe('nothing')
    expect(after(entry('job-cancelled', { reason: '' }))).toBe('nothing')
  })
  it('sends nobody to recover from what the books have empty, until somebody says otherwise', () => {
    const of = (massMg: number, ...entries: Entry[]) =>
      nextStep(foldTape([described, ...entries]), {
        books: { massMg, sigmaMg: 0 },
        plate: { massMg: 3e6, sigmaMg: 3e4 },
      })
    expect(of(0)).toBe('say-it-is-empty')
    expect(of(1)).toBe('choose-cylinder')
    // Who chooses one all the same means to recover.
    const chosen = entry('cylinder-chosen', { cylinderId: 'A', use: 'recover', massMg: null })
    expect(of(0, chosen)).toBe('start-recovery')
    expect(of(0, entry('recovery-ended', { how: 'never-filled' }))).toBe('check-leaks')
  })
  it('asks for the refrigerant only where neither it nor the system is known', () => {
    expect(nextStep(foldTape([entry('job-described', { title: 'x' })]))).toBe('describe-system')
    expect(nextStep(foldTape([entry('job-described', { systemId: 's' })]))).toBe('choose-cylinder')
  })
})

describe('openTransfer', () => {
  it('is the last one that has not ended', () => {
    const state = (...entries: Entry[]) => openTransfer(foldTape([described, ...entries]))?.transferId
    expect(state()).toBeUndefined()
    expect(state(run('a', 'recover', 1), end('a', 2))).toBeUndefined()
    expect(state(run('a', 'recover', 1), end('a', 2), run('b', 'charge', 5))).toBe('b')
  })
})

describe('holdVerdict', () => {
  it('judges each hold by its own readings, the last one counts', () => {
    const state = foldTape([described, ...hold(60, 400, 700), ...hold(55, 66, 700)])
    expect(state.holds.map((h) => holdVerdict(state, h).code)).toEqual(['hold-failed', 'tight-and-dry'])
    expect(holdStands(state)).toBe('passed')
  })
  it('takes readings between start and end with it', () => {
    const started = entry('hold-started', { holdId: 'h', pressurePa: 60 }, 1_000_000)
    const spike = entry('vacuum-noted', { pressurePa: 200 }, 1_300_000)
    const ended = entry('hold-ended', { holdId: 'h', pressurePa: 70 }, 1_700_000)
    const state = foldTape([started, spike, ended])
    expect(holdVerdict(state, state.holds[0]!).code).toBe('hold-failed')
  })
})

describe('stageProgress', () => {
  const progress = (...entries: Entry[]) => stageProgress(foldTape([described, ...entries]))
  it('is untouched, begun, done', () => {
    expect(progress()).toMatchObject({ prepare: 'begun', recover: 'untouched', charge: 'untouched' })
    expect(progress(run('a', 'recover', 1))).toMatchObject({ prepare: 'done', recover: 'begun' })
    expect(progress(run('a', 'recover', 1), end('a', 2), emptied())).toMatchObject({ recover: 'done' })
  })
  it('has the leak test done only when the last search found none', () => {
    const found = entry('leak-checked', { method: 'dye', found: true, text: 'flare' })
    expect(progress(found)['leak-test']).toBe('begun')
    expect(progress(found, noLeak())['leak-test']).toBe('begun')
    const repaired = entry('step-done', { step: 'repair-done' })
    expect(progress(found, repaired, noLeak())['leak-test']).toBe('done')
  })
  it('has oil done when as much went in as came out and parts took', () => {
    const oil = (direction: 'out' | 'parts' | 'in', volumeMl: number) =>
      entry('oil-noted', { direction, volumeMl, text: '' })
    expect(progress(oil('out', 30)).oil).toBe('begun')
    expect(progress(oil('out', 30), oil('parts', 10), oil('in', 30)).oil).toBe('begun')
    expect(progress(oil('out', 30), oil('parts', 10), oil('in', 40)).oil).toBe('done')
  })
  it('has the charge done when every charge has ended', () => {
    expect(progress(run('c', 'charge', 9e6)).charge).toBe('begun')
    expect(progress(run('c', 'charge', 9e6), end('c', 8e6)).charge).toBe('done')
  })
})
