import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { REFRIGERANTS } from '#core/refrigerants'
import { PURITY_PCT } from '#core/recovery'
import { draft } from '~/tape/draft'
import { useJob } from '~/job/field/job-context'

/** Vehicles: what the identifier says, before any hose is connected. */
export function Identifier() {
  const { state, note, closed } = useJob()
  const last = state.gasTests.findLast((each) => each.test === 'identifier')
  const [found, setFound] = useState('')
  const [text, setText] = useState('')
  const purityPct = Number(text.trim().replace(',', '.').replace('%', ''))
  const readable = text.trim() !== '' && Number.isFinite(purityPct) && purityPct >= 0 && purityPct <= 100
  const [asked, setAsked] = useState(false)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    setAsked(!readable || found === '')
    if (!readable || found === '') return
    note([
      draft('gas-tested', {
        test: 'identifier',
        passed: purityPct >= PURITY_PCT && found === state.refrigerant,
        found,
        purityPct,
      }),
    ])
    setText('')
  }
  return (
    <section className="stack" aria-labelledby="identifier-title">
      <h3 className="mb-0" id="identifier-title">
        Identifier first, then hoses
      </h3>
      {last ? (
        <p className={last.passed ? 'mb-0 verdict verdict-good' : 'mb-0 verdict verdict-bad'} role="status">
          <strong>
            {last.found} {last.purityPct} %
          </strong>{' '}
          {last.passed
            ? 'Pure enough: hoses may be connected.'
            : `Not ${state.refrigerant ?? 'the named gas'} at ${PURITY_PCT} % or more: no hose of the clean station. It goes to a cylinder of its own, marked mixed, with its own hoses.`}
        </p>
      ) : (
        <p className="mb-0 field-error">Not tested yet: no hose is connected before that.</p>
      )}
      {!closed && (
        <form onSubmit={submit} className="row-of" style={{ alignItems: 'end' }}>
          <Form.Group className="field">
            <Form.Label htmlFor="identified">It says</Form.Label>
            <Form.Select id="identified" value={found} onChange={(event) => setFound(event.target.value)}>
              <option value="">Choose</option>
              <option value="unknown">unknown</option>
              {REFRIGERANTS.map((code) => (
                <option key={code}>{code}</option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group className="field">
            <Form.Label htmlFor="purity">Purity, %</Form.Label>
            <Form.Control
              id="purity"
              inputMode="decimal"
              value={text}
              maxLength={10}
              isInvalid={asked && !readable}
              onChange={(event) => setText(event.target.value)}
            />
          </Form.Group>
          <Button type="submit" variant="outline-primary">
            Note it
          </Button>
          {asked && (
            <span className="field-error w-100" role="alert">
              Say which gas it names and its share, 0 to 100 %.
            </span>
          )}
        </form>
      )}
    </section>
  )
}
