import { type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { leakKnown } from '#core/tape'
import { draft } from '~/tape/draft'
import { useJob } from '~/job/field/job-context'
import { useWordsTyped } from '~/job/field/use-figure'

/** A leak that is known stands until one of two things is said: a search that finds none may have been a rougher one. */
export function KnownLeak() {
  const { state, note, closed } = useJob()
  const [why, setWhy] = useWordsTyped('false alarm')
  if (closed || !leakKnown(state)) return null
  const method = state.leakChecks.findLast((each) => each.found)?.method ?? 'detector'
  const deny = (event: FormEvent) => {
    event.preventDefault()
    if (why.trim() === '') return
    note([draft('leak-checked', { method, found: false, text: why.trim(), falseAlarm: true })])
    setWhy('')
  }
  return (
    <div className="verdict verdict-caution" role="status">
      <strong>A leak is known.</strong> It stands until it is repaired. A search that finds none does not
      clear it.
      <div className="stack mt-2" style={{ gap: '0.5rem' }}>
        <Button
          className="btn-big"
          style={{ alignSelf: 'start' }}
          onClick={() => note([draft('step-done', { step: 'repair-done' })])}
        >
          Leak repaired
        </Button>
        <form onSubmit={deny} className="row-of">
          <Form.Control
            style={{ flex: '1 1 12rem', width: 'auto' }}
            aria-label="What it was instead"
            placeholder="No leak: it was …"
            value={why}
            maxLength={1000}
            onChange={(event) => setWhy(event.target.value)}
          />
          <Button type="submit" className="btn-big" variant="outline-primary" disabled={why.trim() === ''}>
            False alarm
          </Button>
        </form>
      </div>
    </div>
  )
}
