import type { FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { chargeToleranceMg, type TargetReason } from '#core/charging'
import {
  inSystemNow,
  isProved,
  isToppedUp,
  leakLookedFor,
  openTransfer,
  shutInAt,
  standingVerdict,
  targetMoved,
  targetsFor,
  toGoMg,
} from '#core/tape'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useShow, Value } from '~/base/ui/reader'
import { IN_SYSTEM_WORDS, TARGET_BASIS_WORDS } from '~/words/en'
import { useGiveVerdict } from '../verdict/give-verdict'
import { useJob, useJudging } from '../field/job-context'
import { ScaleFace } from '../face/scale-face'
import { VerdictOf } from '../verdict/verdict-of'
import { ChargePlan } from '../charge/charge-plan'
import { PutRight } from '../charge/put-right'
import { useSources } from '../moving/use-sources'
import { CylinderChoice } from '../transfer/cylinder-choice'
import { AccountForGas } from './notices'
import { StartTransfer } from '../transfer/start-transfer'
import { StepList } from '../field/step-list'
import { useFigure } from '../field/use-figure'

const TARGET_REASONS: Record<TargetReason, string> = {
  'recovered-agrees': 'it matches what should be in there, and no leak was found',
  'recovered-only': 'what came out; it may have been short or over',
  'plate-agrees': 'what came out agrees with it',
  'plate-wins': 'what came out does not agree, or the system leaked',
  'label-of-earlier': 'by the books and the label inside; it differs from the plate: look why',
  'percent-of-plate': 'after the change of gas what came out says nothing',
}

/** By weight: a target, a cylinder on the scale, and a stop weight to watch. */
export function Charge() {
  const { state, data, closed, wholeJob } = useJob()
  const judging = useJudging()
  const transfer = openTransfer(state)
  if (!state.refrigerant) return <p className="mb-0">Say first which refrigerant it is, under Prepare.</p>
  if (transfer?.use === 'recover') return <p className="mb-0">A recovery is running: end it first.</p>
  if (transfer) return <ScaleFace transfer={transfer} leave={wholeJob} />
  const now = state.episodes.at(-1)!
  if (shutInAt(now) !== undefined) return <ShutIn />
  const charged = now.charges > 0 && now.emptiedAt === undefined
  const left = toGoMg(state)
  const short = left !== undefined && state.target !== undefined && left > state.target.toleranceMg
  const chosen = charged || state.chosen.some((each) => each.use === 'charge')
  // Onto what is in there; until gas goes in, it may still be emptied first.
  const topUp = isToppedUp(state)
  const moved = targetMoved(state, judging)
  if (topUp && charged) return <ToppedUp />
  return (
    <>
      <AccountForGas />
      {topUp && !closed && <NotEmptied isChosen={chosen} />}
      {charged && <Charged />}
      {charged && <VerdictOf about="charge" />}
      {charged && !closed && <PutRight />}
      {state.target && <TargetLine />}
      {!closed && !state.target && <ChooseTarget />}
      {!closed && state.target && (!charged || moved !== undefined) && (
        <details key={state.target.massMg} open={moved !== undefined}>
          <summary>Change the target</summary>
          <ChooseTarget />
        </details>
      )}
      {!closed && state.target && (!charged || short) && <ChargePlan />}
      {data.system?.trade === 'vehicle' && state.target && (
        <StepList steps={charged ? ['hoses-high-first'] : ['vehicle-at-rest']} />
      )}
      {!closed &&
        !topUp &&
        state.target &&
        (!chosen ? <OtherCylinders wantedMg={state.target.massMg} /> : <Start charged={charged} />)}
    </>
  )
}

/** The charge waits behind its valves: nothing goes in before it is back. */
function ShutIn() {
  const { state } = useJob()
  return (
    <>
      <AccountForGas />
      {isProved(state) ? (
        <p className="mb-0">
          The charge waits in the outdoor unit. Open its valves slowly, liquid side first.
        </p>
      ) : (
        <p className="field-error mb-0" role="alert">
          No vacuum hold stands: what is left in there, air or water, mixes with the charge. Leave the valves
          shut.
        </p>
      )}
      <StepList steps={['valves-opened']} />
    </>
  )
}

/** Nothing has come out of it: whatever goes in goes onto what is in there. */
function NotEmptied({ isChosen }: { isChosen: boolean }) {
  return (
    <>
      <TopUpNotice />
      <details open={isChosen}>
        <summary className="h3">Top it up</summary>
        <Add />
      </details>
      <h3 className="mb-0">Once it is emptied</h3>
    </>
  )
}

function ToppedUp() {
  const { closed } = useJob()
  return (
    <>
      <AccountForGas />
      <InTheSystem />
      <TopUpNotice />
      {!closed && <Start charged />}
    </>
  )
}

/** The readings say when it is enough. */
function TopUpNotice() {
  const { state, openStage } = useJob()
  return (
    <div className="verdict verdict-open" role="status">
      <strong>Not emptied in this job: what goes in now is a top-up.</strong> How much is in it nobody knows,
      so there is no stop weight. A little at a time, let it settle, then go by the readings. If it is empty,
      note the vacuum, or say under Recover what became of the gas.
      <div className="row-of mt-2">
        <Button variant="outline-primary" onClick={() => openStage('verify')}>
          Open Check readings
        </Button>
        {!leakLookedFor(state) && (
          <Button variant="outline-primary" onClick={() => openStage('leak-test')}>
            First look where it went
          </Button>
        )}
      </div>
    </div>
  )
}

/** Those that are not in the plan, and why; open where the plan has none. */
function OtherCylinders({ wantedMg }: { wantedMg: number }) {
  const { sources } = useSources()
  return (
    <details open={!sources.some((each) => (each.gives?.leastMg ?? 0) > 0)}>
      <summary>Another cylinder, and why not</summary>
      <CylinderChoice use="charge" wantedMg={wantedMg} />
    </details>
  )
}

function Start({ charged }: { charged: boolean }) {
  const { state } = useJob()
  const left = toGoMg(state)
  const more = left === undefined ? null : Math.max(0, left)
  return (
    <details open={!charged || (left !== undefined && left > (state.target?.toleranceMg ?? 0))}>
      <summary className="h3">{charged ? 'Add more, from this or another cylinder' : 'Start'}</summary>
      <Add wantedMg={more} />
    </details>
  )
}

function Add({ wantedMg = null }: { wantedMg?: number | null }) {
  return (
    <div className="stack">
      <StartTransfer use="charge" />
      <CylinderChoice use="charge" wantedMg={wantedMg} />
    </div>
  )
}

/** What is in the system now, with how that is known. */
export function InTheSystem() {
  const { state } = useJob()
  const now = inSystemNow(state)
  return (
    <div>
      <div className="quiet">{IN_SYSTEM_WORDS[now.kind]}</div>
      <div className="hero">
        {'massMg' in now ? <Value kind="weight" of={now.massMg} /> : now.kind === 'empty' ? 'empty' : '–'}
      </div>
    </div>
  )
}

function Charged() {
  const { state, note, closed } = useJob()
  const judging = useJudging()
  const give = useGiveVerdict()
  const judged = standingVerdict(state, 'charge', judging)
  const verdict = give('charge')
  return (
    <div className="spread">
      <InTheSystem />
      {!closed && verdict.length > 0 && !judged && (
        <Button className="btn-big" onClick={() => note(verdict)}>
          Judge the charge
        </Button>
      )}
    </div>
  )
}

function TargetLine() {
  const { state, closed } = useJob()
  const { massMg, toleranceMg, basis } = state.target!
  const moved = targetMoved(state, useJudging())
  return (
    <p className="mb-0">
      Target{' '}
      <strong>
        <Value kind="weight" of={massMg} />
      </strong>{' '}
      ± <Value kind="weight" of={toleranceMg} />{' '}
      <span className="quiet">from {TARGET_BASIS_WORDS[basis]}</span>
      {!closed && moved !== undefined && (
        <span className="field-error">
          {' '}
          That is <Value kind="weight" of={moved} /> now: set the target again.
        </span>
      )}
    </p>
  )
}

function ChooseTarget() {
  const { state, note } = useJob()
  const show = useShow()
  const own = useFigure('weight', 'target')
  const judging = useJudging()
  const { trade } = judging
  const targets = targetsFor(state, judging)
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
      {targets.length === 0 && state.gasChanges.length > 0 && (
        <p className="mb-0">
          Nobody has said how much of {state.refrigerant} goes in: the plate speaks of the gas that was in it.
          The maker of the new gas says it.
        </p>
      )}
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
          <span className="why">{TARGET_REASONS[reason]}</span>
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
