import { Form } from 'react-bootstrap'
import { DIVISIONS_MG } from '#core/scales'

const UNKNOWN = ''

/** What a scale counts in: from it follows what it can tell. */
export function DivisionField({
  id,
  value,
  onChange,
}: {
  id: string
  value: string
  onChange: (value: string) => void
}) {
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>It counts in steps of</Form.Label>
      <Form.Select id={id} value={value} onChange={(event) => onChange(event.target.value)}>
        <option value={UNKNOWN}>not known: 5 g is reckoned with</option>
        {DIVISIONS_MG.map((division) => (
          <option key={division} value={division}>
            {division / 1000} g
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  )
}

/** The division as an entry has it: left out where it is not known. */
export function divisionOf(value: string): { divisionMg?: number } {
  return value === UNKNOWN ? {} : { divisionMg: Number(value) }
}
