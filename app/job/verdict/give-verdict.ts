import { TABLES } from '#core/refrigerants'
import { judgeNow, type VerdictAbout, withWritten } from '#core/tape'
import { ENGINE_VERSION } from '#core/verdict'
import { serverNow } from '~/tape/device'
import { type Draft, draft } from '~/tape/draft'
import { useJob, useJudging } from '../field/job-context'

/** Judges, with what is about to be written, and gives the verdict with the versions it was given by. */
export function useGiveVerdict(): (about: VerdictAbout, written?: Draft[]) => Draft[] {
  const { state } = useJob()
  const judging = useJudging()
  return (about, written = []) => {
    const then = written.length > 0 ? withWritten(state, written, serverNow(state)) : state
    const verdict = judgeNow(then, about, judging)
    if (!verdict) return []
    return [draft('verdict-given', { about, verdict, engine: ENGINE_VERSION, tables: TABLES.version })]
  }
}
