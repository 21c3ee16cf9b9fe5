import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { doubtOf, type Transfer, type WeighingDoubt, type WeighMode } from '#core/tape'
import { serverNow } from '~/tape/device'
import { draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { DOUBT_WORDS } from '~/wording/en'
import { useJob } from '../job-context'
import { DivisionField, divisionOf } from './division-field'
import { useFigure } from './use-figure'

type Asked = 'weigh' | 'end' | 'scale'

/** The next weight, the last one, or the first on another scale; what cannot be is asked about before it is noted. */
export function NextWeight({ transfer }: { transfer: Transfer }) {
  const { state, note } = useJob()
  const [form, setForm] = useState<Asked>('weigh')
  const weight = useFigure('weight')
  const hose = useFigure('weight')
  const [scale, setScale] = useState('')
  const [mode, setMode] = useState<WeighMode>('gross')
  const [division, setDivision] = useState('')
  const [valveShut, setValveShut] = useState(false)
  const [doubt, setDoubt] = useState<{ code: WeighingDoubt; weightMg: number }>()
  const { transferId: runId, use, segments } = transfer
  const on = segments.at(-1)!.openedBy

  const done = () => {
    weight.clear()
    hose.clear()
    setDoubt(undefined)
    // What was said of one change of scale says nothing of the next.
    setScale('')
    setMode('gross')
    setDivision('')
    setValveShut(false)
    setForm('weigh')
  }
  const write = (weightMg: number) => {
    if (form === 'weigh') note([draft('weight-noted', { runId, weightMg, on })])
    if (form === 'scale')
      note([
        draft('scale-changed', {
          runId,
          scale: scale.trim(),
          mode,
          weightMg,
          ...divisionOf(division),
          ...(valveShut && mode === 'gross' ? { valveShut } : {}),
        }),
      ])
    if (form === 'end') {
      const hoseMg = hose.empty ? undefined : hose.want()
      if (!hose.empty && hoseMg === undefined) return
      note([
        draft('run-ended', {
          runId,
          weightMg,
          on,
          ...(use === 'charge' && hoseMg !== undefined ? { hoseMg: Math.max(0, hoseMg) } : {}),
        }),
      ])
    }
    done()
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const weightMg = form === 'scale' && mode === 'net' ? (weight.value ?? 0) : weight.want()
    if (weightMg === undefined) return
    const code = form === 'scale' ? undefined : doubtOf(transfer, { at: serverNow(state), weightMg })
    if (code && !(doubt?.weightMg === weightMg)) return setDoubt({ code, weightMg })
    write(weightMg)
  }
  const zeroedAgain = () => {
    const { scale: name, divisionMg } = segments.at(-1)!
    note([
      draft('scale-changed', {
        runId,
        scale: name,
        mode: 'net',
        weightMg: doubt!.weightMg,
        ...(divisionMg === null ? {} : { divisionMg }),
      }),
    ])
    done()
  }
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
      <div className="take">
        <MeasureInput
          {...weight.field}
          onChange={(text) => {
            setDoubt(undefined)
            weight.field.onChange(text)
          }}
          hero
          autoFocus={form !== 'weigh'}
          label={
            { weigh: 'The scale shows', end: 'Final weight on the scale', scale: 'The other scale shows' }[
              form
            ]
          }
          help={
            form === 'end' && use === 'recover'
              ? 'Only after the machine has self-purged: its condenser and hoses still hold 30 to 350 g.'
              : undefined
          }
        />
        <Button type="submit" className="btn-big">
          {doubt
            ? 'It is right: note it'
            : { weigh: 'Note weight', end: 'End this transfer', scale: 'Go on with this scale' }[form]}
        </Button>
      </div>
      {doubt && (
        <div className="field-error" role="alert">
          <p className="mb-1">{DOUBT_WORDS[doubt.code]}</p>
          <div className="row-of">
            {doubt.code === 'zeroed-again' && (
              <Button variant="outline-primary" onClick={zeroedAgain}>
                It was zeroed again: go on from there
              </Button>
            )}
            {doubt.code === 'minus-missing' && (
              <Button variant="outline-primary" onClick={() => write(-doubt.weightMg)}>
                Write it with its minus
              </Button>
            )}
          </div>
        </div>
      )}
      {form === 'end' && use === 'charge' && (
        <MeasureInput
          {...hose.field}
          label="Left in the hoses (may stay empty)"
          help="What the running system does not swallow is not in it."
        />
      )}
      {form === 'scale' && (
        <>
          <div className="form-grid">
            <Form.Group className="field">
              <Form.Label htmlFor="other-scale">Which scale</Form.Label>
              <Form.Control
                id="other-scale"
                value={scale}
                maxLength={80}
                onChange={(e) => setScale(e.target.value)}
              />
            </Form.Group>
            <Form.Group className="field">
              <Form.Label htmlFor="other-mode">It shows</Form.Label>
              <Form.Select
                id="other-mode"
                value={mode}
                onChange={(e) => setMode(e.target.value as WeighMode)}
              >
                <option value="gross">gross: the whole cylinder</option>
                <option value="net">net: zeroed with it on</option>
              </Form.Select>
            </Form.Group>
            <DivisionField id="other-division" value={division} onChange={setDivision} />
          </div>
          {mode === 'gross' && (
            <Form.Check
              id="valve-shut"
              label="The valve was shut between the two: what they differ by is how far the scales disagree"
              checked={valveShut}
              onChange={(event) => setValveShut(event.target.checked)}
            />
          )}
        </>
      )}
      <div className="row-of">
        {form === 'weigh' ? (
          <>
            <Button variant="outline-primary" onClick={() => setForm('end')}>
              Finish …
            </Button>
            <Button variant="outline-secondary" onClick={() => setForm('scale')}>
              Other scale …
            </Button>
          </>
        ) : (
          <Button
            variant="outline-secondary"
            onClick={() => {
              setDoubt(undefined)
              setForm('weigh')
            }}
          >
            Back
          </Button>
        )}
      </div>
    </form>
  )
}
