import { type ReactNode, useId, useState } from 'react'
import { Button, Form, InputGroup } from 'react-bootstrap'
import { useChecked } from './use-checked'
import { FieldNotes, Needed } from './field'
import { measure, type Measured, type MeasureKind, unitBeside } from './measure'
import { useReadersUnits } from './reader'

interface MeasureInputProps {
  kind: MeasureKind
  label: string
  name?: string
  value: string
  onChange: (text: string) => void
  error?: string | undefined
  help?: ReactNode
  /** What follows from what is typed, beside how it is read. */
  follows?: ReactNode
  autoFocus?: boolean
  needed?: boolean
  /** Large figures for the field that matters in a stage. */
  hero?: boolean
}

/**
 * A field in the notation of the trade. Its help stands where, once something is typed, it says how that is read: the next
 * field stays where it is. It says at once how it is read, in the other notation too, and offers the
 * readings to tap when there are several.
 */
export function MeasureInput(props: MeasureInputProps) {
  const { kind, label, name, value, onChange, help, follows, autoFocus, hero, needed } = props
  const { registered, error, set } = useChecked(name, props.error)
  const reading = useReadersUnits()
  const id = useId()
  const measured = measure(kind, value, reading)
  const choose = (notation: string) => {
    set(notation)
    onChange(notation)
  }
  return (
    <Form.Group className={hero ? 'field field-hero' : 'field'}>
      <Form.Label htmlFor={id}>{label}</Form.Label>
      {needed && <Needed />}
      <InputGroup>
        <Form.Control
          id={id}
          name={name}
          {...registered}
          value={value}
          onChange={(event) => {
            void registered?.onChange(event)
            onChange(event.target.value)
          }}
          isInvalid={error !== undefined || measured.kind === 'wrong'}
          aria-required={needed}
          aria-describedby={`${id}-echo`}
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          autoFocus={autoFocus}
          maxLength={40}
        />
        <InputGroup.Text>{unitBeside(kind, reading.units)}</InputGroup.Text>
      </InputGroup>
      <div id={`${id}-echo`} className="echo" aria-live="polite">
        {measured.kind === 'empty' && !error && <span className="field-help">{help}</span>}
        {measured.kind === 'one' && measured.echo}
        {measured.kind === 'one' && follows && <span className="field-help">{follows}</span>}
        {measured.kind === 'wrong' && <span className="field-error">{measured.message}</span>}
        {measured.kind === 'choose' && <Readings measured={measured} choose={choose} />}
      </div>
      {error && measured.kind !== 'wrong' && <FieldNotes id={`${id}-help`} error={error} />}
    </Form.Group>
  )
}

export function Readings({
  measured,
  choose,
}: {
  measured: Extract<Measured, { kind: 'choose' }>
  choose: (text: string) => void
}) {
  return (
    <>
      <span>Which one?</span>
      {measured.readings.map(({ notation }) => (
        <Button key={notation} variant="outline-primary" onClick={() => choose(notation)}>
          {notation}
        </Button>
      ))}
    </>
  )
}

/** The same inside a form that is sent to the server: keeps its own text. */
export function MeasureField({
  value,
  onRead,
  ...props
}: Omit<MeasureInputProps, 'value' | 'onChange'> & {
  name: string
  value?: string | undefined
  onRead?: (text: string) => void
}) {
  const [text, setText] = useState(value ?? '')
  const change = (next: string) => {
    setText(next)
    onRead?.(next)
  }
  return <MeasureInput {...props} value={text} onChange={change} />
}
