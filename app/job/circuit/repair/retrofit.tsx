import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { REFRIGERANTS, refrigerant as factsOf } from '#core/refrigerants'
import { isEmpty, RETROFIT_STEPS } from '#core/tape'
import { draft } from '~/tape/draft'
import { useJob } from '~/job/field/job-context'
import { StepList } from '~/job/field/step-list'
import { useWordsTyped } from '~/job/field/use-figure'

/** Another gas from here on: the old one is out and marked, and its history stays. */
export function Retrofit() {
  const { state, closed } = useJob()
  const change = state.gasChanges.at(-1)
  if (change)
    return (
      <section className="stack" aria-label="Change of gas" style={{ gap: '0.5rem' }}>
        <h3 className="mb-0">
          Changed from {change.from ?? 'a gas that nobody named'} to {change.to}
        </h3>
        <p className="mb-0 quiet">
          {[
            change.oilType && `oil ${change.oilType}`,
            change.platePct !== undefined && `${change.platePct} % of the plate’s mass to begin with`,
            change.reason,
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
        <StepList steps={[...RETROFIT_STEPS]} />
      </section>
    )
  if (closed || !isEmpty(state) || !state.refrigerant) return null
  return (
    <details open={state.retrofitPlanned}>
      <summary>Another gas goes in (retrofit)</summary>
      <ChangeGas />
    </details>
  )
}

function ChangeGas() {
  const { state, note, data } = useJob()
  const [to, setTo] = useWordsTyped('retrofit to')
  const [oilType, setOil] = useWordsTyped('retrofit oil')
  const [pct, setPct] = useWordsTyped('retrofit percent')
  const [reason, setReason] = useWordsTyped('retrofit why')
  const [error, setError] = useState('')
  const from = state.refrigerant!
  const share = pct.trim() === '' ? undefined : Number(pct.trim().replace(',', '.'))
  const into = REFRIGERANTS.find((code) => code === to)
  const harsher = into && factsOf(into).flammable && !factsOf(from).flammable
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (!into || into === from) return setError('Choose the gas that goes in.')
    if (share !== undefined && !(share >= 1 && share <= 200))
      return setError('Percent of the plate’s mass: 85 to 110 is usual; leave it empty where nobody says.')
    setError('')
    note([
      draft('gas-changed', {
        to: into,
        oilType: oilType.trim(),
        reason: reason.trim(),
        ...(share !== undefined && { platePct: share }),
      }),
    ])
  }
  return (
    <form onSubmit={submit} className="stack mt-2" style={{ gap: '0.5rem' }}>
      <p className="mb-0 quiet">
        The old gas is out and its cylinder marked. The plate speaks of {from}
        {data.system ? ' and stays in the system’s history' : ''}; the maker of the new gas says how much of
        it goes in, and which oil and seals it wants.
      </p>
      <div className="form-grid">
        <Form.Group className="field">
          <Form.Label htmlFor="retrofit-to">Gas that goes in</Form.Label>
          <Form.Select id="retrofit-to" value={to} onChange={(event) => setTo(event.target.value)}>
            <option value="">choose</option>
            {REFRIGERANTS.filter((code) => code !== from).map((code) => (
              <option key={code}>{code}</option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group className="field">
          <Form.Label htmlFor="retrofit-oil">Oil from now on</Form.Label>
          <Form.Control
            id="retrofit-oil"
            value={oilType}
            maxLength={60}
            onChange={(e) => setOil(e.target.value)}
          />
        </Form.Group>
        <Form.Group className="field">
          <Form.Label htmlFor="retrofit-pct">Percent of the plate’s mass</Form.Label>
          <Form.Control
            id="retrofit-pct"
            inputMode="decimal"
            value={pct}
            maxLength={8}
            onChange={(e) => setPct(e.target.value)}
          />
        </Form.Group>
        <Form.Group className="field">
          <Form.Label htmlFor="retrofit-why">Why (may stay empty)</Form.Label>
          <Form.Control
            id="retrofit-why"
            value={reason}
            maxLength={1000}
            onChange={(e) => setReason(e.target.value)}
          />
        </Form.Group>
      </div>
      {harsher && (
        <p className="mb-0 field-error" role="status">
          {into} is flammable and {from} is not: a system that was not built for it must not get it.
        </p>
      )}
      {error && (
        <p className="mb-0 field-error" role="alert">
          {error}
        </p>
      )}
      <div>
        <Button type="submit" className="btn-big">
          From here on it holds {into ?? 'the new gas'}
        </Button>
      </div>
    </form>
  )
}
