import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import type { Condition } from '#core/cylinders'
import { openTransfer, runningHold } from '#core/tape'
import { draft } from '~/tape/use-tape'
import { Value } from '~/ui/reader'
import { CONDITION_WORDS } from '~/wording/en'
import { useJob } from '../job-context'
import { InTheSystem } from './charge'
import { AccountForGas } from './notices'
import { StepList } from './step-list'

/** The last five minutes: gas judged, caps on, label written, books settled. */
export function Close() {
  const { state, data, note, closed } = useJob()
  const running = openTransfer(state)
  const hold = runningHold(state) !== undefined
  return (
    <>
      <div className="gauge-row">
        <div>
          <div className="quiet">Recovered</div>
          <div className="big">
            <Value kind="weight" of={state.recoveredMg} />
          </div>
        </div>
        <InTheSystem />
      </div>
      <AccountForGas />
      <JudgeGas />
      <StepList steps={['caps-on', 'parts-back', 'label-in-panel']} />
      <div className="row-of">
        <Link className="btn btn-outline-primary btn-big" to={`/jobs/${data.jobId}/label`}>
          Charge label
        </Link>
        <Link className="btn btn-outline-primary btn-big" to={`/jobs/${data.jobId}/report`}>
          Job report
        </Link>
        {!closed && (
          <Button
            className="btn-big"
            disabled={running !== undefined}
            onClick={() => note([draft('job-closed', {})])}
          >
            Close the job
          </Button>
        )}
      </div>
      {running && (
        <p className="field-error mb-0">
          A transfer is still running: end it first, so that its weight counts.
        </p>
      )}
      {hold && !closed && <p className="quiet mb-0">A vacuum hold is still running.</p>}
    </>
  )
}

/** Burnt, wet, airy, mixed or of unknown history: not back into a system. */
function JudgeGas() {
  const { state, note, closed, cylinderOf } = useJob()
  const received = [
    ...new Set(state.transfers.filter((each) => each.use === 'recover').map((each) => each.cylinderId)),
  ]
  if (received.length === 0) return null
  return received.map((cylinderId) => (
    <Form.Group key={cylinderId} className="field">
      <Form.Label htmlFor={`gas-${cylinderId}`}>
        What is the gas in {cylinderOf(cylinderId)?.label} worth?
      </Form.Label>
      <Form.Select
        id={`gas-${cylinderId}`}
        disabled={closed}
        value={state.gas[cylinderId] ?? ''}
        onChange={(event) =>
          note([draft('gas-judged', { cylinderId, condition: event.target.value as Condition })])
        }
      >
        <option value="" disabled>
          Not judged yet
        </option>
        {(['used', 'doubtful', 'mixed'] as const).map((condition) => (
          <option key={condition} value={condition}>
            {CONDITION_WORDS[condition]}
          </option>
        ))}
      </Form.Select>
      <div className="field-help">
        Burnt, wet, with air or of unknown history: doubtful, and not back into a system.
      </div>
    </Form.Group>
  ))
}
