import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { Form, Link } from 'react-router'
import { v4 as uuid } from 'uuid'
import type { DoubtfulTransfer } from '#db'
import type { Refused } from '~/base/form/read.server'
import { Field } from '~/base/ui/field'
import { useShow } from '~/base/ui/reader'
import { dayAndTime } from '~/base/ui/time'

interface DoubtsProps {
  doubts: DoubtfulTransfer[]
  timeZone: string
  mayWrite: boolean
  refused?: Refused | undefined
}

/** What a scale that failed its check has weighed since it was good last: each until somebody decides. */
export function Doubts({ doubts, timeZone, mayWrite, refused }: DoubtsProps) {
  const show = useShow()
  if (doubts.length === 0) return null
  return (
    <section className="sheet stack" aria-labelledby="doubts">
      <h2 id="doubts">Weighed on it since it was good last</h2>
      <p className="mb-0">
        {doubts.length} {doubts.length === 1 ? 'transfer rests' : 'transfers rest'} on a scale that failed its
        check. Each carries a caution in its job and its report until somebody decides: weigh the cylinder
        again on a scale that was proved, or accept the weight with the reason.
      </p>
      <ul className="plain-list">
        {doubts.map((doubt) => (
          <li key={`${doubt.jobId} ${doubt.transferId}`} className="doubt">
            <div>
              <Link to={`/jobs/${doubt.jobId}`}>
                Job {doubt.number} {doubt.title}
              </Link>
              , {dayAndTime(doubt.at, timeZone)}:{' '}
              {doubt.use === 'recover' ? 'recovered into' : 'charged from'}{' '}
              <Link to={`/cylinders/${doubt.cylinderId}`}>{doubt.cylinder}</Link>{' '}
              <strong className="digits">{show('weight', doubt.massMg)}</strong>{' '}
              <span className="one-word">{doubt.refrigerant}</span>
            </div>
            {mayWrite && <Decide doubt={doubt} refused={refused} />}
          </li>
        ))}
      </ul>
      {mayWrite && doubts.length > 1 && <Decide refused={refused} />}
    </section>
  )
}

/** On one of them, or on all that are there now. */
function Decide({ doubt, refused }: { doubt?: DoubtfulTransfer; refused: Refused | undefined }) {
  const transferId = doubt?.transferId ?? 'all'
  const own = refused?.typed.transferId === transferId ? refused : undefined
  const [actId] = useState(() => own?.typed.actId ?? uuid())
  const error = own?.errors[`decided ${transferId}`]
  // Once opened it stays so, whatever arrives meanwhile.
  const [open, setOpen] = useState(error !== undefined)
  return (
    <details open={open || error !== undefined} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>{doubt ? 'Decide' : 'Decide on all of them at once'}</summary>
      <Form method="post" className="form-column" preventScrollReset>
        <input type="hidden" name="what" value="decided" />
        <input type="hidden" name="actId" value={actId} />
        <input type="hidden" name="transferId" value={transferId} />
        <input type="hidden" name="jobId" value={doubt?.jobId ?? ''} />
        <Field name="text" label="Why" value={own?.typed.text} maxLength={500} needed />
        {error && (
          <p className="field-error mb-0" role="alert">
            {error}
          </p>
        )}
        <div className="row-of">
          <Button type="submit" name="how" value="accepted" variant="outline-primary">
            Accept the weight
          </Button>
          <Button type="submit" name="how" value="reweighed">
            It was weighed again
          </Button>
        </div>
      </Form>
    </details>
  )
}
