import { Button } from 'react-bootstrap'

export function meta() {
  return [{ title: 'No connection · Keg' }]
}

/** In place of a paper that only the server makes. */
export default function NeedsSignal() {
  return (
    <div className="sheet stack">
      <h1>No connection</h1>
      <p className="mb-0">
        The server makes PDF, CSV and calendar files: come back for this one when there is signal. Nothing is
        lost by it. The report of a job in hand opens without signal, and its page can be printed.
      </p>
      <div className="row-of">
        <Button onClick={() => history.back()}>Back</Button>
      </div>
    </div>
  )
}
