import { inSentence } from '~/slide-rule/in-sentence'
import { useEffect, useId, useRef, useState } from 'react'
import { Button, Form, InputGroup } from 'react-bootstrap'
import { useNavigation, useSubmit } from 'react-router'
import { AmbiguousError, UnitError, type UnitReading } from '#core/units'
import { type KindName, KINDS, withUnit } from '~/slide-rule/kinds'
import type { ReadersUnits } from '~/base/ui/measure'
import { FieldNotes, SelectField } from '~/base/ui/field'
import { useReadersUnits } from '~/base/ui/reader'
import type { ShownField, ShownInput } from './page'

const PAUSE_MS = 350

interface ToolFormProps {
  name: string
  inputs: ShownInput[]
  /** The answer in short, kept in sight on a phone. */
  answer: { label: string; text: string } | undefined
}

/** The inputs. Each change asks for the result; without scripts the button does. */
export function ToolForm({ name, inputs, answer }: ToolFormProps) {
  const submit = useSubmit()
  const reading = useReadersUnits()
  const form = useRef<HTMLFormElement>(null)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const here = `/slide-rule/${name}`
  // Whoever leaves by a link, or by a key, is not called back by what was typed last.
  const goingTo = useNavigation().location?.pathname
  useEffect(() => {
    if (goingTo !== undefined && goingTo !== here) clearTimeout(timer.current)
  }, [goingTo, here])
  useEffect(() => {
    const follow = (event: MouseEvent) => {
      if ((event.target as Element).closest('a')) clearTimeout(timer.current)
    }
    window.addEventListener('click', follow, true)
    return () => window.removeEventListener('click', follow, true)
  }, [])
  useEffect(() => () => clearTimeout(timer.current), [])

  const send = () => {
    clearTimeout(timer.current)
    if (!form.current) return
    const kinds = new Map(inputs.flatMap(fieldsOf).map((field) => [field.name, field]))
    const asked = new URLSearchParams()
    for (const [key, value] of new FormData(form.current)) {
      const field = kinds.get(key)
      const text = String(value).trim()
      // What is taken anyway does not stand in the link.
      const usual = field?.type === 'choice' && field.options?.[0]?.[0] === text
      if (text !== '' && !usual) asked.set(key, field?.kind ? withUnit(field.kind, text, reading) : text)
    }
    void submit(asked, {
      action: here,
      replace: true,
      preventScrollReset: true,
      state: { own: true },
    })
  }
  // By the time the pause is over the form may have grown a line, which is to be read as it is then.
  const latest = useRef(send)
  useEffect(() => {
    latest.current = send
  })
  const soon = () => {
    clearTimeout(timer.current)
    timer.current = setTimeout(() => latest.current(), PAUSE_MS)
  }
  const shown = inputs.filter((input) => input.rows || !input.field.aside)
  const aside = inputs.flatMap((input) => (!input.rows && input.field.aside ? [input.field] : []))
  const changed = aside.some(({ typed, error }) => typed !== '' || error !== undefined)
  return (
    <form
      ref={form}
      className="tool-form sheet stack no-print"
      method="get"
      onSubmit={(event) => {
        event.preventDefault()
        send()
      }}
    >
      {shown.map((input) =>
        input.rows ? (
          <fieldset key={input.label} className="tool-rows">
            <legend>{input.label}</legend>
            {input.lines.map((line, i) => (
              <div key={i} className="tool-row">
                {line.map((field) => (
                  <ToolField
                    key={field.name}
                    // Said once, on the first line.
                    field={i === 0 ? field : withoutHelp(field)}
                    soon={soon}
                    now={send}
                  />
                ))}
              </div>
            ))}
          </fieldset>
        ) : (
          <ToolField key={input.field.name} field={input.field} soon={soon} now={send} />
        ),
      )}
      {aside.length > 0 && (
        <details open={changed}>
          <summary>
            Taken as usual:{' '}
            {aside.map(({ label, usual }) => `${inSentence(label)} ${usual ?? ''}`.trim()).join(', ')}
          </summary>
          <div className="stack mt-2">
            {aside.map((field) => (
              <ToolField key={field.name} field={field} soon={soon} now={send} />
            ))}
          </div>
        </details>
      )}
      <Button type="submit" variant="outline-primary">
        Work it out
      </Button>
      {answer && (
        <div className="answer-bar" aria-hidden>
          <span>{answer.label}</span>
          <strong>{answer.text}</strong>
        </div>
      )}
    </form>
  )
}

const fieldsOf = (input: ShownInput): ShownField[] => (input.rows ? input.lines.flat() : [input.field])

function withoutHelp({ help: _, ...field }: ShownField): ShownField {
  return field
}

interface ToolFieldProps {
  field: ShownField
  /** After a pause in the typing. */
  soon: () => void
  /** At once. */
  now: () => void
}

function ToolField({ field, soon, now }: ToolFieldProps) {
  const id = useId()
  const { name, type, label, help, error, typed, options } = field
  if (type === 'flag')
    return (
      <Form.Check
        id={id}
        name={name}
        value="yes"
        label={label}
        defaultChecked={typed !== ''}
        onChange={now}
      />
    )
  if (options) return <SelectField {...{ name, label, error, help, options }} value={typed} onChange={now} />
  return <TypedField field={field} soon={soon} now={now} />
}

function TypedField({ field, soon, now }: ToolFieldProps) {
  const { name, type, kind, label, help, error, typed, usual } = field
  const id = useId()
  const reading = useReadersUnits()
  const input = useRef<HTMLInputElement>(null)
  const [text, setText] = useState(typed)
  // Where the field allows one of them only, that one was taken and there is no error.
  const choose =
    kind && (kind === 'weight' || error !== undefined) ? readingsOf(kind, text, reading) : undefined
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      <InputGroup>
        <Form.Control
          ref={input}
          id={id}
          name={name}
          type={type === 'day' ? 'date' : 'text'}
          value={text}
          placeholder={usual ?? ''}
          onChange={(event) => {
            setText(event.target.value)
            soon()
          }}
          isInvalid={error !== undefined}
          aria-describedby={`${id}-notes`}
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          maxLength={60}
        />
        {kind && KINDS[kind].beside(reading) !== '' && (
          <InputGroup.Text>
            {kind === 'pressure'
              ? gaugeUnit(KINDS[kind].beside(reading))
              : degrees(KINDS[kind].beside(reading))}
          </InputGroup.Text>
        )}
      </InputGroup>
      {choose && (
        <div className="echo">
          <span>Which one?</span>
          {choose.map(({ notation }) => (
            <Button
              key={notation}
              variant="outline-primary"
              onClick={() => {
                setText(notation)
                // The form is read once the field shows what was chosen.
                setTimeout(now, 0)
              }}
            >
              {notation}
            </Button>
          ))}
        </div>
      )}
      <FieldNotes id={`${id}-notes`} error={choose ? undefined : error} help={help} />
    </Form.Group>
  )
}

const gaugeUnit = (unit: string) => (unit === 'psi' ? 'psig' : 'bar g')
const degrees = (unit: string) => (unit === 'C' || unit === 'F' ? `°${unit}` : unit.replace('3', '³'))

/** The readings to tap, where what was typed has several. */
function readingsOf(kind: KindName, text: string, reading: ReadersUnits): UnitReading[] | undefined {
  if (text.trim() === '') return undefined
  try {
    KINDS[kind].read(text, reading)
    return undefined
  } catch (error) {
    if (error instanceof AmbiguousError) return error.readings
    if (!(error instanceof UnitError)) throw error
    return undefined
  }
}
