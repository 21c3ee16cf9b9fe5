import type { KitKind } from '../../kit'
import type { UsedKit } from '../chapters/kit'
import type { JobState } from './state'

/** What a job uses now. */
export function kitInUse({ kit: all }: Pick<JobState, 'kit'>): UsedKit[] {
  return all.filter((each) => each.until === undefined)
}

/** The piece of a kind that was in use at a time; undefined: none was named then. */
export function kitAt(
  { kit: all }: Pick<JobState, 'kit'>,
  kinds: readonly KitKind[],
  at = Infinity,
): UsedKit | undefined {
  return all.findLast(
    (each) => kinds.includes(each.kind) && each.since <= at && (each.until === undefined || at < each.until),
  )
}
