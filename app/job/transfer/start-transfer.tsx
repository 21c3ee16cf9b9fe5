import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { grossLimitMg } from '#core/cylinders'
import { askAboutStart, type Use, type WeighMode } from '#core/tape'
import { newId } from '~/tape/device'
import { draft, readOff } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useShow, Value } from '~/base/ui/reader'
import { REASON_WORDS } from '~/words/en'
import { Question } from '~/tape/question'
import { WANTS_NEXT } from '../face/scale-face'
import { useQuestion } from '~/tape/use-question'
import { HoseReckoned } from '../charge/hose-reckoned'
import { useJob } from '../field/job-context'
import { ScaleChoice, useScaleChoice } from '../kit/scale-choice'
import { TakeLive, useTaken } from '~/device/live/take-live'
import { contentsBeforeMg } from '../moving/contents'
import { useFigure, useWordsTyped } from '../field/use-figure'

/** Cylinder on the scale, its weight noted: the transfer begins. */
export function StartTransfer({ use }: { use: Use }) {
  const { state, data, note, cylinderOf } = useJob()
  const show = useShow()
  const used = state.transfers.filter((each) => each.use === use).map((each) => each.cylinderId)
  const chosen = state.chosen.filter((each) => each.use === use).map((each) => each.cylinderId)
  // The next one that was planned comes before those that have been on the scale already.
  const options = [...new Set([...chosen.filter((id) => !used.includes(id)), ...chosen, ...used])]
  const [picked, setPicked] = useState<string>()
  const cylinderId = picked && options.includes(picked) ? picked : options[0]
  const [mode, setMode] = useState<WeighMode>('gross')
  const scale = useScaleChoice()
  const weight = useFigure('weight', `start ${use}`)
  const hose = useFigure('weight', `hose ${use}`)
  const taken = useTaken(weight.setText, scale.chosen?.kitId)
  const [, setWantsNext] = useWordsTyped(WANTS_NEXT)
  const cylinder = cylinderId ? cylinderOf(cylinderId) : undefined
  const booksMg = cylinder ? cylinder.tareMg + contentsBeforeMg(cylinder, state.transfers) : 0
  const limitMg = cylinder && grossLimitMg(cylinder, state.refrigerant, data.shop.marginPct)
  const { question, mayNote } = useQuestion(
    mode === 'gross' ? weight.value : undefined,
    (weightMg) =>
      cylinder && askAboutStart(use, weightMg, { tareMg: cylinder.tareMg, bookedMg: booksMg, limitMg }),
  )
  if (!cylinderId || !cylinder) return null

  const offMg = mode === 'gross' && weight.value !== undefined ? weight.value - booksMg : 0
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const weightMg = mode === 'net' ? (weight.value ?? 0) : weight.want()
    if (weightMg !== undefined && (mode === 'net' || mayNote(weightMg))) start(weightMg)
  }
  const start = (weightMg: number) => {
    scale.remember()
    const hoseMg = use === 'charge' && !hose.empty ? hose.want() : undefined
    if (use === 'charge' && !hose.empty && hoseMg === undefined) return
    const started = draft('run-started', {
      runId: newId(),
      use,
      cylinderId,
      ...scale.named(),
      mode,
      weightMg,
      bookedMg: booksMg,
      ...(hoseMg === undefined ? {} : { hoseMg: Math.max(0, hoseMg) }),
    })
    note([readOff(started, taken.from(weightMg))])
    weight.clear()
    hose.clear()
    setWantsNext('')
  }
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.75rem' }}>
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
        <ScaleChoice id={use} choice={scale} />
        {use === 'charge' && (
          <MeasureInput
            {...hose.field}
            label="The hose will keep (may stay empty)"
            help="What the running system does not swallow: the stop weight leaves it in the hose."
          />
        )}
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
      {use === 'charge' && <HoseReckoned take={hose.setText} />}
      <TakeLive taken={taken} />
      {data.busy.includes(cylinderId) && (
        <p className="mb-0 field-error" role="status">
          {REASON_WORDS['in-use']}
        </p>
      )}
      {question && weight.value !== undefined && (
        <Question asked={question} instead={start} confirm={() => start(weight.value!)} />
      )}
      {question?.code === 'off-the-books' && (
        <p className="mb-0 field-error" role="status">
          {show('weight', Math.abs(offMg))} {offMg > 0 ? 'more' : 'less'} than tare and books say. Does a hose
          pull, does something lean on the platform, is it the right cylinder? Room is reckoned from the
          fuller of the two until it is weighed again or explained.
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
