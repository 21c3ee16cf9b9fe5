import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { stopWeightMg } from '#core/charging'
import { onTheScale, type Run, type WeighMode } from '#core/tape'
import { draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useShow, Value } from '~/ui/reader'
import { useJob } from '../job-context'
import { contentsBeforeMg, grossLimitMg } from './contents'
import { useFigure } from './use-figure'

const NEAR = 0.9

/** A transfer under way: how much has moved, how much may still, and the next weight. */
export function Running({ run }: { run: Run }) {
  const { closed } = useJob()
  return (
    <div className="running">
      <RunFigures run={run} />
      {run.use === 'recover' && <LimitBar run={run} />}
      {!closed && <NextWeight run={run} />}
    </div>
  )
}

function RunFigures({ run }: { run: Run }) {
  const { state, cylinderOf } = useJob()
  const show = useShow()
  const rate = rateMgPerMin(run)
  const targetMg = state.target?.massMg
  const toGoMg = run.use === 'charge' && targetMg !== undefined ? targetMg - state.chargedMg : undefined
  const first = run.weighings[0]!
  return (
    <div>
      <div className="gauge-row">
        <div>
          <div className="quiet">
            {toGoMg === undefined
              ? `${run.use === 'recover' ? 'Recovered into' : 'Charged from'} ${cylinderOf(run.cylinderId)?.label ?? 'the cylinder'}`
              : 'Still to go in'}
          </div>
          <div className="hero" aria-live="polite">
            {show('weight', toGoMg ?? run.amountMg)}
          </div>
        </div>
        {toGoMg !== undefined && run.modes.length === 1 && (
          <div>
            <div className="quiet">Close the valve when the scale shows</div>
            <div className="big">
              {show('weight', stopWeightMg(first.weightMg, targetMg! - (state.chargedMg - run.amountMg), 0))}
            </div>
          </div>
        )}
        <div>
          <div className="quiet">Scale shows</div>
          <div className="big">
            <Value kind="weight" of={run.weighings.at(-1)!.weightMg} /> {run.mode === 'net' && 'net'}
          </div>
        </div>
        {rate !== undefined && (
          <div>
            <div className="quiet">Between the last two</div>
            <div className="big">{show('weight', rate)}/min</div>
          </div>
        )}
      </div>
      {toGoMg !== undefined && toGoMg < 0 && (
        <p className="field-error mb-0" role="alert">
          {show('weight', -toGoMg)} more than the target has gone in: close the cylinder.
        </p>
      )}
    </div>
  )
}

function LimitBar({ run }: { run: Run }) {
  const { state, data, cylinderOf } = useJob()
  const show = useShow()
  const cylinder = cylinderOf(run.cylinderId)
  if (!cylinder) return null
  const earlier = state.runs.slice(0, state.runs.indexOf(run))
  const limitMg = grossLimitMg(cylinder, state.refrigerant, data.shop.marginPct)
  const scale = onTheScale(run, {
    tareMg: cylinder.tareMg,
    contentsBeforeMg: contentsBeforeMg(cylinder, earlier),
    ...(limitMg === undefined ? {} : { grossLimitMg: limitMg }),
  })
  if (scale.limitMg === undefined || scale.leftMg === undefined)
    return (
      <p className="field-error mb-0">
        No gross limit is known for this cylinder: enter its stamps under Cylinders.
      </p>
    )
  const share = (scale.grossMg - cylinder.tareMg) / (scale.limitMg - cylinder.tareMg)
  const over = scale.leftMg < 0
  return (
    <div className="limit">
      <div className="spread">
        <span>
          Gross now <strong className="digits">{show('weight', scale.grossMg)}</strong>
        </span>
        <span>
          never past <strong className="digits">{show('weight', scale.limitMg)}</strong>
        </span>
      </div>
      <div className={`limit-bar ${over ? 'over' : share > NEAR ? 'near' : ''}`} aria-hidden>
        <div style={{ width: `${Math.min(100, Math.max(0, 100 * share))}%` }} />
      </div>
      {over ? (
        <p className="field-error mb-0" role="alert">
          {show('weight', -scale.leftMg)} past the limit: stop, close the cylinder, take some out again. An
          overfilled cylinder bursts when it warms.
        </p>
      ) : (
        <span className={share > NEAR ? 'field-error' : 'quiet'}>
          {share > NEAR && 'Near the limit: '}room for {show('weight', scale.leftMg)} more
        </span>
      )}
    </div>
  )
}

type Asked = 'weigh' | 'end' | 'scale'

function NextWeight({ run }: { run: Run }) {
  const { note } = useJob()
  const [form, setForm] = useState<Asked>('weigh')
  const weight = useFigure('weight')
  const hose = useFigure('weight')
  const [scale, setScale] = useState('')
  const [mode, setMode] = useState<WeighMode>('gross')
  const { runId, use } = run

  const submit = (event: FormEvent) => {
    event.preventDefault()
    const weightMg = form === 'scale' && mode === 'net' ? (weight.value ?? 0) : weight.want()
    if (weightMg === undefined) return
    if (form === 'weigh') note([draft('weight-noted', { runId, weightMg })])
    if (form === 'scale') note([draft('scale-changed', { runId, scale: scale.trim(), mode, weightMg })])
    if (form === 'end') {
      const hoseMg = hose.empty ? 0 : hose.want()
      if (hoseMg === undefined) return
      note([draft('run-ended', { runId, weightMg, hoseMg: Math.max(0, hoseMg) })])
    }
    weight.clear()
    setForm('weigh')
  }
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
      <div className="take">
        <MeasureInput
          {...weight.field}
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
          {{ weigh: 'Note weight', end: 'End this transfer', scale: 'Go on with this scale' }[form]}
        </Button>
      </div>
      {form === 'end' && use === 'charge' && (
        <MeasureInput
          {...hose.field}
          label="Left in the hoses (may stay empty)"
          help="What the running system does not swallow is not in it."
        />
      )}
      {form === 'scale' && (
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
            <Form.Select id="other-mode" value={mode} onChange={(e) => setMode(e.target.value as WeighMode)}>
              <option value="gross">gross: the whole cylinder</option>
              <option value="net">net: zeroed with it on</option>
            </Form.Select>
          </Form.Group>
        </div>
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
          <Button variant="outline-secondary" onClick={() => setForm('weigh')}>
            Back
          </Button>
        )}
      </div>
    </form>
  )
}

function rateMgPerMin(run: Run): number | undefined {
  const [before, last] = run.weighings.slice(-2)
  if (!before || !last || before.segment !== last.segment || last.at - before.at < 5_000) return undefined
  return Math.abs(last.weightMg - before.weightMg) / ((last.at - before.at) / 60_000)
}
