import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { type OilPart, PART_OIL_ML } from '#core/oil'
import { type Part, PARTS } from '#core/tape'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useShow } from '~/base/ui/reader'
import { PART_WORDS, inSentence } from '~/words/en'
import { StepList } from '~/job/field/step-list'
import { useFigure, useWordsTyped } from '~/job/field/use-figure'
import { useJob } from '~/job/field/job-context'

/** Parts that hold refrigerant or oil: what they change is asked for. */
const HOLDS_GAS: readonly Part[] = ['drier', 'accumulator', 'evaporator', 'condenser', 'hose']
const OIL_OF: Partial<Record<Part, OilPart>> = {
  compressor: 'compressor',
  condenser: 'condenser',
  evaporator: 'evaporator',
  drier: 'drier',
  accumulator: 'drier',
  hose: 'hose',
}

/** What was renewed, each with what it does to charge and oil. */
export function Parts() {
  const { state, note, closed } = useJob()
  const show = useShow()
  const [part, setPart] = useState<Part>()
  const [number, setNumber] = useWordsTyped('part number')
  const [text, setText] = useWordsTyped('part words')
  const oil = useFigure('volume', 'part oil')
  const charge = useFigure('weight', 'part charge')
  const usual = part && OIL_OF[part] ? PART_OIL_ML[OIL_OF[part]] : undefined
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (!part) return
    const [oilMl, chargeMg] = [oil.value, charge.value]
    if ((oilMl === undefined && !oil.empty) || (chargeMg === undefined && !charge.empty)) return
    note([
      draft('part-replaced', {
        part,
        number: number.trim(),
        text: text.trim(),
        ...(oilMl !== undefined && { oilMl }),
        ...(chargeMg !== undefined && { chargeMg }),
      }),
      ...(part === 'drier' ? [draft('step-done', { step: 'repair-drier' })] : []),
    ])
    setPart(undefined)
    setNumber('')
    setText('')
    oil.clear()
    charge.clear()
  }
  return (
    <section className="stack" aria-label="Parts" style={{ gap: '0.75rem' }}>
      <h3 className="mb-0">What was renewed</h3>
      {state.parts.length > 0 && (
        <ul className="mb-0">
          {state.parts.map((each) => (
            <li key={each.entryId}>
              <strong>{PART_WORDS[each.part]}</strong>{' '}
              {each.number && <span className="digits">{each.number}</span>} {each.text}{' '}
              <span className="quiet">
                {each.oilMl > 0 && `takes ${show('volume', each.oilMl)} of oil. `}
                {each.chargeMg !== 0 &&
                  `Charge ${each.chargeMg > 0 ? '+' : ''}${show('weight', each.chargeMg)}.`}
              </span>
            </li>
          ))}
        </ul>
      )}
      {!closed && (
        <div className="tap-row" role="group" aria-label="Which part">
          {PARTS.map((each) => (
            <Button
              key={each}
              variant={each === part ? 'primary' : 'outline-secondary'}
              aria-pressed={each === part}
              onClick={() => setPart(each === part ? undefined : each)}
            >
              {PART_WORDS[each]}
            </Button>
          ))}
        </div>
      )}
      {part && (
        <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
          <div className="form-grid">
            <Form.Group className="field">
              <Form.Label htmlFor="part-number">Part number</Form.Label>
              <Form.Control
                id="part-number"
                value={number}
                maxLength={60}
                onChange={(event) => setNumber(event.target.value)}
              />
            </Form.Group>
            <Form.Group className="field">
              <Form.Label htmlFor="part-text">Anything else</Form.Label>
              <Form.Control
                id="part-text"
                value={text}
                maxLength={400}
                onChange={(event) => setText(event.target.value)}
              />
            </Form.Group>
            {OIL_OF[part] && (
              <MeasureInput
                {...oil.field}
                label="Oil that it takes"
                help={
                  usual
                    ? `Usually ${show('volume', usual.ml)} (${show('volume', usual.least)} to ${show('volume', usual.most)}); the maker’s figure wins.`
                    : 'What the old one held: drain and measure it.'
                }
              />
            )}
            {HOLDS_GAS.includes(part) && (
              <MeasureInput
                {...charge.field}
                label="It holds more refrigerant than the old one by"
                help="Empty: as much as the old one. An oversized drier can hold over a third of a kilogram."
              />
            )}
          </div>
          <div>
            <Button type="submit" className="btn-big">
              Note the {inSentence(PART_WORDS[part])}
            </Button>
          </div>
        </form>
      )}
      {state.parts.some((each) => each.part === 'compressor') && (
        <StepList steps={['compressor-mounts', 'compressor-wiring', 'compressor-contactor']} />
      )}
    </section>
  )
}
