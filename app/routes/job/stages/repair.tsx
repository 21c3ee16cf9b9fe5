import { Button, Form } from 'react-bootstrap'
import { draft } from '~/tape/use-tape'
import { useJob } from '../job-context'
import { useWordsTyped } from './use-figure'
import { AccountForGas } from './notices'
import { StepList } from './step-list'

/** What was done, and the parts: they change charge and oil. */
export function Repair() {
  const { note, closed } = useJob()
  const [text, setText] = useWordsTyped('repair words')
  return (
    <>
      <AccountForGas />
      <StepList
        steps={['repair-opened', 'repair-drier', 'repair-nitrogen', 'repair-done', 'unit-taken-away']}
      />
      {!closed && (
        <form
          className="stack"
          style={{ gap: '0.5rem' }}
          onSubmit={(event) => {
            event.preventDefault()
            if (text.trim() === '') return
            note([draft('note', { text: text.trim() })])
            setText('')
          }}
        >
          <Form.Group className="field">
            <Form.Label htmlFor="repair-note">What was done, which parts</Form.Label>
            <Form.Control
              id="repair-note"
              as="textarea"
              rows={2}
              value={text}
              maxLength={4000}
              onChange={(event) => setText(event.target.value)}
            />
            <div className="field-help">
              A larger drier changes the charge, a new compressor or hose the oil.
            </div>
          </Form.Group>
          <div>
            <Button type="submit" disabled={text.trim() === ''}>
              Note it
            </Button>
          </div>
        </form>
      )}
    </>
  )
}
