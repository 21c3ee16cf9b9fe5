import { type HoldVerdict, judgeVacuum, type VacuumGiven } from '../../vacuum'
import type { Hold } from '../chapters/evacuation'
import { holdBefore, readingsOf, ruleOf } from './holds'
import { vacuumGaugeAt } from '../mass/instruments'
import type { JobState } from '../envelope/state'

const AROUND_MS = 45 * 60_000

/** The ambient noted nearest before a time, K; undefined: none within three quarters of an hour. */
export function ambientAt(state: Pick<JobState, 'temperatureNotes'>, at: number): number | undefined {
  return state.temperatureNotes.findLast(
    (each) => each.point === 'ambient' && each.at <= at && at - each.at < AROUND_MS,
  )?.value
}

/** What the verdict on a hold of a tape is built on. No saturation table is asked: every list of jobs needs it. */
export function holdGiven(state: JobState, hold: Hold): VacuumGiven {
  const before = holdBefore(state, hold)
  const ambientK = ambientAt(state, hold.startedAt + 60_000)
  const ambientEndK = ambientAt(state, hold.endedAt ?? state.lastAt)
  return {
    readings: readingsOf(hold),
    rule: ruleOf(state, hold),
    gaugePct: vacuumGaugeAt(state, hold.endedAt ?? state.lastAt).value,
    ...(before && { previous: readingsOf(before) }),
    ...(ambientK !== undefined && { ambientK }),
    ...(ambientEndK !== undefined && { ambientEndK }),
  }
}

/** The verdict on a hold that has ended: pass or fail, leak and water. */
export const holdVerdict = (state: JobState, hold: Hold): HoldVerdict => verdictOn(holdGiven(state, hold))

/** The judge's verdict. Fitting a curve takes some hundredths of a second: those asked for last are kept. */
export function verdictOn(given: VacuumGiven): HoldVerdict {
  const built = JSON.stringify(given)
  const verdict = judged.get(built) ?? judgeVacuum(given).verdict
  judged.delete(built)
  judged.set(built, verdict)
  if (judged.size > MOST_JUDGED) judged.delete(judged.keys().next().value!)
  return verdict
}

/** By all they were built on. */
const judged = new Map<string, HoldVerdict>()
const MOST_JUDGED = 60
