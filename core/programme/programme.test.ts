import { describe, expect, it } from 'vitest'
import {
  type KnownOfSystem,
  type PlannedStep,
  PROGRAMME_STEPS,
  programmeProblems,
  programmeQuestions,
  programmeTakesS,
  USUAL_STEPS,
} from '.'

const usual = (over: Partial<Record<PlannedStep['step'], Partial<PlannedStep>>> = {}): PlannedStep[] =>
  PROGRAMME_STEPS.map((step) => ({
    step,
    ...USUAL_STEPS[step],
    ...(step === 'charge' && { massMg: 550_000 }),
    ...((step === 'oil-in' || step === 'dye') && { bottleId: 'b' }),
    ...over[step],
  }))
const NEW = { emptied: false, inItMg: 0, fullMg: 550_000, dyed: false }
const without = (...steps: PlannedStep['step'][]) => usual().filter((each) => !steps.includes(each.step))

describe('a programme', () => {
  it('goes down to 102 mmHg below the air around: 13 599 Pa of 101 325', () => {
    expect(USUAL_STEPS.recover.downToPa).toBe(87_726)
  })
  it('as it is usually done may be run, and any step but what others need may be left out', () => {
    expect(programmeProblems(usual(), NEW)).toEqual([])
    for (const step of PROGRAMME_STEPS)
      if (step !== 'recover') expect(programmeProblems(without(step), NEW)).toEqual([])
  })
  it('takes its own times and the usual ones of the rest', () => {
    // 3 + 5 + 20 + 10 + 5 min of its own; 60 + 60 + 240 + 30 + 30 + 20 + 120 + 60 + 120 s beside them.
    expect(programmeTakesS(usual())).toBe(43 * 60 + 740)
  })
  it.each<[string, PlannedStep[], KnownOfSystem, string]>([
    ['nothing to do', [], NEW, 'no-step'],
    ['a charge without its weight', usual({ charge: { massMg: undefined as never } }), NEW, 'no-amount'],
    ['a hold of seconds', usual({ hold: { forS: 10 } }), NEW, 'out-of-range'],
    ['a charge on top of what is in it', without('recover'), NEW, 'charge-not-emptied'],
    ['oil from nowhere', usual({ 'oil-in': { bottleId: undefined as never } }), NEW, 'no-oil-bottle'],
    ['dye from nowhere', usual({ dye: { bottleId: undefined as never } }), NEW, 'no-dye-bottle'],
    ['dye twice', usual(), { ...NEW, dyed: true }, 'dyed-already'],
    ['charge before vacuum', [...without('vacuum'), { step: 'vacuum', forS: 600 }], NEW, 'order'],
  ])('%s is said', (_, steps, known, code) => {
    expect(programmeProblems(steps, known).map((each) => each.code)).toEqual([code])
  })
  it('ten times its charge is a slip, and so is a second one on top of the first', () => {
    const charge = (massMg: number, known: Partial<KnownOfSystem>) =>
      programmeProblems([{ step: 'charge', massMg }], { ...NEW, emptied: true, ...known }).map((e) => e.code)
    expect(charge(605_000, {})).toEqual([])
    expect(charge(606_000, {})).toEqual(['too-much'])
    expect(charge(550_000, { inItMg: 550_000 })).toEqual(['too-much'])
    expect(charge(467_500, { inItMg: 82_500 })).toEqual([])
    // Where nobody knows what belongs into it, nothing can be said.
    expect(charge(5_500_000, { fullMg: null })).toEqual([])
    // What is in it comes out first.
    expect(programmeProblems(usual(), { ...NEW, inItMg: 550_000 })).toEqual([])
  })
  it('a charge without a vacuum and a hold that stand is asked about', () => {
    expect(programmeQuestions(usual(), false)).toEqual([])
    for (const step of ['vacuum', 'hold'] as const)
      expect(programmeQuestions(without(step), false)).toEqual(['charge-unproved'])
    expect(programmeQuestions(without('recover', 'vacuum', 'hold'), true)).toEqual([])
    // Emptied first, what stood before is of another filling.
    expect(programmeQuestions(without('vacuum', 'hold'), true)).toEqual(['charge-unproved'])
    expect(programmeQuestions(without('vacuum', 'charge'), false)).toEqual([])
  })
  it('a charge alone goes where this job has emptied the system', () => {
    expect(programmeProblems(without('recover'), { ...NEW, emptied: true })).toEqual([])
  })
})
