import { Button, Form } from 'react-bootstrap'
import type { OilClearing } from '#core/tape'
import { useOutbox } from '~/device/outbox/outbox-context'
import { draft } from '~/tape/draft'
import { OIL_CLEARING_WORDS, inSentence } from '~/words/en'
import { useJob } from '~/job/field/job-context'
import { useWordsTyped } from '~/job/field/use-figure'

/** The hard stop before a high-voltage compressor: no trace of PAG on the way. */
export function Clearing() {
  const { state, data, note, closed } = useJob()
  const { outbox } = useOutbox()
  const [who, setWho] = useWordsTyped('oil cleared by')
  const me = data.people[outbox.userId] ?? ''
  const cleared = state.oilCleared
  if (cleared)
    return (
      <p className="mb-0">
        <strong>Clear of other oils:</strong> {inSentence(OIL_CLEARING_WORDS[cleared.how])}
        {cleared.who && `, says ${cleared.who}`}.
      </p>
    )
  if (closed) return null
  const clear = (how: OilClearing) => {
    note([draft('oil-cleared', { how, who: who.trim() || me })])
    setWho('')
  }
  return (
    <section className="verdict verdict-bad" aria-label="Clear of other oils">
      <div className="quiet">Stop</div>
      <h3>No oil goes in before the way is clear of PAG</h3>
      <p>
        A trace of PAG destroys the insulation of a high-voltage compressor. Flush hoses and injector, or use
        a tool that never had another oil in it. Orange cables are for trained people.
      </p>
      <div className="row-of" style={{ alignItems: 'end' }}>
        <Form.Group className="field">
          <Form.Label htmlFor="cleared-by">Who says so</Form.Label>
          <Form.Control
            id="cleared-by"
            value={who}
            maxLength={120}
            placeholder={me}
            onChange={(event) => setWho(event.target.value)}
          />
        </Form.Group>
        {(Object.keys(OIL_CLEARING_WORDS) as OilClearing[]).map((how) => (
          <Button key={how} variant="outline-danger" className="btn-big" onClick={() => clear(how)}>
            {OIL_CLEARING_WORDS[how]}
          </Button>
        ))}
      </div>
    </section>
  )
}
