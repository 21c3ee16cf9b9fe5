import { type ReactNode, useId, useRef, useState } from 'react'
import { askOrLook } from './ask-or-look'
import { Form } from 'react-bootstrap'
import { FieldNotes } from '~/base/ui/field'
import { type SystemChoice, SYSTEMS_SHOWN } from '~/systems/choice'

interface SystemPickerProps {
  /** The first of them by name, one more than are shown when there are more. */
  offered: SystemChoice[]
  name?: string
  value: string
  onChoose: (choice: SystemChoice | undefined) => void
  error?: string | undefined
  help?: ReactNode
}

/** A system from the list; in a large shop a few letters of its name, site or customer narrow the list down. */
export function SystemPicker({ offered, name, value, onChoose, error, help }: SystemPickerProps) {
  const id = useId()
  const [found, setFound] = useState(offered)
  const [message, setMessage] = useState('')
  const asked = useRef('')
  const many = offered.length > SYSTEMS_SHOWN
  const find = async (text: string) => {
    asked.current = text
    const answer = await askOrLook<{ systems: SystemChoice[] }>(
      `/systems/find?search=${encodeURIComponent(text)}`,
      () => import('../known/looks').then((each) => each.systemsLike),
    )
    // An answer to what was typed before comes too late.
    if (asked.current !== text) return
    if (!answer) return setMessage('No connection: choose from the list, or fill the system in later.')
    const { systems } = answer
    setMessage(systems.length === 0 ? `Nothing has "${text}" in its name.` : '')
    setFound(systems)
  }
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>System</Form.Label>
      {many && (
        <Form.Control
          className="mb-1"
          aria-label="A few letters of the system, site or customer"
          placeholder="A few letters of it"
          maxLength={100}
          onChange={(event) => void find(event.target.value)}
        />
      )}
      <Form.Select
        id={id}
        name={name}
        value={value}
        isInvalid={error !== undefined}
        aria-describedby={`${id}-help`}
        onChange={(event) => onChoose(found.find((s) => s.systemId === event.target.value))}
      >
        <option value="">Filled in later</option>
        {found.slice(0, SYSTEMS_SHOWN).map((s) => (
          <option key={s.systemId} value={s.systemId}>
            {s.name}
          </option>
        ))}
      </Form.Select>
      <FieldNotes id={`${id}-help`} error={error ?? (message || undefined)} help={help} />
    </Form.Group>
  )
}
