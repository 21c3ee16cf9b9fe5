import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { Check } from 'lucide-react'
import { Link } from 'react-router'
import { refrigerant as factsOf } from '#core/refrigerants'
import { mayUse } from '#core/kit'
import { kitAt, stepDone } from '#core/tape'
import { draft } from '~/tape/draft'
import { useShow } from '~/base/ui/reader'
import { REASON_WORDS, RIG_CHECK, type RigGroup } from '~/words/en'
import { useJob } from '~/job/field/job-context'

/** The rig, looked over in five taps; who only weighs puts it away. */
export function RigCheck() {
  const { state, note, closed } = useJob()
  const only = state.steps.findLast(({ step }) => step === 'weigh-only' || step === 'check-rig')
  const hidden = only?.step === 'weigh-only'
  const toggle = () => note([draft('step-done', { step: hidden ? 'check-rig' : 'weigh-only' })])
  if (hidden)
    return (
      <div className="row-of">
        <span className="quiet">Weigh only: the rig is not asked about.</span>
        {!closed && (
          <Button variant="link" className="p-0" onClick={toggle}>
            Check the rig
          </Button>
        )}
      </div>
    )
  const answered = RIG_CHECK.filter(
    ({ step }) => stepDone(state, step) || state.skipped.some((each) => each.step === step),
  ).length
  return (
    <details className="rig-check" open={answered < RIG_CHECK.length}>
      <summary>
        <strong>Rig check</strong>{' '}
        <span className="quiet">
          {answered} of {RIG_CHECK.length}
        </span>
      </summary>
      <ul>
        {RIG_CHECK.map((group) => (
          <Group key={group.step} group={group} />
        ))}
      </ul>
      {!closed && (
        <Button variant="link" className="p-0" onClick={toggle}>
          Weigh only: do not ask
        </Button>
      )}
    </details>
  )
}

function Group({ group: { step, title, why, matters } }: { group: RigGroup }) {
  const { state, note, closed } = useJob()
  const [open, setOpen] = useState(false)
  const [skips, setSkips] = useState(false)
  const [reason, setReason] = useState('')
  const done = stepDone(state, step)
  const skipped = state.skipped.find((each) => each.step === step && !done)
  const against = useAgainst(step)
  return (
    <li className={done ? 'done' : skipped ? 'skipped' : undefined}>
      <div className="rig-line">
        <button
          type="button"
          className="rig-tap"
          aria-pressed={done}
          disabled={closed || done}
          onClick={() => note([draft('step-done', { step })])}
        >
          <Check size={20} aria-hidden className="icon" /> {title}
        </button>
        <Button
          variant="link"
          aria-expanded={open}
          aria-label={`Why: ${title}`}
          onClick={() => setOpen(!open)}
        >
          Why
        </Button>
        {matters && !done && !skipped && !closed && (
          <Button variant="link" aria-label={`Leave out: ${title}`} onClick={() => setSkips(!skips)}>
            Leave out
          </Button>
        )}
      </div>
      {open && (
        <p className="mb-1 quiet">
          {why} {step === 'rig-power' && <Link to="/slide-rule/lead">The lead, worked out</Link>}
        </p>
      )}
      {against && (
        <p className="mb-1 field-error" role="status">
          {against}
        </p>
      )}
      {skipped && <p className="mb-1 quiet">Left out: {skipped.reason}</p>}
      {skips && !skipped && !done && (
        <form
          className="row-of"
          onSubmit={(event) => {
            event.preventDefault()
            if (reason.trim() !== '') note([draft('step-skipped', { step, reason: reason.trim() })])
          }}
        >
          <input
            className="form-control"
            style={{ flex: 1 }}
            aria-label={`Why is it left out: ${title}`}
            placeholder="It can hurt somebody or spoil a cylinder: why is it left out?"
            value={reason}
            maxLength={500}
            autoFocus
            onChange={(event) => setReason(event.target.value)}
          />
          <Button type="submit" variant="outline-primary" disabled={reason.trim() === ''}>
            Leave out
          </Button>
        </form>
      )}
    </li>
  )
}

/** What is known of the machine that speaks against a tick. */
function useAgainst(step: RigGroup['step']): string | undefined {
  const { state, data } = useJob()
  const show = useShow()
  const machine = kitAt(state, ['machine', 'station'])
  const gas = state.refrigerant
  const piece = machine && data.kit.find((each) => each.kitId === machine.kitId)
  if (!machine || !gas) return undefined
  const refused = piece ? mayUse(piece, gas) : []
  if (step === 'rig-class') {
    if (refused.includes('not-rated-flammable'))
      return `${machine.label}: ${REASON_WORDS['not-rated-flammable']}`
    return factsOf(gas).flammable && !piece ? `${gas} is flammable (${factsOf(gas).safetyClass}).` : undefined
  }
  if (step === 'rig-drier') {
    if (refused.includes('holds-another-gas'))
      return `${machine.label} ran ${piece?.lastGas ?? 'another gas'} last. ${REASON_WORDS['holds-another-gas']}`
    return machine.facts.filterLifeMg && piece?.due
      ? `Its drier is due: good for ${show('weight', machine.facts.filterLifeMg)}.`
      : undefined
  }
  return undefined
}
