import { Form } from 'react-router'

/** From which day to which: what a page of the ledger shows. */
export function SpanForm({ firstDay, lastDay }: { firstDay: string; lastDay: string }) {
  return (
    <Form method="get" className="row-of" role="search" key={`${firstDay} ${lastDay}`}>
      {(
        [
          ['from', 'First day', firstDay],
          ['to', 'Last day', lastDay],
        ] as const
      ).map(([name, label, value]) => (
        <input
          key={name}
          type="date"
          name={name}
          aria-label={label}
          className="form-control"
          style={{ width: '10.5rem' }}
          defaultValue={value}
        />
      ))}
      <button type="submit" className="btn btn-outline-secondary">
        Show
      </button>
    </Form>
  )
}
