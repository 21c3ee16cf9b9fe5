import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { injectorSteps, judgeOilType, OIL_TYPES, type OilType } from '#core/oil'
import { needsClearing, oilDueMl } from '#core/tape'
import { draft } from '~/tape/draft'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { MeasureInput } from '~/base/ui/measure-field'
import { useShow } from '~/base/ui/reader'
import { useJob } from '~/job/field/job-context'
import { useFigure, useWordsTyped } from '~/job/field/use-figure'
import { BottleChoice, useBottles } from './bottles'
import { useDrive } from '~/job/field/drive'

const STEPS_ML = [1, 2, 5, 10]

/** Fresh oil from a bottle: how much in whole steps of the injector, and whether it is the right one. */
export function PutIn() {
  const { state, note } = useJob()
  const show = useShow()
  const drive = useDrive()
  const bottles = useBottles('oil')
  const [bottleId, setBottle] = useWordsTyped('oil bottle')
  const [typed, setTyped] = useWordsTyped('oil type')
  const [stepText, setStep] = useWordsTyped('injector step')
  const [text, setText] = useWordsTyped('oil words')
  const [anyway, setAnyway] = useState(false)
  const amount = useFigure('volume', 'oil in')
  const bottle = bottles.find((each) => each.kitId === bottleId)
  const type = asType(bottle?.facts.oilType) ?? OIL_TYPES.find((each) => each === typed)
  const dueMl = Math.max(0, oilDueMl(state))
  const step = STEPS_ML.find((each) => String(each) === stepText) ?? 5
  const steps = injectorSteps(dueMl, step)
  const verdict =
    type && drive && (state.refrigerant || drive === 'high-voltage')
      ? judgeOilType(type, state.refrigerant ?? 'R-1234yf', drive)
      : undefined
  const uncleared = drive === 'high-voltage' && needsClearing({ ...state, drive })
  const stopped = (uncleared || verdict?.outcome === 'bad') && !anyway
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const volumeMl = amount.want()
    if (volumeMl === undefined || stopped) return
    note([
      // The tape judges by itself: it must know the drive that was judged by.
      ...(drive && !state.drive && drive !== 'stationary' ? [draft('drive-noted', { drive })] : []),
      draft('oil-noted', {
        direction: 'in',
        volumeMl,
        text: text.trim(),
        ...(type && { oil: type }),
        ...(bottle && { bottleId: bottle.kitId }),
        ...(bottle?.facts.dyed && { dyed: true }),
      }),
    ])
    amount.clear()
    setText('')
    setAnyway(false)
  }
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
      <h3 className="mb-0">What goes in</h3>
      <div className="form-grid">
        <BottleChoice id="oil-bottle" bottles={bottles} chosen={bottle} choose={setBottle} />
        {!asType(bottle?.facts.oilType) && (
          <Form.Group className="field">
            <Form.Label htmlFor="oil-type">Which oil</Form.Label>
            <Form.Select id="oil-type" value={type ?? ''} onChange={(event) => setTyped(event.target.value)}>
              <option value="">not said</option>
              {OIL_TYPES.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        <MeasureInput {...amount.field} label="How much went in" />
        <Form.Group className="field">
          <Form.Label htmlFor="injector-step">The injector’s step</Form.Label>
          <Form.Select id="injector-step" value={step} onChange={(event) => setStep(event.target.value)}>
            {STEPS_ML.map((each) => (
              <option key={each} value={each}>
                {show('volume', each)}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group className="field">
          <Form.Label htmlFor="oil-text">Grade, remarks (may stay empty)</Form.Label>
          <Form.Control
            id="oil-text"
            value={text}
            maxLength={200}
            onChange={(e) => setText(e.target.value)}
          />
        </Form.Group>
      </div>
      {dueMl > 0 && (
        <div className="row-of">
          <Button
            type="button"
            variant="outline-primary"
            onClick={() => amount.setText(`${steps.volumeMl} ml`)}
          >
            {steps.steps} steps: {show('volume', steps.volumeMl)}
          </Button>
          {steps.extraMl > 0 && (
            <span className="quiet">{show('volume', steps.extraMl)} more than needed: rounded up.</span>
          )}
        </div>
      )}
      {verdict && verdict.outcome !== 'good' && <VerdictCard verdict={verdict} />}
      {bottle?.facts.dyed && (
        <p className="mb-0">
          This oil has dye in it: do not add any{state.dyed && ', and dye is in already'}.
        </p>
      )}
      {stopped && (
        <p className="mb-0 field-error" role="status">
          {uncleared ? 'Clear the way of other oils first, above.' : 'Take the right oil.'}{' '}
          <Button variant="link" className="p-0" onClick={() => setAnyway(true)}>
            It went in already: note what happened
          </Button>
        </p>
      )}
      <div>
        <Button type="submit" className="btn-big" disabled={stopped}>
          Note the oil
        </Button>
      </div>
    </form>
  )
}

/** A bottle's own words for its oil, where they name a type. */
const asType = (words: string | undefined): OilType | undefined =>
  words === undefined ? undefined : OIL_TYPES.find((each) => new RegExp(`\\b${each}\\b`, 'i').test(words))
