import type { FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { chargeTargets, chargeToleranceMg, judgeCharge } from '#core/charging'
import { openRun, runSigmaMg } from '#core/tape'
import { draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useShow, Value } from '~/ui/reader'
import { TARGET_BASIS_WORDS } from '~/wording/en'
import { expectedIn, useJob } from '../job-context'
import { giveVerdict } from '../give-verdict'
import { VerdictOf } from '../verdict-of'
import { CylinderChoice } from './cylinder-choice'
import { Running } from './running'
import { StartRun } from './start-run'
import { useFigure } from './use-figure'

const TARGET_REASONS: Record<string, string> = {
  'recovered-agrees': 'it matches what should be in there, and no leak was found',
  'recovered-only': 'what came out; it may have been short or over',
  'plate-agrees': 'what came out agrees with it',
  'plate-wins': 'what came out does not agree, or the system leaked',
}

/** By weight: a target, a cylinder on the scale, and a stop weight to watch. */
export function Charge() {
  const { state, closed } = useJob()
  const run = openRun(state)
  if (!state.refrigerant) return <p className="mb-0">Say first which refrigerant it is, under Prepare.</p>
  if (run?.use === 'recover') return <p className="mb-0">A recovery is running: end it first.</p>
  if (run) return <Running run={run} />
  const charged = state.runs.some((r) => r.use === 'charge')
  const chosen = charged || state.chosen.some((c) => c.use === 'charge')
  return (
    <>
      {charged && <Charged />}
      {charged && <VerdictOf about="charge" />}
      {state.target && <TargetLine />}
      {!closed && !state.target && <ChooseTarget />}
      {!closed && state.target && !charged && (
        <details key={state.target.massMg}>
          <summary>Change the target</summary>
          <ChooseTarget />
        </details>
      )}
      {!closed &&
        state.target &&
        (!chosen ? <CylinderChoice use="charge" wantedMg={state.target.massMg} /> : <Start />)}
    </>
  )
}

function Start() {
  const { state } = useJob()
  const charged = state.chargedMg > 0
  return (
    <details open={!charged}>
      <summary className="h3">{charged ? 'Add more, from this or another cylinder' : 'Start'}</summary>
      <div className="stack">
        <StartRun use="charge" />
        <CylinderChoice use="charge" wantedMg={state.target!.massMg - state.chargedMg} />
      </div>
    </details>
  )
}

function Charged() {
  const { state, note, closed } = useJob()
  const judged = state.verdicts.findLast((v) => v.about === 'charge')
  const judge = () => {
    const sigmaMg = Math.round(Math.hypot(...state.runs.filter((r) => r.use === 'charge').map(runSigmaMg)))
    const verdict = judgeCharge({ massMg: state.chargedMg, sigmaMg }, state.target!)
    note([giveVerdict('charge', verdict)])
  }
  const stale = judged?.verdict.numbers.find((n) => n.name === 'charged')?.value !== state.chargedMg / 1e6
  return (
    <div className="spread">
      <div>
        <div className="quiet">Charged</div>
        <div className="hero">
          <Value kind="weight" of={state.chargedMg} />
        </div>
      </div>
      {!closed && state.target && (!judged || stale) && (
        <Button className="btn-big" onClick={judge}>
          Judge the charge
        </Button>
      )}
    </div>
  )
}

function TargetLine() {
  const { state } = useJob()
  const { massMg, toleranceMg, basis } = state.target!
  return (
    <p className="mb-0">
      Target{' '}
      <strong>
        <Value kind="weight" of={massMg} />
      </strong>{' '}
      ± <Value kind="weight" of={toleranceMg} />{' '}
      <span className="quiet">from {TARGET_BASIS_WORDS[basis]}</span>
    </p>
  )
}

function ChooseTarget() {
  const { state, data, note } = useJob()
  const show = useShow()
  const own = useFigure('weight')
  const trade = data.system?.trade ?? 'stationary'
  const expected = expectedIn(data, state)
  const verdict = state.verdicts.findLast((v) => v.about === 'recovery')?.verdict
  const targets = chargeTargets({
    trade,
    recoveredMg: state.recoveredMg,
    expectedMg: expected?.massMg ?? null,
    recoveredAgrees: verdict?.code === 'as-expected' && !state.leakChecks.some((check) => check.found),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const massMg = own.want()
    if (massMg === undefined || massMg <= 0) return
    note([draft('target-set', { massMg, toleranceMg: chargeToleranceMg(massMg, trade), basis: 'typed' })])
    own.clear()
  }
  return (
    <div className="stack" style={{ gap: '0.5rem' }}>
      {!state.target && <h3 className="mb-0">Target charge</h3>}
      {targets.map(({ basis, massMg, toleranceMg, reason }, i) => (
        <div key={basis} className="choice">
          <span>
            <strong className="digits">{show('weight', massMg)}</strong> from {TARGET_BASIS_WORDS[basis]}
            {i === 0 && <span className="tag ms-2">usual here</span>}
          </span>
          <Button
            variant={i === 0 ? 'primary' : 'outline-primary'}
            onClick={() => note([draft('target-set', { massMg, toleranceMg, basis })])}
          >
            Take it
          </Button>
          <span className="why">{TARGET_REASONS[reason] ?? reason}</span>
        </div>
      ))}
      <form onSubmit={submit} className="row-of" style={{ alignItems: 'start' }}>
        <div style={{ flex: '1 1 14rem' }}>
          <MeasureInput {...own.field} label="Your own figure" />
        </div>
        <Button type="submit" variant="outline-primary" style={{ marginTop: '1.75rem' }}>
          Set
        </Button>
      </form>
    </div>
  )
}
