import { HOLD_RULE, type HoldReading, type HoldRule, MANIFOLD_RULE } from '../../vacuum'
import type { Hold, VacuumPlan } from '../chapters/evacuation'
import type { JobState } from '../envelope/state'

/** A hold that other work followed, or that began this long before anything noted since, is forgotten, ms. */
const FORGOTTEN_MS = 3 * 3_600_000

/** The hold that is being watched; one that other work followed was forgotten, and blocks nothing. */
export function runningHold(state: JobState): Hold | undefined {
  const hold = state.holds.findLast((each) => each.endedAt === undefined)
  if (!hold) return undefined
  const later =
    state.transfers.some((each) => each.startedAt > hold.startedAt) ||
    state.leakChecks.some((each) => each.at > hold.startedAt) ||
    state.holds.some((each) => each.startedAt > hold.startedAt) ||
    state.lastAt - hold.startedAt > FORGOTTEN_MS
  return later ? undefined : hold
}

/** What a hold has to keep to: the plan's target, else common practice. */
export function holdRule({ vacuumPlan }: { vacuumPlan: VacuumPlan | null }): HoldRule {
  if (!vacuumPlan) return HOLD_RULE
  const { targetPa, method } = vacuumPlan
  if (method === 'timed') return MANIFOLD_RULE
  // As common practice has it, the limit is twice the target.
  return { ...HOLD_RULE, targetPa, limitPa: 2 * targetPa }
}

/** What this hold has to keep to, or had to. */
export function ruleOf(state: Pick<JobState, 'vacuumPlan'>, hold: Hold): HoldRule {
  return holdRule({ vacuumPlan: hold.endedAt === undefined ? state.vacuumPlan : (hold.plan ?? null) })
}

/** All that was read in a hold, from valving off: a live gauge's curve with the notes beside it. */
export function readingsOf({ startedAt, readings, curve }: Hold): HoldReading[] {
  const noted = readings.map((each) => ({ atS: (each.at - startedAt) / 1000, pressurePa: each.pressurePa }))
  if (!curve || curve.length < noted.length) return noted
  // A spike that somebody noted counts beside the curve.
  const last = noted.at(-1)!
  return last.atS > curve.at(-1)!.atS ? [...curve, last] : curve
}

/** The hold before it on the same circuit: pumped in between, nothing repaired, nothing let in. */
export function holdBefore(state: JobState, hold: Hold): Hold | undefined {
  const before = state.holds.findLast(
    (each) => each.endedAt !== undefined && each.endedAt <= hold.startedAt && each.holdId !== hold.holdId,
  )
  if (!before) return undefined
  const between = ({ at }: { at: number }) => at > before.endedAt! && at < hold.startedAt
  const opened =
    state.steps.some((each) => each.step.startsWith('repair-') && between(each)) ||
    state.transfers.some((each) => between({ at: each.startedAt }))
  return opened ? undefined : before
}
