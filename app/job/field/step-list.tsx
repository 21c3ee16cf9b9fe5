import { Form } from 'react-bootstrap'
import { stepDone } from '#core/tape'
import { draft } from '~/tape/draft'
import { type Step, STEP_WORDS } from '~/words/tape/job'
import { useJob } from './job-context'

/** Steps to tick off. A tick is an entry: it is struck on the tape, not unticked here. */
export function StepList({ steps }: { steps: Step[] }) {
  const { state, note, closed } = useJob()
  return (
    <div>
      {steps.map((step) => {
        const done = stepDone(state, step)
        return (
          <Form.Check
            key={step}
            id={`step-${step}`}
            type="checkbox"
            label={STEP_WORDS[step]}
            checked={done}
            disabled={done || closed}
            onChange={() => note([draft('step-done', { step })])}
          />
        )
      })}
    </div>
  )
}
