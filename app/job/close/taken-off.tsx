import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { newId } from '~/tape/device'
import { draft } from '~/tape/draft'
import { useWordsTyped } from '../field/use-figure'
import { useJob } from '../field/job-context'

const USUAL = ['Panels', 'Sensors', 'Clips', 'Insulation', 'Screws', 'Fan guard']

/** What was taken off: the list that comes back at the close. */
export function TakenOffList({ adding = true }: { adding?: boolean }) {
  const { state, note, closed } = useJob()
  const [what, setWhat] = useWordsTyped('taken off')
  const add = (words: string) => note([draft('taken-off', { itemId: newId(), what: words })])
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (what.trim() === '') return
    add(what.trim())
    setWhat('')
  }
  if (!adding && state.takenOff.length === 0) return null
  return (
    <section className="stack" aria-label="Taken off" style={{ gap: '0.5rem' }}>
      <h3 className="mb-0">{adding ? 'What was taken off' : 'Back on, or said why not'}</h3>
      {state.takenOff.length > 0 && (
        <ul className="search-places">
          {state.takenOff.map(({ itemId, what: words, backAt, leftOff }) => (
            <li key={itemId}>
              <span>
                {words}{' '}
                <span className="quiet">
                  {backAt !== undefined
                    ? 'back on'
                    : leftOff !== undefined
                      ? `stays off, because ${leftOff}`
                      : 'off'}
                </span>
              </span>
              {!closed && backAt === undefined && (
                <BackOrNot itemId={itemId} what={words} off={leftOff !== undefined} />
              )}
            </li>
          ))}
        </ul>
      )}
      {adding && !closed && (
        <>
          <div className="tap-row">
            {USUAL.map((each) => (
              <Button key={each} variant="outline-secondary" onClick={() => add(each)}>
                {each}
              </Button>
            ))}
          </div>
          <form onSubmit={submit} className="row-of">
            <Form.Control
              style={{ flex: '1 1 12rem' }}
              aria-label="Something else that was taken off"
              placeholder="Something else"
              value={what}
              maxLength={200}
              onChange={(event) => setWhat(event.target.value)}
            />
            <Button type="submit" variant="outline-primary" disabled={what.trim() === ''}>
              Put it on the list
            </Button>
          </form>
        </>
      )}
    </section>
  )
}

function BackOrNot({ itemId, what, off }: { itemId: string; what: string; off: boolean }) {
  const { note } = useJob()
  const [asking, setAsking] = useState(false)
  const [reason, setReason] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (reason.trim() === '') return
    note([draft('left-off', { itemId, reason: reason.trim() })])
    setAsking(false)
  }
  return (
    <span className="row-of">
      <Button
        variant="outline-primary"
        aria-label={`${what}: back on`}
        onClick={() => note([draft('put-back', { itemId })])}
      >
        Back on
      </Button>
      {asking ? (
        <form onSubmit={submit} className="row-of">
          <Form.Control
            aria-label={`Why ${what} stays off`}
            placeholder="Stays off, because …"
            value={reason}
            maxLength={400}
            autoFocus
            onChange={(event) => setReason(event.target.value)}
          />
          <Button type="submit">Note it</Button>
        </form>
      ) : (
        !off && (
          <Button variant="link" onClick={() => setAsking(true)}>
            Stays off …
          </Button>
        )
      )}
    </span>
  )
}
