import { tableOf } from '../../refrigerants'
import type { Weighed } from '../../recovery'
import { type ExpectedCharge, expectedCharge, type SystemPlate } from '../../systems'
import type { JobState } from '../envelope/state'

/** A job, and the system that it is about. */
export interface OfJob {
  jobId: string
  system: (SystemPlate & { /** The job whose tape has named its plate. */ plateJob: string | null }) | null
}

const NO_SYSTEM: SystemPlate = {
  trade: 'stationary',
  refrigerant: null,
  plateMg: null,
  panelTotalMg: null,
  lines: [],
  accessories: [],
}

/** What is known of the system counts; a plate that was read in this job fills what is not, as it reads now. */
export function plateOf({ system, jobId }: OfJob, state: JobState): SystemPlate {
  const read = state.plate?.massMg ?? null
  const entered = system?.plateJob === jobId ? null : (system?.plateMg ?? null)
  return { ...(system ?? NO_SYSTEM), plateMg: entered ?? read }
}

/** What plate, lines and accessories say should be in the system; null where no plate and no total are known. */
export function expectedIn(data: OfJob, state: JobState): ExpectedCharge | null {
  // After a change of gas the plate still speaks of the one before.
  const code = state.gasChanges[0]?.from ?? state.refrigerant ?? data.system?.refrigerant
  return code ? expectedCharge(plateOf(data, state), tableOf(code)) : null
}

/** The same where all of it can be computed: a sum with a part that nobody can compute is no expectation. */
export function wholeByPlate(data: OfJob, state: JobState): Weighed | null {
  const expected = expectedIn(data, state)
  return expected && expected.unknown.length === 0 ? expected : null
}
