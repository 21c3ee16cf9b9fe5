import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { injectorSteps, oilBalance } from '#core/oil'
import { draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useShow } from '~/ui/reader'
import { useJob } from '../job-context'
import { useFigure, useWordsTyped } from './use-figure'

type Direction = 'out' | 'parts' | 'in'
const DIRECTIONS: [Direction, string][] = [
  ['out', 'Came out'],
  ['parts', 'Replaced parts took'],
  ['in', 'Put in'],
]
const STEP_ML = 5

/** What came out goes back, fresh, plus what the replaced parts took. */
export function Oil() {
  const { state, data, note, closed } = useJob()
  const show = useShow()
  const [direction, setDirection] = useState<Direction>('out')
  const [text, setText] = useWordsTyped('oil words')
  const amount = useFigure('volume', 'oil')
  const { outMl, partsMl, inMl, dueMl } = oilBalance(state.oil.outMl, state.oil.partsMl, state.oil.inMl)
  const steps = injectorSteps(Math.max(0, dueMl), STEP_ML)

  const submit = (event: FormEvent) => {
    event.preventDefault()
    const volumeMl = amount.want()
    if (volumeMl === undefined) return
    note([draft('oil-noted', { direction, volumeMl, text: text.trim() })])
    amount.clear()
    setText('')
  }
  return (
    <>
      <div>
        <div className="quiet">{dueMl < 0 ? 'Too much went in' : 'Still to put in'}</div>
        <div className="hero">{show('volume', Math.abs(dueMl))}</div>
        <div className="quiet">
          out {show('volume', outMl)} + parts {show('volume', partsMl)} − in {show('volume', inMl)}
          {steps.extraMl > 0 &&
            ` · in steps of ${show('volume', STEP_ML)}: ${show('volume', steps.volumeMl)}, ${show('volume', steps.extraMl)} more than needed`}
        </div>
      </div>
      <p className="mb-0 quiet">
        {data.system?.oilType ? `The system takes ${data.system.oilType}. ` : ''}Same type and grade, fresh.
        High-voltage compressors: the right POE only, a trace of PAG destroys their insulation.
      </p>
      {!closed && (
        <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
          <div className="form-grid">
            <Form.Group className="field">
              <Form.Label htmlFor="oil-direction">Which way</Form.Label>
              <Form.Select
                id="oil-direction"
                value={direction}
                onChange={(event) => setDirection(event.target.value as Direction)}
              >
                {DIRECTIONS.map(([code, words]) => (
                  <option key={code} value={code}>
                    {words}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <MeasureInput {...amount.field} label="How much" />
            <Form.Group className="field">
              <Form.Label htmlFor="oil-text">Type, part, dye (may stay empty)</Form.Label>
              <Form.Control
                id="oil-text"
                value={text}
                maxLength={200}
                onChange={(e) => setText(e.target.value)}
              />
            </Form.Group>
          </div>
          <div>
            <Button type="submit" className="btn-big">
              Note oil
            </Button>
          </div>
        </form>
      )}
    </>
  )
}
