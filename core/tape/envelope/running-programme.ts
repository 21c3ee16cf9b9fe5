import type { Programme } from '../chapters/programme'
import type { JobState } from './state'

/** The programme that a station is at. */
export function runningProgramme({ programmes }: Pick<JobState, 'programmes'>): Programme | undefined {
  return programmes.findLast((each) => !each.ended)
}
