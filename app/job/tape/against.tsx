import { useEffect, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { Against } from '#core/tape'
import { useOutbox } from '~/device/outbox/outbox-context'
import { draft } from '~/tape/draft'
import { AGAINST_WORDS, wordOf } from '~/words/en'
import { useJob } from '../field/job-context'
import { useWords } from '../field/use-words'

/** What was done without signal and stands against the rules or the books: what is to be done about it, and how it was. */
export function AgainstTheBooks() {
  const { data, state } = useJob()
  const { outbox, against } = useOutbox()
  const open = state.against.filter((each) => !each.settled)
  const told = against.includes(data.jobId)
  useEffect(() => {
    if (told && open.length > 0) outbox.seenAgainst(data.jobId)
  }, [outbox, told, open.length, data.jobId])
  return open.map((each) => <Found key={each.entryId} found={each} />)
}

function Found({ found: { entryId, of, cylinderId, codes, jobs } }: { found: Against }) {
  const { state, note, cylinderOf, data } = useJob()
  const words = useWords()
  const [text, setText] = useState('')
  const line = state.lines.find((each) => each.entry.entryId === of)
  const label = cylinderId && cylinderOf(cylinderId)?.label
  return (
    <section className="verdict verdict-bad stack" role="alert">
      <h3 className="mb-0">Done without signal, and against the books{label && `: ${label}`}</h3>
      {line && <p className="mb-0 quiet">It stands as you noted it: {words(line.entry.kind, line.body)}</p>}
      <ul className="mb-0">
        {codes.map((code) => (
          <li key={code}>
            {wordOf(AGAINST_WORDS, code)}
            {code === 'used-meanwhile' && jobs.length > 0 && (
              <span>
                {' '}
                {jobs.length === 1 ? 'It was job' : 'They were jobs'} {jobs.join(', ')}.
              </span>
            )}
          </li>
        ))}
      </ul>
      {data.mayWrite && (
        <Form
          className="row-of"
          onSubmit={(event) => {
            event.preventDefault()
            if (text.trim() !== '') note([draft('against-settled', { entryId, text: text.trim() })])
          }}
        >
          <Form.Control
            value={text}
            onChange={(event) => setText(event.target.value)}
            maxLength={1000}
            placeholder="How it was, and what was done"
            aria-label="How it was, and what was done"
          />
          <Button type="submit" disabled={text.trim() === ''}>
            It is settled
          </Button>
        </Form>
      )}
    </section>
  )
}
