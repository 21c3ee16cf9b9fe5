import type { Metering } from '../../verify'
import type { JobState } from '../envelope/state'
import { booksSay } from '../mass/in-system'
import { type OfJob, wholeByPlate } from './expected-in'
import type { JudgingContext } from './judge'

/** What is known of a job beside its tape. */
interface BesideTape extends OfJob {
  system: (NonNullable<OfJob['system']> & JudgedSystem) | null
  booksBefore: { massMg: number } | null
  inBooksMg: number
}

interface JudgedSystem {
  metering: Metering
  subcoolingTargetK: number | null
}

/** Everything that judging needs beside the tape. */
export function judgingContext(beside: BesideTape, state: JobState): JudgingContext {
  const { system, booksBefore, inBooksMg } = beside
  return {
    books: booksBefore && booksSay(booksBefore.massMg),
    inBooksMg,
    plate: wholeByPlate(beside, state),
    trade: system?.trade ?? 'stationary',
    metering: system?.metering ?? 'unknown',
    plateSubcoolingK: system?.subcoolingTargetK ?? null,
  }
}
