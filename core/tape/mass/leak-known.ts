import type { JobState } from '../envelope/state'

/**
 * Whether there is a leak that is not repaired yet: one that was found, or was planned for. It stands until a repair is
 * noted, or until it is called a false alarm: a search that finds none may have been rougher than the one that found it.
 */
export function leakKnown(state: Pick<JobState, 'leakChecks' | 'steps' | 'plan'>): boolean {
  const at = leakSaidAt(state)
  if (at === undefined) return false
  return !state.steps.some((each) => each.step === 'repair-done' && each.at >= at)
}

function leakSaidAt({ leakChecks, plan }: Pick<JobState, 'leakChecks' | 'plan'>): number | undefined {
  const found = leakChecks.findLast((each) => each.found)?.at
  const planned = plan?.level === 'leaking' ? plan.at : undefined
  const at = Math.max(found ?? -Infinity, planned ?? -Infinity)
  const denied = leakChecks.some((each) => each.falseAlarm && each.at >= at)
  return at === -Infinity || denied ? undefined : at
}
