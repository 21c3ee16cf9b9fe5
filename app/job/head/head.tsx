import { useState } from 'react'
import { Button, Dropdown, Modal } from 'react-bootstrap'
import { Link } from 'react-router'
import { draft } from '~/tape/draft'
import { FLAG_WORDS, JOB_STATUS_WORDS } from '~/words/en'
import { StripTap } from '../chart/strip-tap'
import { useJob } from '../field/job-context'
import { jobNumber } from '~/base/ui/job-number'

type Ask = 'wait' | 'cancel' | 'reopen'

const ASKS: Record<Ask, { title: string; label: string; go: string }> = {
  wait: { title: 'Let the job wait', label: 'What does it wait for?', go: 'Let it wait' },
  cancel: { title: 'Cancel the job', label: 'Why?', go: 'Cancel the job' },
  reopen: { title: 'Open the job again', label: 'Why?', go: 'Open it again' },
}

/** What the job is about, how it stands, and what can be done with the whole of it. */
export function JobHead() {
  const { data, state, note } = useJob()
  const [ask, setAsk] = useState<Ask>()
  const title = state.title || data.system?.name || 'Job from the roof'
  const finished = state.status === 'closed' || state.status === 'cancelled'
  const answer = (text: string) => {
    if (ask === 'wait') note([draft('job-waiting', { what: text })])
    if (ask === 'cancel') note([draft('job-cancelled', { reason: text })])
    if (ask === 'reopen') note([draft('job-reopened', { reason: text })])
    setAsk(undefined)
  }
  return (
    <header className="job-head">
      <h1>{title}</h1>
      <span className="quiet">
        <span className="digits">{jobNumber(data.number)}</span>
        {data.system && (
          <>
            {' · '}
            <Link to={`/systems/${data.system.systemId}`}>{data.system.name}</Link>, {data.system.customer},{' '}
            {data.system.site}
          </>
        )}
      </span>
      {state.refrigerant && <span className="tag tag-copper">{state.refrigerant}</span>}
      {state.retrofitPlanned && <span className="tag">change of gas</span>}
      <span className="tag">{JOB_STATUS_WORDS[state.status]}</span>
      {state.flags
        // It has a card of its own.
        .filter((flag) => flag !== 'against-the-books')
        .map((flag) => (
          <span key={flag} className="tag tag-amber tag-long">
            {FLAG_WORDS[flag]}
          </span>
        ))}
      <div className="actions">
        <StripTap />
        <Dropdown align="end">
          <Dropdown.Toggle variant="outline-secondary">Job</Dropdown.Toggle>
          <Dropdown.Menu>
            {state.episodes.some((each) => each.charges > 0) && (
              <Dropdown.Item as={Link} to={`/jobs/${data.jobId}/label`}>
                Charge label
              </Dropdown.Item>
            )}
            <Dropdown.Item as={Link} to={`/jobs/${data.jobId}/report`}>
              Job report
            </Dropdown.Item>
            {data.mayWrite && <Dropdown.Divider />}
            {data.mayWrite && state.status === 'open' && (
              <Dropdown.Item onClick={() => setAsk('wait')}>Let it wait for parts …</Dropdown.Item>
            )}
            {data.mayWrite && !finished && (
              <Dropdown.Item onClick={() => setAsk('cancel')}>Cancel the job …</Dropdown.Item>
            )}
            {data.mayWrite && finished && (
              <Dropdown.Item onClick={() => setAsk('reopen')}>Open it again …</Dropdown.Item>
            )}
          </Dropdown.Menu>
        </Dropdown>
      </div>
      {!data.mayWrite && (
        <p className="looking-on" role="status">
          You are looking on: a technician or a manager notes here.
        </p>
      )}
      {ask && <AskWhy ask={ask} answer={answer} leave={() => setAsk(undefined)} />}
    </header>
  )
}

function AskWhy({ ask, answer, leave }: { ask: Ask; answer: (text: string) => void; leave: () => void }) {
  const [text, setText] = useState('')
  const { title, label, go } = ASKS[ask]
  return (
    <Modal show onHide={leave} centered aria-labelledby="ask-title">
      <form
        onSubmit={(event) => {
          event.preventDefault()
          answer(text.trim())
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="ask-title">
            {title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <label htmlFor="ask-why" className="form-label">
            {label}
          </label>
          <input
            id="ask-why"
            className="form-control"
            value={text}
            maxLength={200}
            autoFocus
            onChange={(event) => setText(event.target.value)}
          />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={leave}>
            Back
          </Button>
          <Button type="submit">{go}</Button>
        </Modal.Footer>
      </form>
    </Modal>
  )
}
