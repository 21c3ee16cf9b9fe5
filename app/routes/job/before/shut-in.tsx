import { Button } from 'react-bootstrap'
import { clocksOf } from '#core/tape'
import { newId } from '~/tape/device'
import { draft } from '~/tape/use-tape'
import { useShow } from '~/ui/reader'
import { SHUT_IN_LIMITS, SHUT_IN_STEPS } from '~/wording/en'
import { useJob } from '../job-context'

const HOLDS_S = 600
/** More than a gauge twitches, Pa. */
const RISES_PA = 10_000

/** The first question: may the charge stay, shut into the outdoor unit? */
export function ShutInQuestion() {
  const { state, data, note, closed } = useJob()
  const show = useShow()
  if (closed || data.system?.trade === 'vehicle' || state.transfers.length > 0) return null
  const lines = (data.system?.lines ?? []).filter((each) => each.kind === 'liquid')
  const beyondM = lines.reduce((sum, each) => sum + Math.max(0, each.lengthM - each.coveredM), 0)
  const clock = clocksOf(state, null).find((each) => each.what === 'pull')
  const watch = state.watches.findLast((each) => each.what === 'pull')
  const lows = state.pressureNotes.filter(
    (each) => each.point === 'low' && watch && each.at >= watch.startedAt,
  )
  const [first, last] = [lows[0], lows.at(-1)]
  const rose = first && last && first !== last ? last.value - first.value : undefined
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
      {rose !== undefined && (
        <p className={rose > RISES_PA ? 'field-error mb-1' : 'mb-1'} role="status">
          {rose > RISES_PA
            ? `The low side rose by ${show('pressure-difference', rose)}: a valve does not hold. Recover instead.`
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
          disabled={rose !== undefined && rose > RISES_PA}
          onClick={() => note([draft('recovery-ended', { how: 'shut-in' })])}
        >
          It is shut in, and holds
        </Button>
      </div>
    </details>
  )
}
