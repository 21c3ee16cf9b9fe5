import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { compareRecovered } from '#core/recovery'
import { openRun, runSigmaMg } from '#core/tape'
import { draft } from '~/tape/use-tape'
import { Value } from '~/ui/reader'
import { expectedIn, useJob } from '../job-context'
import { giveVerdict } from '../give-verdict'
import { VerdictOf } from '../verdict-of'
import { CylinderChoice } from './cylinder-choice'
import { Running } from './running'
import { StartRun } from './start-run'

/** Gas out of the system into a cylinder on the scale, as often as it takes. */
export function Recover() {
  const { state, data, closed } = useJob()
  const run = openRun(state)
  const ended = state.recoveryEnded !== undefined
  const chosen = state.chosen.some((c) => c.use === 'recover') || state.runs.some((r) => r.use === 'recover')
  if (run?.use === 'charge') return <p className="mb-0">A charge is running: end it first.</p>
  if (run) return <Running run={run} />
  if (!state.refrigerant) return <p className="mb-0">Say first which refrigerant it is, under Prepare.</p>
  return (
    <>
      {(ended || state.runs.length > 0) && <Total />}
      <VerdictOf about="recovery" />
      {!closed && chosen && (
        <details open={!ended && state.recoveredMg === 0} className="stack">
          <summary className="h3">{state.recoveredMg > 0 ? 'Another pull' : 'Start'}</summary>
          <StartRun use="recover" />
        </details>
      )}
      {!closed && !ended && !chosen && (
        <CylinderChoice use="recover" wantedMg={expectedIn(data, state)?.massMg ?? null} />
      )}
      {!closed && !ended && <EndRecovery />}
    </>
  )
}

function Total() {
  const { state } = useJob()
  return (
    <div>
      <div className="quiet">Recovered</div>
      <div className="hero">
        <Value kind="weight" of={state.recoveredMg} />
      </div>
    </div>
  )
}

function EndRecovery() {
  const { state, data, note } = useJob()
  const [purged, setPurged] = useState(state.steps.includes('self-purged'))
  const [stays, setStays] = useState(false)
  const pulled = state.runs.some((run) => run.use === 'recover')

  const end = (emptied: boolean) => {
    const runs = state.runs.filter((run) => run.use === 'recover')
    const sigmaMg = Math.round(Math.hypot(...runs.map(runSigmaMg), 0))
    const verdict = compareRecovered({ massMg: state.recoveredMg, sigmaMg }, expectedIn(data, state), emptied)
    note([
      ...(pulled && purged && !state.steps.includes('self-purged')
        ? [draft('step-done', { step: 'self-purged' })]
        : []),
      draft('recovery-ended', { emptied }),
      giveVerdict('recovery', verdict),
    ])
  }
  if (!pulled)
    return (
      <div className="row-of">
        <Button variant="outline-secondary" onClick={() => end(true)}>
          Nothing in it: the charge is gone already
        </Button>
      </div>
    )
  return (
    <fieldset className="stack" style={{ gap: '0.25rem' }}>
      <legend className="h3 mb-0">End the recovery</legend>
      <Form.Check
        id="self-purged"
        label="The machine has self-purged into the cylinder, and the final weight is noted after it"
        checked={purged}
        onChange={(event) => setPurged(event.target.checked)}
      />
      <Form.Check
        id="stays-down"
        label="The system is at the required level and stays there (valve shut, 5 to 10 minutes watched)"
        checked={stays}
        onChange={(event) => setStays(event.target.checked)}
      />
      <div className="row-of">
        <Button className="btn-big" disabled={!purged} onClick={() => end(stays)}>
          {stays ? 'End the recovery' : 'End it, not emptied'}
        </Button>
        {!purged && <span className="quiet">No verdict before the machine is purged.</span>}
      </div>
    </fieldset>
  )
}
