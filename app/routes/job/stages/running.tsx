import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { grossLimitMg } from '#core/cylinders'
import {
  doubtOf,
  inSystemNow,
  onTheScale,
  stopReadingMg,
  toGoMg,
  type Transfer,
  type WeighingDoubt,
  type WeighMode,
} from '#core/tape'
import { serverNow } from '~/tape/device'
import { draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useShow, Value } from '~/ui/reader'
import { DOUBT_WORDS } from '~/wording/en'
import { useJob, useJudging } from '../job-context'
import { contentsBeforeMg } from './contents'
import { DivisionField, divisionOf } from './division-field'
import { useFigure } from './use-figure'

const NEAR = 0.9

/** A transfer under way: how much has moved, how much may still, and the next weight. */
export function Running({ transfer }: { transfer: Transfer }) {
  const { data, closed } = useJob()
  return (
    <div className="running">
      <Figures transfer={transfer} />
      {transfer.use === 'recover' && <LimitBar transfer={transfer} />}
      {data.busy.includes(transfer.cylinderId) && (
        <p className="field-error mb-0" role="alert">
          A transfer of another job runs on this cylinder at the same time: what the scale sees belongs to
          both. End one of them, and correct it.
        </p>
      )}
      <LastDoubt transfer={transfer} />
      {!closed && <NextWeight transfer={transfer} />}
    </div>
  )
}

function Figures({ transfer }: { transfer: Transfer }) {
  const { state, cylinderOf } = useJob()
  const judging = useJudging()
  const show = useShow()
  const rate = rateMgPerMin(transfer)
  const left = transfer.use === 'charge' ? toGoMg(state, judging) : undefined
  const stopMg = stopReadingMg(state, transfer, judging)
  const now = inSystemNow(state, judging)
  const segment = transfer.segments.at(-1)!
  return (
    <div>
      <div className="gauge-row">
        <div>
          <div className="quiet">
            {left === undefined
              ? `${transfer.use === 'recover' ? 'Recovered into' : 'Charged from'} ${cylinderOf(transfer.cylinderId)?.label ?? 'the cylinder'}`
              : 'Still to go in'}
          </div>
          <div className="hero" aria-live="polite">
            {show('weight', left ?? transfer.amountMg)}
          </div>
        </div>
        {stopMg !== undefined && (
          <div>
            <div className="quiet">Close the valve when the scale shows</div>
            <div className="big">{show('weight', stopMg)}</div>
          </div>
        )}
        <div>
          <div className="quiet">Scale shows</div>
          <div className="big">
            <Value kind="weight" of={segment.lastMg} /> {segment.mode === 'net' && 'net'}
          </div>
        </div>
        {rate !== undefined && (
          <div>
            <div className="quiet">Between the last two</div>
            <div className="big">{show('weight', rate)}/min</div>
          </div>
        )}
      </div>
      {transfer.use === 'charge' && now.kind === 'not-known' && (
        <p className="quiet mb-0">
          The system was not emptied in this job and nobody knows what was in it: there is no stop weight.
          Only {show('weight', now.changeMg)} was added.
        </p>
      )}
      {(now.kind === 'from-books' || now.kind === 'from-plate') && left !== undefined && (
        <p className="quiet mb-0">
          Reckoned from what {now.kind === 'from-books' ? 'the books' : 'the plate'} had in it: it was not
          emptied in this job.
        </p>
      )}
      {transfer.use === 'charge' && transfer.plannedHoseMg > 0 && (
        <p className="quiet mb-0">
          The stop weight leaves {show('weight', transfer.plannedHoseMg)} for the hose.
        </p>
      )}
      {transfer.gaps.map(({ segment: index, gapMg }) => (
        <p key={index} className="quiet mb-0">
          The two scales differ by {show('weight', Math.abs(gapMg))}: the second reads{' '}
          {gapMg > 0 ? 'more' : 'less'}.
        </p>
      ))}
      {left !== undefined && left < 0 && (
        <p className="field-error mb-0" role="alert">
          {show('weight', -left)} more than the target is in it: close the cylinder.
        </p>
      )}
    </div>
  )
}

function LimitBar({ transfer }: { transfer: Transfer }) {
  const { state, data, cylinderOf } = useJob()
  const show = useShow()
  const cylinder = cylinderOf(transfer.cylinderId)
  if (!cylinder) return null
  const earlier = state.transfers.slice(0, state.transfers.indexOf(transfer))
  const scale = onTheScale(transfer, {
    tareMg: cylinder.tareMg,
    contentsBeforeMg: contentsBeforeMg(cylinder, earlier),
    grossLimitMg: grossLimitMg(cylinder, state.refrigerant, data.shop.marginPct),
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
          {share > NEAR && 'Near the limit, next cylinder ready: '}room for {show('weight', scale.leftMg)}{' '}
          more
        </span>
      )}
    </div>
  )
}

/** What the last weight may be instead of what it says, as long as it is the last. */
function LastDoubt({ transfer }: { transfer: Transfer }) {
  const { doubt } = transfer.weighings.at(-1)!
  if (!doubt) return null
  return (
    <p className="field-error mb-0" role="status">
      {DOUBT_WORDS[doubt]} If it was a slip, correct it on the tape.
    </p>
  )
}

type Asked = 'weigh' | 'end' | 'scale'

function NextWeight({ transfer }: { transfer: Transfer }) {
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
    setDoubt(undefined)
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
          ...(valveShut ? { valveShut } : {}),
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

function rateMgPerMin(transfer: Transfer): number | undefined {
  const [before, last] = transfer.weighings.slice(-2)
  if (!before || !last || before.segment !== last.segment || last.at - before.at < 5_000) return undefined
  return Math.abs(last.weightMg - before.weightMg) / ((last.at - before.at) / 60_000)
}
