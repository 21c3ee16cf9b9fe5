import { describe, expect, it } from 'vitest'
import {
  bookings,
  chargeLag,
  cylinderEffects,
  gasAt,
  nextStep,
  openPoints,
  RETROFIT_STEPS,
  targetMoved,
  targetsFor,
} from '.'
import { aCourse, type Course } from '../../testing/a-course'

const context = {
  books: null,
  plate: { massMg: 10_000_000, sigmaMg: 100_000 },
  trade: 'stationary' as const,
  metering: 'valve' as const,
  plateSubcoolingK: null,
}
/** 9.8 kg of the old gas out into one cylinder, then 9 kg of the new one in from another. */
const changed = (): Course =>
  aCourse()
    .about('R-404A', 's')
    .recover('old', 9.8)
    .end('emptied')
    .write('gas-changed', { to: 'R-448A', oilType: 'POE 32', platePct: 90, reason: '' })

describe('a job for a change of gas', () => {
  const planned = () => aCourse().about('R-404A', 's').write('retrofit-planned', {})
  it('recovers first, then asks for the new gas, before anything is evacuated or charged', () => {
    expect(nextStep(planned().state())).toBe('choose-cylinder')
    const empty = planned().recover('old', 9.8).end('emptied')
    expect(nextStep(empty.state())).toBe('change-gas')
    empty.write('gas-changed', { to: 'R-448A', oilType: 'POE 32', platePct: 90, reason: '' })
    expect(nextStep(empty.state())).not.toBe('change-gas')
  })
  it('is not finished while it holds the gas that it held', () => {
    const back = planned().recover('old', 9.8).end('emptied').target(9.8).charge('old', 9.8).state()
    expect(openPoints(back, context)).toContain('retrofit-open')
  })
})

describe('a change of gas', () => {
  it('books what came out as the old gas, and what went in as the new one', () => {
    const state = changed().target(9).charge('new', 9).state()
    expect(state.refrigerant).toBe('R-448A')
    expect(
      bookings(state).map(({ key, refrigerant, massMg }) => [key.split(':')[0], refrigerant, massMg]),
    ).toEqual([
      ['before', 'R-404A', 9_800_000],
      ['run', 'R-404A', 9_800_000],
      ['run', 'R-448A', 9_000_000],
    ])
    expect(gasAt(state, 0)).toBe('R-404A')
    expect(gasAt(state, state.lastAt)).toBe('R-448A')
  })
  it('marks the old gas’s cylinder as that, not as mixed', () => {
    const effects = cylinderEffects(
      changed().state(),
      new Map([['old', { refrigerant: 'R-404A', condition: 'clean' }]]),
    )
    expect(effects).toEqual([{ cylinderId: 'old', condition: 'used' }])
  })
  it('names an empty cylinder by the old gas', () => {
    const effects = cylinderEffects(
      changed().state(),
      new Map([['old', { refrigerant: null, condition: 'clean' }]]),
    )
    expect(effects[0]?.refrigerant).toBe('R-404A')
  })
  it('aims at a share of the plate: what came out says nothing of the new gas', () => {
    expect(targetsFor(changed().state(), context).map(({ basis, massMg }) => [basis, massMg])).toEqual([
      ['retrofit', 9_000_000],
    ])
  })
  it('has no target where nobody said how much: the plate speaks of the old gas, what came out as well', () => {
    const open = aCourse().about('R-404A', 's').recover('old', 9.8).end('emptied')
    open.write('gas-changed', { to: 'R-448A', oilType: 'POE 32', reason: '' })
    expect(targetsFor(open.state(), context)).toEqual([])
  })
  it('a target of a plate that was put right since is another now', () => {
    const course = changed().write('target-set', {
      massMg: 9_000_000,
      toleranceMg: 90_000,
      basis: 'retrofit',
    })
    expect(targetMoved(course.state(), context)).toBeUndefined()
    const righted = { ...context, plate: { massMg: 8_000_000, sigmaMg: 80_000 } }
    expect(targetMoved(course.state(), righted)).toBe(7_200_000)
    course.charge('new', 9)
    expect(openPoints(course.state(), context)).not.toContain('target-moved')
    expect(openPoints(course.state(), righted)).toContain('target-moved')
  })
  it('asks for drier, seals, oil, superheat and label before the close', () => {
    const course = changed().target(9).charge('new', 9)
    expect(openPoints(course.state(), context)).toContain('retrofit-open')
    for (const step of RETROFIT_STEPS) course.step(step)
    expect(openPoints(course.state(), context)).not.toContain('retrofit-open')
  })
  it('struck, it has not been', () => {
    const course = changed()
    course.write('correction', {
      entryId: course.entries.at(-1)!.entryId,
      kind: 'gas-changed',
      body: null,
      reason: 'another system',
    })
    expect(course.state().refrigerant).toBe('R-404A')
    expect(course.state().gasChanges).toEqual([])
  })
})

describe('more in it than the target', () => {
  it('a little taken out again is no recovery that has to be ended', () => {
    const course = aCourse().about('R-410A').recover('own', 3).end('emptied').target(3).charge('own', 3.1)
    course.write('charge-corrected', { way: 'out', massMg: 100_000, reason: 'overshot' }).recover('own', 0.1)
    const points = openPoints(course.state(), context)
    expect(points).not.toContain('recovery-not-ended')
    expect(points).not.toContain('charge-over')
    const now = course.state().episodes.at(-1)!
    expect(now.inMg - now.outMg).toBe(3_000_000)
  })
})

describe('chargeLag', () => {
  const weighed = (finalKg: number) => {
    const course = aCourse().about('R-410A').recover('own', 3).end('emptied').target(3)
    course.write('run-started', {
      runId: 'r',
      use: 'charge',
      cylinderId: 'own',
      scale: '',
      mode: 'gross',
      weightMg: 20_000_000,
    })
    // 30 g in three seconds, a moment before the end.
    course.wait(1).write('weight-noted', { runId: 'r', weightMg: 17_040_000 })
    course.wait(0.05).write('weight-noted', { runId: 'r', weightMg: 17_010_000 })
    course.wait(0.1).write('run-ended', { runId: 'r', weightMg: 20_000_000 - finalKg * 1e6 })
    return chargeLag(course.state())
  }
  it('what went in too much, at the rate that it flowed', () => {
    // 20 g at 10 g/s: two seconds.
    expect(weighed(3.02)?.seconds).toBeCloseTo(2, 6)
    expect(weighed(3.02)?.overMg).toBe(20_000)
  })
  it('closed before the target it tells nothing', () => {
    expect(weighed(2.9)).toBeUndefined()
  })
})
