import { Button } from 'react-bootstrap'
import { judgeChecks, statesNow } from '#core/tape'
import { type MachineState, STATES } from '#core/verify'
import { draft } from '~/tape/draft'
import { STATE_WORDS, inSentence } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'

/** What a healthy machine may be at and then reads like a faulty one: asked where it decides, and what was said. */
export function MachineStates() {
  const { state, note, closed } = useJob()
  const { reasons } = judgeChecks(state, useJudging())
  const states = statesNow(state)
  const asked = STATES.filter(
    (each) =>
      states[each] === undefined &&
      reasons.some(({ code }) => code === `check-${each}` || code === `likely-${each}`),
  )
  const said = STATES.filter((each) => states[each] !== undefined)
  const say = (each: MachineState, is: boolean) => note([draft('machine-state', { state: each, is })])
  return (
    <>
      {!closed &&
        asked.map((each) => (
          <div key={each} role="group" aria-label={STATE_WORDS[each].asks}>
            <strong className="d-block mb-2">{STATE_WORDS[each].asks}</strong>
            <div className="key-grid">
              <Button className="btn-big" variant="outline-primary" onClick={() => say(each, true)}>
                {STATE_WORDS[each].yes}
              </Button>
              <Button className="btn-big" variant="outline-primary" onClick={() => say(each, false)}>
                {STATE_WORDS[each].no}
              </Button>
            </div>
          </div>
        ))}
      {said.map((each) => (
        <p key={each} className="mb-0 quiet">
          {STATE_WORDS[each][states[each] ? 'yes' : 'no']}.{' '}
          {!closed && (
            <Button variant="link" className="p-0" onClick={() => say(each, !states[each])}>
              No: {inSentence(STATE_WORDS[each][states[each] ? 'no' : 'yes'])}
            </Button>
          )}
        </p>
      ))}
    </>
  )
}
