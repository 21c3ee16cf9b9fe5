import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { judgeWait, type RecoveryEndKind } from '#core/recovery'
import { asFound, expectedIn, gasUnaccounted, openTransfer, recoveredEpisode, stepDone } from '#core/tape'
import { waitedAfter, waitOf } from '#core/watching'
import { draft } from '~/tape/draft'
import { Value } from '~/base/ui/reader'
import { NOTICE_WORDS } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'
import { useGiveVerdict } from '../verdict/give-verdict'
import { ScaleFace, WANTS_NEXT } from '../face/scale-face'
import { GasVerdicts } from '../verdict/gas-verdict'
import { VerdictOf } from '../verdict/verdict-of'
import { CylinderChoice } from '../transfer/cylinder-choice'
import { noticed, Notices } from './notices'
import { NotPurgedTick, ShutDownSteps, useNotPurged } from '../kit/machine-end'
import { StartTransfer } from '../transfer/start-transfer'
import { StepList } from '../field/step-list'
import { useJudgedNow, useLevelPa } from '../moving/use-place'
import { PullLines } from '../gas/watch/pull-lines'
import { Waiting } from '../gas/watch/waiting'
import { useWordsTyped } from '../field/use-figure'

/** Gas out of the system into a cylinder on the scale, as often as it takes. */
export function Recover() {
  const { state, data, closed, wholeJob } = useJob()
  const transfer = openTransfer(state)
  const now = state.episodes.at(-1)!
  // Once gas has gone in again, another recovery begins: the last one's figures stay above.
  // Not emptied, it goes on: another pull, or waiting, after which it may be said to be empty.
  const ended =
    now.end !== undefined &&
    now.lastWas !== 'charge' &&
    now.end.how !== 'not-emptied' &&
    now.end.contradictedPa === undefined
  const again = now.end !== undefined && !ended
  const pulled = now.pulls > 0
  const chosen =
    state.chosen.some((each) => each.use === 'recover') ||
    state.transfers.some((each) => each.use === 'recover')
  const [wantsNext] = useWordsTyped(WANTS_NEXT)
  // One that was chosen and not used yet is the next.
  const planned = state.chosen.some(
    (each) =>
      each.use === 'recover' &&
      !state.transfers.some((one) => one.use === 'recover' && one.cylinderId === each.cylinderId),
  )
  const judging = useJudging()
  // What the books charged it with, else the plate: as its verdict will.
  const expected = asFound(judging)?.weighed ?? expectedIn(data, state)
  const asked = gasUnaccounted(state, judging) !== null
  const leftMg = expected ? Math.max(0, expected.massMg - state.recoveredMg) : null
  if (transfer?.use === 'charge') return <p className="mb-0">A charge is running: end it first.</p>
  if (transfer) return <ScaleFace transfer={transfer} leave={wholeJob} />
  if (!state.refrigerant) return <p className="mb-0">Say first which refrigerant it is, under Prepare.</p>
  return (
    <>
      <Notices waiting={waitedAfter(state) !== undefined} />
      {recoveredEpisode(state) && <Total />}
      <PullLines />
      <VerdictOf about="recovery" />
      {ended && pulled && <GasVerdicts />}
      <Waiting />
      {!closed && chosen && (
        <details
          key={`${again} ${wantsNext}`}
          open={again || (!ended && !pulled) || wantsNext === 'yes'}
          className="stack"
        >
          <summary className="h3">{pulled ? 'Another pull' : 'Start'}</summary>
          {wantsNext === 'yes' && !planned ? (
            <CylinderChoice use="recover" wantedMg={leftMg} />
          ) : (
            <StartTransfer use="recover" />
          )}
          {pulled && (planned || wantsNext !== 'yes') && (
            <details>
              <summary>Into another cylinder</summary>
              <CylinderChoice use="recover" wantedMg={leftMg} />
            </details>
          )}
        </details>
      )}
      {!closed && !ended && !chosen && <CylinderChoice use="recover" wantedMg={expected?.massMg ?? null} />}
      {!closed && !ended && (pulled || !asked) && <EndRecovery pulled={pulled} />}
    </>
  )
}

function Total() {
  const { state } = useJob()
  const { inMg, began, pulls } = recoveredEpisode(state)!
  return (
    <div>
      <div className="quiet">Recovered{pulls > 1 && `, in ${pulls} pulls`}</div>
      <div className="hero">
        <Value kind="weight" of={state.recoveredMg} />
      </div>
      {began === 'as-found' && inMg > 0 && (
        <div className="quiet">
          net of <Value kind="weight" of={inMg} /> that was added in this job
        </div>
      )}
      {began === 'empty' && (
        <div className="quiet">
          of <Value kind="weight" of={inMg} /> that this job had put in
        </div>
      )}
    </div>
  )
}

/** How long it was read to stay down, where that was long enough to tell. */
function useStood(): { stoodS?: number } {
  const { state } = useJob()
  const pull = waitedAfter(state)
  const wait = useJudgedNow(
    state,
    null,
    (lines, place) => pull && judgeWait(waitOf(state, pull, lines, place)),
  )
  const stays = wait?.verdict.code === 'wait-done' || wait?.verdict.code === 'wait-worth-it'
  return stays ? { stoodS: Math.round(wait.heldS) } : {}
}

function EndRecovery({ pulled }: { pulled: boolean }) {
  const { state, data, note } = useJob()
  const give = useGiveVerdict()
  const against = noticed(data, state).some((each) => each.code === 'low-above-level')
  // What was purged before the last pull holds gas again.
  const lastPull = state.transfers.findLast((each) => each.use === 'recover')
  const isPurged = stepDone(state, 'self-purged', lastPull?.startedAt)
  const [ticked, setPurged] = useState(isPurged)
  const [kept, setKept] = useState(false)
  const rest = useNotPurged()
  const levelPa = useLevelPa()
  const stood = useStood()
  const purged = ticked || (kept && rest.massMg !== undefined)
  const end = (how: RecoveryEndKind) => {
    const ended = draft('recovery-ended', { how, ...(how === 'emptied' && { levelPa, ...stood }) })
    note([
      ...(pulled && kept ? rest.entry() : []),
      ...(pulled && ticked && !kept && !isPurged ? [draft('step-done', { step: 'self-purged' })] : []),
      ended,
      ...give('recovery', [ended]),
    ])
  }
  if (!pulled)
    return (
      <fieldset className="stack" style={{ gap: '0.25rem' }}>
        <legend className="h3 mb-0">Nothing to recover</legend>
        <div className="row-of">
          <Button variant="outline-secondary" onClick={() => end('lost')}>
            The charge is gone already
          </Button>
          <Button variant="outline-secondary" onClick={() => end('shut-in')}>
            It stays, shut into the outdoor unit
          </Button>
          <Button variant="outline-secondary" onClick={() => end('elsewhere')}>
            It was recovered elsewhere
          </Button>
          <Button variant="outline-secondary" onClick={() => end('never-filled')}>
            There was none: new, or evacuated
          </Button>
        </div>
      </fieldset>
    )
  return (
    <fieldset className="stack" style={{ gap: '0.25rem' }}>
      <legend className="h3 mb-0">End the recovery</legend>
      <ShutDownSteps />
      <StepList steps={['hose-drained', 'valves-shut']} />
      <Form.Check
        id="self-purged"
        label="The machine has self-purged into the cylinder, and the final weight is noted after it"
        checked={ticked && !kept}
        disabled={kept}
        onChange={(event) => setPurged(event.target.checked)}
      />
      {rest.machine && <NotPurgedTick ticked={kept} change={setKept} label={rest.machine.label} />}
      {kept && rest.field}
      {against && (
        <p className="field-error mb-0" role="status">
          {NOTICE_WORDS['low-above-level']} Pull again, or note what it reads now.
        </p>
      )}
      <div className="row-of">
        <Button className="btn-big" disabled={!purged} onClick={() => end('emptied')}>
          Empty: down to level
        </Button>
        <Button
          className="btn-big"
          variant="outline-primary"
          disabled={!purged}
          onClick={() => end('not-emptied')}
        >
          Stop here: not empty yet
        </Button>
      </div>
      {!purged && <span className="quiet">No verdict before the machine is purged.</span>}
    </fieldset>
  )
}
