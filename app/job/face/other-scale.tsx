import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { Transfer, WeighMode } from '#core/tape'
import { draft, readOff } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useJob } from '../field/job-context'
import { ScaleChoice, useScaleChoice } from '../kit/scale-choice'
import { TakeLive, useTaken } from '~/device/live/take-live'
import { useFigure } from '../field/use-figure'

/** The cylinder goes on another scale: its first weight there. */
export function OtherScale({ transfer, done }: { transfer: Transfer; done: () => void }) {
  const { note } = useJob()
  const weight = useFigure('weight', 'other scale')
  const scale = useScaleChoice(transfer.segments.at(-1)!.scaleId ?? '')
  const taken = useTaken(weight.setText, scale.chosen?.kitId)
  const [mode, setMode] = useState<WeighMode>('gross')
  const [valveShut, setValveShut] = useState(false)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const weightMg = mode === 'net' ? (weight.value ?? 0) : weight.want()
    if (weightMg === undefined) return
    const changed = draft('scale-changed', {
      runId: transfer.transferId,
      ...scale.named(),
      mode,
      weightMg,
      ...(valveShut ? { valveShut } : {}),
    })
    note([readOff(changed, taken.from(weightMg))])
    weight.clear()
    scale.clear()
    done()
  }
  return (
    <form onSubmit={submit} className="stack face-other" style={{ gap: '0.5rem' }}>
      <MeasureInput {...weight.field} hero autoFocus label="The other scale shows" />
      <div className="form-grid">
        <ScaleChoice id="other" choice={scale} />
        <Form.Group className="field">
          <Form.Label htmlFor="other-mode">It shows</Form.Label>
          <Form.Select id="other-mode" value={mode} onChange={(e) => setMode(e.target.value as WeighMode)}>
            <option value="gross">gross: the whole cylinder</option>
            <option value="net">net: zeroed with it on</option>
          </Form.Select>
        </Form.Group>
      </div>
      <TakeLive taken={taken} />
      <Form.Check
        id="valve-shut"
        label={
          mode === 'gross'
            ? 'The valve was shut between the two: what they differ by is how far the scales disagree'
            : 'The valve was shut between the two: nothing passed meanwhile'
        }
        checked={valveShut}
        onChange={(event) => setValveShut(event.target.checked)}
      />
      {mode === 'net' && !valveShut && (
        <p className="quiet mb-0">
          With the valve open, what passes between the two nobody weighs: the amount is known less well.
        </p>
      )}
      <div className="row-of">
        <Button type="submit" className="btn-big">
          Go on with this scale
        </Button>
        <Button variant="outline-secondary" onClick={done}>
          Back
        </Button>
      </div>
    </form>
  )
}
