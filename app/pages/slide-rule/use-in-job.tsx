import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { jobNumber } from '~/base/ui/job-number'
import type { ShownOutcome } from './result'

interface UseInJobProps {
  title: string
  outcome: ShownOutcome
  jobs: { jobId: string; number: number | null; title: string }[]
}

/** Carries the answer to where it is needed: into the quick-entry line of a job in hand, or to the next step. */
export function UseInJob({ title, outcome, jobs }: UseInJobProps) {
  const [jobId, setJobId] = useState(jobs[0]?.jobId ?? '')
  const { onward = [], hero } = outcome
  // Where no line of its own fits the answer goes in as a note.
  const carry = outcome.carry?.length
    ? outcome.carry
    : [{ line: `note ${title}: ${hero.label} ${hero.text}`.slice(0, 400), words: 'Note the answer' }]
  const chosen = jobs.some((job) => job.jobId === jobId) ? jobId : (jobs[0]?.jobId ?? '')
  const intoJob = jobs.length > 0
  if (!intoJob && onward.length === 0) return null
  return (
    <section className="sheet stack no-print">
      <h2 className="mb-0">Use it</h2>
      {intoJob && (
        <>
          <Form.Group className="field">
            <Form.Label htmlFor="carry-job">In which job</Form.Label>
            <Form.Select id="carry-job" value={chosen} onChange={(event) => setJobId(event.target.value)}>
              {jobs.map(({ jobId, number, title }) => (
                <option key={jobId} value={jobId}>
                  {jobNumber(number)}
                  {title && `, ${title}`}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <div className="row-of">
            {carry.map(({ line, words }) => (
              <Link
                key={line}
                className="btn btn-outline-primary"
                to={`/jobs/${chosen}?${new URLSearchParams({ line })}`}
              >
                {words}
              </Link>
            ))}
          </div>
        </>
      )}
      {onward.length > 0 && (
        <div className="row-of">
          {onward.map(({ to, words }) => (
            <Link
              key={to}
              className="btn btn-outline-secondary"
              to={to.startsWith('/') ? to : `/slide-rule/${to}`}
            >
              {words}
            </Link>
          ))}
        </div>
      )}
    </section>
  )
}
