import type { ReactNode } from 'react'
import { useId } from 'react'
import { Form } from 'react-bootstrap'
import { useChecked } from './use-checked'

interface FieldProps {
  name: string
  label: string
  /** What is typed when the form is shown, or shown again after a refusal. */
  value?: string | undefined
  error?: string | undefined
  help?: ReactNode
  type?: 'text' | 'password' | 'date' | 'number' | 'email'
  required?: boolean
  /** Said beside the label; the server says what is missing, in words of its own. */
  needed?: boolean
  autoComplete?: string
  autoFocus?: boolean
  maxLength?: number
  list?: string[]
  inputMode?: 'text' | 'decimal' | 'numeric'
}

/** A labelled field of a form; its error stands right under it. */
export function Field({ name, label, value, error: refused, help, list, needed, ...input }: FieldProps) {
  const id = useId()
  const { registered, error } = useChecked(name, refused)
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      {needed && <Needed />}
      <Form.Control
        id={id}
        name={name}
        defaultValue={value ?? ''}
        isInvalid={error !== undefined}
        aria-required={needed}
        aria-describedby={`${id}-help`}
        list={list && `${id}-list`}
        {...input}
        {...registered}
      />
      {list && (
        <datalist id={`${id}-list`}>
          {list.map((each) => (
            <option key={each} value={each} />
          ))}
        </datalist>
      )}
      <FieldNotes id={`${id}-help`} error={error} help={help} />
    </Form.Group>
  )
}

/** In a word, since a star says nothing. */
export const Needed = () => (
  <span className="needed" aria-hidden>
    needed
  </span>
)

interface SelectProps {
  name: string
  label: string
  value?: string | undefined
  error?: string | undefined
  help?: ReactNode
  options: [value: string, label: string][]
  onChange?: (value: string) => void
}

export function SelectField({ name, label, value, error: refused, help, options, onChange }: SelectProps) {
  const id = useId()
  const { registered, error } = useChecked(name, refused)
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      <Form.Select
        id={id}
        name={name}
        defaultValue={value ?? ''}
        isInvalid={error !== undefined}
        aria-describedby={`${id}-help`}
        {...registered}
        onChange={(event) => {
          void registered?.onChange(event)
          onChange?.(event.target.value)
        }}
      >
        {options.map(([code, words]) => (
          <option key={code} value={code}>
            {words}
          </option>
        ))}
      </Form.Select>
      <FieldNotes id={`${id}-help`} error={error} help={help} />
    </Form.Group>
  )
}

export function FieldNotes({
  id,
  error,
  help,
}: {
  id: string
  error?: string | undefined
  help?: ReactNode
}) {
  return (
    <div id={id}>
      {error && <div className="field-error">{error}</div>}
      {help && <div className="field-help">{help}</div>}
    </div>
  )
}

/** Several lines of text. */
export function TextField({ name, label, value, error: refused, help, maxLength }: FieldProps) {
  const id = useId()
  const { registered, error } = useChecked(name, refused)
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      <Form.Control
        as="textarea"
        rows={4}
        id={id}
        name={name}
        defaultValue={value ?? ''}
        maxLength={maxLength}
        isInvalid={error !== undefined}
        aria-describedby={`${id}-help`}
        {...registered}
      />
      <FieldNotes id={`${id}-help`} error={error} help={help} />
    </Form.Group>
  )
}

/** Yes or no. */
export function TickField({ name, label, ticked }: { name: string; label: string; ticked: boolean }) {
  return (
    <label className="form-check field">
      <input type="checkbox" name={name} className="form-check-input" defaultChecked={ticked} /> {label}
    </label>
  )
}
