import { type DragEvent, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Form, Link, useSubmit } from 'react-router'
import { typedOf } from '~/base/form/check'
import { typedIn } from '~/base/form/read.server'
import { openDevice } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { preferencesOf } from '~/base/session/preferences'
import { signedIn } from '~/base/session/signed-in.server'
import { judgeForm } from '~/slide-rule/hold/form'
import { HOLD_TOOL } from '~/slide-rule/hold/outcome'
import { Field, FieldNotes } from '~/base/ui/field'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { useReadersUnits } from '~/base/ui/reader'
import '~/styles/slide-rule.scss'
import type { Route } from './+types/vacuum-hold'
import { LineChart } from '~/pages/slide-rule/charts'
import { Notes, Working } from '~/pages/slide-rule/result'

export function meta() {
  return [{ title: `${HOLD_TOOL.title} · Slide rule · Keg` }]
}

/** Judges what was pasted. */
export async function action({ request, context }: Route.ActionArgs) {
  const { person } = signedIn(context)
  return judgeForm(await typedIn(request), { units: preferencesOf(person.preferences).units })
}

/** Without signal it is judged on this device, by the same judge. */
export async function clientAction({ request, serverAction }: Route.ClientActionArgs) {
  const typed = typedOf(await request.clone().formData())
  return sendForm({ serverAction }, async () => {
    const device = await openDevice()
    return device && judgeForm(typed, { units: device.pack.preferences.units })
  })
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
