import { Button, Form } from 'react-bootstrap'
import { refrigerant } from '#core/refrigerants'
import { stepDone } from '#core/tape'
import { draft } from '~/tape/draft'
import { useJob } from '../field/job-context'
import { Parts } from '../circuit/repair/parts'
import { Retrofit } from '../circuit/repair/retrofit'
import { Photos } from '../circuit/repair/photos'
import { TakenOffList } from '../close/taken-off'
import { AccountForGas } from './notices'
import { SkipStep } from '../field/skip-step'
import { StepList } from '../field/step-list'
import { useWordsTyped } from '../field/use-figure'

/** What was opened and renewed, what was taken off, and how the flame was kept off what burns. */
export function Repair() {
  const { state, note, closed } = useJob()
  const [text, setText] = useWordsTyped('repair words')
  const flammable = state.refrigerant ? refrigerant(state.refrigerant).flammable : false
  const opened = stepDone(state, 'repair-opened') || state.parts.length > 0
  const drierMissing = opened && !stepDone(state, 'repair-drier')
  return (
    <>
      <AccountForGas />
      <div className="side-by-side">
        <StepList steps={['repair-opened', 'repair-drier', 'repair-done', 'unit-taken-away']} />
        <div>
          <h3>Before any flame</h3>
          <StepList
            steps={
              flammable
                ? [
                    'braze-cores-out',
                    'braze-swept',
                    'braze-evacuated',
                    'braze-swept-again',
                    'braze-sniffed',
                    'repair-nitrogen',
                  ]
                : ['braze-cores-out', 'repair-nitrogen']
            }
          />
          <p className="quiet mb-0">
            A trickle through an open end, 2 to 5 L/min by a flow meter, at most about 0.3 bar at the
            regulator.
          </p>
        </div>
      </div>
      {drierMissing && !closed && (
        <SkipStep step="repair-drier" words="An open circuit gets a new filter-drier, every time." />
      )}
      <Parts />
      <Retrofit />
      <TakenOffList />
      <Photos />
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
            <Form.Label htmlFor="repair-note">What was done</Form.Label>
            <Form.Control
              id="repair-note"
              as="textarea"
              rows={2}
              value={text}
              maxLength={4000}
              onChange={(event) => setText(event.target.value)}
            />
            <div className="field-help">
              Parts on order? Let the job wait (at the top): its gas stays reserved.
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
