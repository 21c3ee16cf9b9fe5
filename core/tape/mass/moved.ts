import type { JobState } from '../envelope/state'

/** All that came out of the system in a job, and all that went in, however often it was emptied between, mg. */
export function movedInAll({ episodes }: Pick<JobState, 'episodes'>): { outMg: number; inMg: number } {
  return {
    outMg: episodes.reduce((sum, each) => sum + each.outMg, 0),
    inMg: episodes.reduce((sum, each) => sum + each.inMg, 0),
  }
}

/**
 * What a job added to its system beyond what it took out: what had been lost, mg. The first fill of a new system replaces
 * nothing, and nor does what somebody else had recovered.
 */
export function addedMg({ episodes }: Pick<JobState, 'episodes'>): number {
  const replaces = episodes.map((_, i) => {
    const how = episodes[i - 1]?.end?.how
    return how !== 'never-filled' && how !== 'elsewhere'
  })
  const lostMg = episodes.reduce(
    (sum, { inMg, outMg, keptMg }, i) => sum + (replaces[i] ? inMg : Math.min(inMg, outMg)) - outMg - keptMg,
    0,
  )
  return Math.max(0, lostMg)
}
