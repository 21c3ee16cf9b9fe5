import type { JobState } from './state'

/** A leak was found, and is not repaired yet. */
export function leakKnown(state: Pick<JobState, 'leakChecks' | 'steps'>): boolean {
  const search = state.leakChecks.at(-1)
  if (!search?.found) return false
  return !state.steps.some(({ step, at }) => step === 'repair-done' && at >= search.at)
}
