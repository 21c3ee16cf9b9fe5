import { Button } from 'react-bootstrap'
import { type JobState, nextStep } from '#core/tape'
import { draft } from '~/tape/draft'
import { useShow } from '~/base/ui/reader'
import { clockTime, day } from '~/base/ui/time'
import { NEXT_WORDS, STAGE_OF_NEXT } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'
import { useParts } from './mass-strip'
import { useWords } from '../field/use-words'

/** The job as it would be without waiting. */
export const goingOn = (state: JobState): JobState =>
  state.status === 'waiting' ? { ...state, status: 'open' } : state

/** A job that waits, for whoever takes it up: what for, who noted what last, what is where, what comes next. */
export function Parked() {
  const { state, data, note, openStage } = useJob()
  const words = useWords()
  const show = useShow()
  const parts = useParts()
  const next = nextStep(goingOn(state), useJudging())
  const last = state.lines.findLast(({ entry }) => entry.kind !== 'job-waiting')
  const by = last?.entry.userId ? data.people[last.entry.userId] : undefined
  return (
    <section className="parked" aria-label="This job waits">
      <h2 className="mb-0">Waiting for: {state.waitingFor || 'nothing named'}</h2>
      <dl className="facts mb-0">
        {last && (
          <div>
            <dt>Noted last</dt>
            <dd>
              {words(last.entry.kind, last.body)}
              <span className="quiet">
                {by && `, ${by}`}, {day(last.time, data.shop.timeZone)}{' '}
                {clockTime(last.time, data.shop.timeZone)}
              </span>
            </dd>
          </div>
        )}
        {parts.map(({ what, massMg }) => (
          <div key={what}>
            <dt>{what}</dt>
            <dd>{show('weight', massMg)}</dd>
          </div>
        ))}
        <div>
          <dt>Next</dt>
          <dd>{NEXT_WORDS[next]}</dd>
        </div>
      </dl>
      {data.mayWrite && (
        <Button
          className="btn-big"
          onClick={() => {
            note([draft('job-resumed', {})])
            openStage(STAGE_OF_NEXT[next])
          }}
        >
          Go on with it
        </Button>
      )}
    </section>
  )
}
