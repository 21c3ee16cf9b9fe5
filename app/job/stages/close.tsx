import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import type { Condition } from '#core/cylinders'
import { movedInAll, openPoints, STAGE_OF_POINT } from '#core/tape'
import { draft } from '~/tape/draft'
import { Value } from '~/base/ui/reader'
import { CONDITION_WORDS, OPEN_POINT_WORDS, STAGE_WORDS } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'
import { Signature } from '../close/signature'
import { TakenOffList } from '../close/taken-off'
import { InTheSystem } from './charge'
import { AccountForGas } from './notices'
import { StepList } from '../field/step-list'

/** The last five minutes: gas judged, caps on, label written, books settled. */
export function Close() {
  const { state, data, closed } = useJob()
  return (
    <>
      <AccountForGas />
      {!closed && !state.systemId && state.transfers.length > 0 && <WhichSystem />}
      <JudgeGas />
      <TakenOffList adding={false} />
      <StepList
        steps={
          state.takenOff.length > 0
            ? ['caps-on', 'label-in-panel']
            : ['caps-on', 'parts-back', 'label-in-panel']
        }
      />
      <div className="gauge-row">
        <div>
          <div className="quiet">Recovered in this job</div>
          <div className="big">
            <Value kind="weight" of={movedInAll(state).outMg} />
          </div>
        </div>
        <InTheSystem />
      </div>
      <div className="row-of">
        {state.episodes.some((each) => each.charges > 0) && (
          <Link className="btn btn-outline-primary btn-big" to={`/jobs/${data.jobId}/label`}>
            Charge label
          </Link>
        )}
        <Link className="btn btn-outline-primary btn-big" to={`/jobs/${data.jobId}/report`}>
          Job report
        </Link>
        <a className="btn btn-outline-primary btn-big" href={`/jobs/${data.jobId}/report.pdf`}>
          PDF for the customer
        </a>
        {state.transfers.some((each) => each.use === 'recover') && (
          <Link className="btn btn-outline-primary btn-big" to={`/jobs/${data.jobId}/cylinder-labels`}>
            Cylinder labels
          </Link>
        )}
      </div>
      <Signature />
      {!closed && <CloseJob />}
    </>
  )
}

/** Gas moved in and out of a system that nobody named. */
function WhichSystem() {
  const { openStage } = useJob()
  return (
    <section className="open-points" aria-label="Which system was it?">
      <h3 className="mb-0">Which system was it?</h3>
      <p className="mb-0">
        None is named, so its books, its leak rate and its next job know nothing of this one.
      </p>
      <div>
        <Button variant="outline-primary" onClick={() => openStage('prepare')}>
          Name it
        </Button>
      </div>
    </section>
  )
}

/** What is still open, with a tap to each; closing all the same asks why. */
function CloseJob() {
  const { state, note, openStage } = useJob()
  const points = openPoints(state, useJudging())
  const [reason, setReason] = useState('')
  const running = points.includes('transfer-running')
  if (points.length === 0)
    return (
      <div>
        <Button className="btn-big" onClick={() => note([draft('job-closed', {})])}>
          Close the job
        </Button>
      </div>
    )
  return (
    <section className="open-points" aria-label="Still open">
      <h3 className="mb-0">Still open</h3>
      <ul>
        {points.map((point) => (
          <li key={point}>
            <span>{OPEN_POINT_WORDS[point]}</span>
            {STAGE_OF_POINT[point] !== 'close' && (
              <Button variant="outline-primary" onClick={() => openStage(STAGE_OF_POINT[point])}>
                {STAGE_WORDS[STAGE_OF_POINT[point]]}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <form
        className="row-of"
        onSubmit={(event) => {
          event.preventDefault()
          if (reason.trim() !== '' && !running) note([draft('job-closed', { reason: reason.trim() })])
        }}
      >
        <Form.Control
          aria-label="Why it is closed all the same"
          placeholder="Why it is closed all the same"
          style={{ flex: '1 1 14rem', width: 'auto' }}
          value={reason}
          maxLength={500}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button
          type="submit"
          className="btn-big"
          variant="outline-primary"
          disabled={running || reason.trim() === ''}
        >
          Close anyway
        </Button>
      </form>
      {running && <p className="field-error mb-0">End the transfer first: what moved would not count.</p>}
    </section>
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
        The gas in {cylinderOf(cylinderId)?.label}: what is it fit for?
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
