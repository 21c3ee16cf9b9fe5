import { Form } from 'react-bootstrap'
import { kitAt } from '#core/tape'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useShow } from '~/base/ui/reader'
import { useJob } from '../field/job-context'
import { useFigure } from '../field/use-figure'

/** The machine that pulls in this job; undefined: none is named. */
export function useMachine() {
  const { state } = useJob()
  return kitAt(state, ['machine', 'station'])
}

/** How this machine is shut down: makers differ, and the order is kept with it. */
export function ShutDownSteps() {
  const machine = useMachine()
  const steps = machine?.facts.shutDown?.split('\n').filter((line) => line.trim() !== '') ?? []
  if (!machine || (steps.length === 0 && !machine.facts.purgeWay)) return null
  return (
    <details open>
      <summary>Shut down {machine.label} in its own order</summary>
      <ol className="mb-0">
        {steps.map((step, i) => (
          <li key={i}>{step}</li>
        ))}
      </ol>
      {machine.facts.purgeWay && <p className="mb-0 quiet">Purge: {machine.facts.purgeWay}</p>}
    </details>
  )
}

/** Ended without a purge: what the machine keeps is booked into it. */
export function useNotPurged() {
  const machine = useMachine()
  const show = useShow()
  const kept = useFigure('weight', 'rig kept')
  const holdUpMg = machine?.facts.holdUpMg
  const massMg = kept.empty ? holdUpMg : kept.value
  return {
    machine,
    field: machine && (
      <MeasureInput
        {...kept.field}
        label={`${machine.label} keeps about`}
        help={
          holdUpMg === undefined
            ? 'Machine and hoses: 30 to 350 g is usual. It is known to about half of it.'
            : `Left empty: ${show('weight', holdUpMg)}, as entered with it. It is known to about half of it.`
        }
      />
    ),
    massMg: massMg !== undefined && massMg > 0 ? massMg : undefined,
    entry: () => (machine && massMg ? [draft('rig-kept', { kitId: machine.kitId, massMg })] : []),
  }
}

export function NotPurgedTick({
  ticked,
  change,
  label,
}: {
  ticked: boolean
  change: (ticked: boolean) => void
  label: string
}) {
  return (
    <Form.Check
      id="not-purged"
      label={`${label} is not purged now: what it keeps is booked into it`}
      checked={ticked}
      onChange={(event) => change(event.target.checked)}
    />
  )
}
