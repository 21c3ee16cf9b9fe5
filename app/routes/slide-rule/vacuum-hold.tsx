import { type DragEvent, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Form, Link, useSubmit } from 'react-router'
import { UnitError, ZERO_CELSIUS_K, parseLinear, parseTemperature } from '#core/units'
import { typedIn } from '~/form/read.server'
import { preferencesOf } from '~/session/preferences'
import { signedIn } from '~/session/signed-in.server'
import { HOLD_TOOL, judgedHold, reasonsOf } from '~/slide-rule/hold/outcome'
import { HoldTextError, readHoldText } from '~/slide-rule/hold/read'
import { Field, FieldNotes } from '~/ui/field'
import { VerdictCard } from '~/ui/verdict-card'
import { useReadersUnits } from '~/ui/reader'
import '~/styles/slide-rule.scss'
import type { Route } from './+types/vacuum-hold'
import { LineChart } from './charts'
import { Notes, Working } from './result'

export function meta() {
  return [{ title: `${HOLD_TOOL.title} · Slide rule · Keg` }]
}

const NAMES = ['readings', 'previous', 'ambient', 'volume'] as const
type Name = (typeof NAMES)[number]
const LONGEST = 500_000

/** Judges what was pasted. What cannot be read keeps what was typed, with a sentence on its field. */
export async function action({ request, context }: Route.ActionArgs) {
  const { person } = signedIn(context)
  const reading = { units: preferencesOf(person.preferences).units }
  const form = await typedIn(request)
  const typed = Object.fromEntries(
    NAMES.map((name) => [name, (form[name] ?? '').slice(0, LONGEST)]),
  ) as Record<Name, string>
  const errors: Partial<Record<Name, string>> = {}
  const read = <T,>(name: Name, how: (text: string) => T): T | undefined => {
    const text = typed[name].trim()
    if (text === '') return undefined
    try {
      return how(text)
    } catch (error) {
      if (!(error instanceof HoldTextError || error instanceof UnitError)) throw error
      errors[name] = error.message
      return undefined
    }
  }
  const holdIn = (text: string) => readHoldText(text, reading.units.vacuum)
  const readings = read('readings', holdIn)
  const previous = read('previous', holdIn)
  const ambientK = read('ambient', (text) => within(parseTemperature(text, reading.units.temperature)))
  const volume = read('volume', (text) => parseLinear('capacity', text, 'L'))
  if (!readings && !errors.readings)
    errors.readings = 'Paste the readings: a time and a pressure on each line.'
  if (!readings || Object.keys(errors).length > 0) return { typed, errors }
  const judged = judgedHold(
    {
      readings,
      ...(previous && { previous }),
      ...(ambientK !== undefined && { ambientK }),
      ...(volume !== undefined && { volumeM3: { least: volume, most: volume } }),
    },
    reading,
  )
  return { typed, errors, judged: { ...judged, reasons: reasonsOf(judged.judgement) } }
}

function within(tempK: number): number {
  if (tempK < ZERO_CELSIUS_K - 30 || tempK > ZERO_CELSIUS_K + 60)
    throw new UnitError('Between −30 and 60 °C: check the number and its unit.')
  return tempK
}

const EXAMPLE = '0  410\n1  980\n2  1390\n3  1690\n4  1900\n6  2170\n8  2300\n10  2370\n12  2400\n15  2420'

/** A hold from its readings: pasted, typed or dropped as a file. */
export default function VacuumHold({ actionData }: Route.ComponentProps) {
  const submit = useSubmit()
  const form = useRef<HTMLFormElement>(null)
  const [text, setText] = useState(actionData?.typed.readings ?? '')
  const { units } = useReadersUnits()
  const judged = actionData?.judged
  const judge = (readings: string) => {
    setText(readings)
    const data = new FormData(form.current!)
    data.set('readings', readings)
    void submit(data, { method: 'post', preventScrollReset: true })
  }
  const open = (file: File | undefined) => void file?.text().then(judge)
  const drop = (event: DragEvent) => {
    if (event.dataTransfer.files.length === 0) return
    event.preventDefault()
    open(event.dataTransfer.files[0])
  }
  return (
    <div className="tool">
      <div className="page-head tool-head">
        <h1>{HOLD_TOOL.title}</h1>
        <span className="quiet">{HOLD_TOOL.question}</span>
        <div className="actions no-print">
          <Link className="btn btn-outline-secondary" to="/slide-rule">
            All tools
          </Link>
        </div>
      </div>
      <div className="tool-answer">
        {judged ? (
          <VerdictCard verdict={judged.judgement.verdict} />
        ) : (
          <p className="empty">
            Paste the readings, and the answer stands here.{' '}
            <Button variant="link" className="p-0 align-baseline" onClick={() => judge(EXAMPLE)}>
              Show me an example
            </Button>
          </p>
        )}
      </div>
      <Form ref={form} method="post" className="tool-form sheet stack no-print" preventScrollReset>
        <div className="field">
          <label className="form-label" htmlFor="readings">
            Readings since the pump was valved off
          </label>
          <textarea
            id="readings"
            name="readings"
            className={`form-control digits ${actionData?.errors.readings ? 'is-invalid' : ''}`}
            rows={10}
            value={text}
            spellCheck={false}
            aria-describedby="readings-help"
            placeholder={EXAMPLE}
            onChange={(event) => setText(event.target.value)}
            onPaste={(event) => {
              const pasted = event.clipboardData.getData('text')
              if (text.trim() !== '' || !pasted.includes('\n')) return
              event.preventDefault()
              judge(pasted)
            }}
            onDragOver={(event) => event.preventDefault()}
            onDrop={drop}
          />
          <FieldNotes
            id="readings-help"
            error={actionData?.errors.readings}
            help={`A time and a pressure on each line: minutes and ${units.vacuum} where no heading says otherwise (t_s,p_micron). 1:30 is a minute and a half. A CSV file can be dropped here.`}
          />
        </div>
        <label className="btn btn-outline-secondary">
          Open a CSV file
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="visually-hidden"
            onChange={(event) => open(event.target.files?.[0])}
          />
        </label>
        <Field
          name="ambient"
          label="Temperature around it"
          value={actionData?.typed.ambient}
          error={actionData?.errors.ambient}
          help="What water can reach depends on it."
          maxLength={20}
        />
        <details open={Boolean(actionData?.typed.previous || actionData?.typed.volume)}>
          <summary>The hold before it, inner volume</summary>
          <div className="stack mt-2">
            <div className="field">
              <label className="form-label" htmlFor="previous">
                Readings of the hold before, same system
              </label>
              <textarea
                id="previous"
                name="previous"
                className={`form-control digits ${actionData?.errors.previous ? 'is-invalid' : ''}`}
                rows={5}
                defaultValue={actionData?.typed.previous}
                spellCheck={false}
                aria-describedby="previous-help"
              />
              <FieldNotes
                id="previous-help"
                error={actionData?.errors.previous}
                help="A leak’s slope stays after pumping again, water gives less."
              />
            </div>
            <Field
              name="volume"
              label="Inner volume"
              value={actionData?.typed.volume}
              error={actionData?.errors.volume}
              help="Then a leak is said in Pa·L/s too."
              maxLength={20}
            />
          </div>
        </details>
        <Button type="submit" variant="outline-primary">
          Judge it
        </Button>
      </Form>
      {judged && (
        <div className="tool-rest stack">
          {judged.judgement.cause && <LineChart chart={judged.chart} />}
          <Working steps={judged.working} />
          <Notes outcome={{ ...judged, unknown: [] }} />
        </div>
      )}
    </div>
  )
}
