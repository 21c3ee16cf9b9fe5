import { Button } from 'react-bootstrap'
import { clocksOf, shutInHolds } from '#core/tape'
import { newId } from '~/tape/device'
import { draft } from '~/tape/draft'
import { useShow } from '~/base/ui/reader'
import { duration } from '~/base/ui/time'
import { SHUT_IN_LIMITS, SHUT_IN_STEPS } from '~/words/en'
import { useJob } from '~/job/field/job-context'

const HOLDS_S = 600
/** The first question: may the charge stay, shut into the outdoor unit? */
export function ShutInQuestion() {
  const { state, data, note, closed } = useJob()
  const show = useShow()
  if (closed || data.system?.trade === 'vehicle' || state.transfers.length > 0) return null
  const lines = (data.system?.lines ?? []).filter((each) => each.kind === 'liquid')
  const beyondM = lines.reduce((sum, each) => sum + Math.max(0, each.lengthM - each.coveredM), 0)
  const clock = clocksOf(state, null).find((each) => each.what === 'pull')
  const held = shutInHolds(state)
  return (
    <details className="shut-in">
      <summary>First: may the charge stay, shut into the outdoor unit?</summary>
      <p className="mb-1">{SHUT_IN_LIMITS}</p>
      {beyondM > 0 && (
        <p className="mb-1 field-error">
          Its liquid line is {show('length', beyondM)} longer than the plate covers: more charge than the
          condenser was made for.
        </p>
      )}
      <ol className="mb-1">
        {SHUT_IN_STEPS.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      {held && (
        <p className={held.verdict === 'rises' ? 'field-error mb-1' : 'mb-1'} role="status">
          {held.verdict === 'rises'
            ? `The low side rose by ${show('pressure-difference', held.risePa)} in ${duration(held.heldS)}: a valve does not hold. Recover instead.`
            : held.verdict === 'too-soon'
              ? 'It stays so far: under five minutes that says nothing of a valve that seeps.'
              : 'The low side stays: the valves hold, as far as this gauge can tell.'}
        </p>
      )}
      <div className="row-of">
        {!clock && (
          <Button
            variant="outline-primary"
            onClick={() => note([draft('watch-started', { watchId: newId(), what: 'pull', forS: HOLDS_S })])}
          >
            Valves shut: watch it for 10 min
          </Button>
        )}
        {clock && (
          <span className="quiet">The clock above runs: it asks for the low side when it is due.</span>
        )}
        <Button
          variant="outline-secondary"
          disabled={held?.verdict === 'rises'}
          onClick={() => note([draft('recovery-ended', { how: 'shut-in' })])}
        >
          It is shut in, and holds
        </Button>
      </div>
    </details>
  )
}
