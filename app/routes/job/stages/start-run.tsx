import { type FormEvent, useState, useSyncExternalStore } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { Use, WeighMode } from '#core/tape'
import { newId } from '~/tape/device'
import { draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useShow, Value } from '~/ui/reader'
import { useJob } from '../job-context'
import { contentsBeforeMg } from './contents'
import { useFigure } from './use-figure'

const SCALE_KEY = 'keg-scale'
/** Further off than this from tare and books, someone should look before gas moves. */
const WORTH_SAYING_MG = 100_000

const never = () => () => {}
const rememberedScale = () => localStorage.getItem(SCALE_KEY) ?? ''

/** Cylinder on the scale, its weight noted: the transfer begins. */
export function StartRun({ use }: { use: Use }) {
  const { state, note, cylinderOf } = useJob()
  const show = useShow()
  const options = [
    ...new Set(
      [...state.chosen.filter((c) => c.use === use), ...state.runs.filter((r) => r.use === use)].map(
        (c) => c.cylinderId,
      ),
    ),
  ]
  const [picked, setPicked] = useState<string>()
  const cylinderId = picked && options.includes(picked) ? picked : options[0]
  const [mode, setMode] = useState<WeighMode>('gross')
  const [typedScale, setScale] = useState<string>()
  const remembered = useSyncExternalStore(never, rememberedScale, () => '')
  const scale = typedScale ?? remembered
  const weight = useFigure('weight')
  const cylinder = cylinderId ? cylinderOf(cylinderId) : undefined
  if (!cylinderId || !cylinder) return null

  const booksMg = cylinder.tareMg + contentsBeforeMg(cylinder, state.runs)
  const offMg = mode === 'gross' && weight.value !== undefined ? weight.value - booksMg : 0
  const start = (event: FormEvent) => {
    event.preventDefault()
    const weightMg = mode === 'net' ? (weight.value ?? 0) : weight.want()
    if (weightMg === undefined) return
    localStorage.setItem(SCALE_KEY, scale.trim())
    note([draft('run-started', { runId: newId(), use, cylinderId, scale: scale.trim(), mode, weightMg })])
  }
  return (
    <form onSubmit={start} className="stack" style={{ gap: '0.75rem' }}>
      <div className="form-grid">
        <Form.Group className="field">
          <Form.Label htmlFor={`cylinder-${use}`}>Cylinder on the scale</Form.Label>
          <Form.Select
            id={`cylinder-${use}`}
            value={cylinderId}
            onChange={(event) => setPicked(event.target.value)}
          >
            {options.map((id) => (
              <option key={id} value={id}>
                {cylinderOf(id)?.label}
              </option>
            ))}
          </Form.Select>
          <div className="field-help">
            By its tare and the books it weighs <Value kind="weight" of={booksMg} />.
          </div>
        </Form.Group>
        <Form.Group className="field">
          <Form.Label htmlFor={`mode-${use}`}>Gross or net</Form.Label>
          <Form.Select
            id={`mode-${use}`}
            value={mode}
            onChange={(event) => setMode(event.target.value as WeighMode)}
          >
            <option value="gross">gross: the whole cylinder</option>
            <option value="net">net: zeroed with it on</option>
          </Form.Select>
        </Form.Group>
        <Form.Group className="field">
          <Form.Label htmlFor={`scale-${use}`}>Which scale (may stay empty)</Form.Label>
          <Form.Control
            id={`scale-${use}`}
            value={scale}
            maxLength={80}
            onChange={(event) => setScale(event.target.value)}
          />
        </Form.Group>
        <MeasureInput
          {...weight.field}
          hero
          label="Start weight"
          help={
            mode === 'net'
              ? 'Leave it empty when the scale shows zero.'
              : use === 'recover'
                ? 'Tare after purging the hoses: purging changes the weight.'
                : undefined
          }
        />
      </div>
      {Math.abs(offMg) > WORTH_SAYING_MG && (
        <p className="mb-0 field-error" role="status">
          {show('weight', Math.abs(offMg))} {offMg > 0 ? 'more' : 'less'} than tare and books say. Does a hose
          pull, does something lean on the platform, is it the right cylinder? You can start all the same.
        </p>
      )}
      <div>
        <Button type="submit" className="btn-big">
          {use === 'recover' ? 'Start recovery' : 'Start to charge'}
        </Button>
      </div>
    </form>
  )
}
