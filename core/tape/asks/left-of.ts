import { type PlannedStep, PROGRAMME_STEPS, type ProgrammeStep, USUAL_STEPS } from '../../programme'
import { oilDueMl } from '../chapters/oil'
import type { Programme } from '../chapters/programme'
import { holdStands } from '../judging/circuit'
import type { JobState } from '../envelope/state'

/** Less than this is within what a station's scale tells, mg: nothing is left to charge. */
const NOTHING_MG = 10_000
/** And less than this within what its bottle tells, mL. */
const NOTHING_ML = 5

/**
 * What another programme would go on with: steps that were not done, and what was done and does not stand. A hold that did not
 * pass takes its vacuum with it; oil that came out goes back; of a charge that was broken off, what has not gone in.
 */
export function leftOf(programme: Programme, state: JobState): PlannedStep[] {
  const { steps, course } = programme
  const done = new Set(course.flatMap((each) => (each.doneAt === undefined ? [] : [each.step])))
  const again = holdAgain(programme, state) ? new Set<ProgrammeStep>(['vacuum', 'hold']) : new Set()
  return PROGRAMME_STEPS.flatMap((step): PlannedStep[] => {
    const planned = steps.find((each) => each.step === step)
    if (again.has(step)) return [planned ?? { step, ...USUAL_STEPS[step] }]
    if (step === 'oil-in') return oilIn(planned, done, state)
    if (!planned || done.has(step)) return []
    return step === 'charge' ? charge(planned, programme, state) : [planned]
  })
}

/** Where gas has gone in since, the vacuum had its time. */
function holdAgain({ steps, course }: Programme, state: JobState): boolean {
  const gasIn = course.some((each) => each.step === 'charge') && state.chargedMg > 0
  return !gasIn && steps.some((each) => each.step === 'hold') && holdStands(state) !== 'passed'
}

/** By the balance of the whole job, whatever a programme has drained or put in; parts that nobody noted come on top. */
function oilIn(planned: PlannedStep | undefined, done: ReadonlySet<ProgrammeStep>, state: JobState) {
  const dueMl = Math.max(0, oilDueMl(state))
  if (planned && !done.has('oil-in')) {
    if (!done.has('oil-out')) return [planned]
    const unnotedMl = Math.max(0, (planned.volumeMl ?? 0) - state.oil.partsMl)
    return [{ ...planned, volumeMl: dueMl + unnotedMl, withDrained: false }]
  }
  if (dueMl <= NOTHING_ML) return []
  return [{ step: 'oil-in' as const, ...planned, volumeMl: dueMl, withDrained: false }]
}

function charge(planned: PlannedStep, { course }: Programme, { chargedMg }: JobState): PlannedStep[] {
  const begun = course.some((each) => each.step === 'charge')
  if (!begun || planned.massMg === undefined) return [planned]
  const massMg = planned.massMg - chargedMg
  return massMg < NOTHING_MG ? [] : [{ ...planned, massMg }]
}
