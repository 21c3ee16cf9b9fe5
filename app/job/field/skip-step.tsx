import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { stepDone } from '#core/tape'
import { draft } from '~/tape/draft'
import { useJob } from './job-context'

/** A step that is never left out without a word: why. */
export function SkipStep({ step, words }: { step: string; words: string }) {
  const { state, note } = useJob()
  const [reason, setReason] = useState('')
  const skipped = state.skipped.findLast((each) => each.step === step)
  if (stepDone(state, step)) return null
  if (skipped) return <p className="quiet mb-0">Left out: {skipped.reason}</p>
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (reason.trim() !== '') note([draft('step-skipped', { step, reason: reason.trim() })])
  }
  return (
    <form onSubmit={submit} className="row-of">
      <span style={{ flex: '1 1 16rem' }}>{words}</span>
      <Form.Control
        style={{ flex: '1 1 12rem', width: 'auto' }}
        aria-label="Why there is none"
        placeholder="None this time, because …"
        value={reason}
        maxLength={400}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" variant="outline-primary" disabled={reason.trim() === ''}>
        Note why
      </Button>
    </form>
  )
}
