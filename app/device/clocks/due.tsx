import { type FormEvent, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import type { Clock, EntryBodies, EntryKind } from '#core/tape'
import { makeEntry } from '~/tape/device'
import { useOutbox } from '../outbox/outbox-context'
import { useTyped } from '~/tape/typed'
import { measure, type MeasureKind } from '~/base/ui/measure'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits } from '~/base/ui/reader'
import { CLOCK_WORDS } from '~/words/en'
import { answered, type JobClocks } from './running'
import { leftWords, nameOf } from './words'

const ASKS: Record<'hold' | 'pull' | 'nitrogen', { kind: MeasureKind; label: string }> = {
  hold: { kind: 'vacuum', label: 'The vacuum gauge reads' },
  pull: { kind: 'pressure', label: 'The low side reads' },
  nitrogen: { kind: 'pressure', label: 'The nitrogen reads' },
}

/** Its time is up: the one number that is due, noted from wherever one is. */
export function Due({
  job,
  clock,
  now,
  userId,
}: {
  job: JobClocks
  clock: Clock
  now: number
  userId: string
}) {
  const { outbox } = useOutbox()
  const reading = useReadersUnits()
  const [text, setText] = useTyped(`${userId} ${job.jobId}`, `due ${clock.clockId}`)
  const [missing, setMissing] = useState(false)
  const what = clock.what as keyof typeof ASKS
  const { kind, label } = ASKS[what]
  const measured = measure(kind, text, reading)
  const write = <K extends EntryKind>(kindOf: K, body: EntryBodies[K]) => makeEntry(kindOf, body)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (measured.kind !== 'one') return setMissing(true)
    const pressurePa = measured.value
    const watchId = clock.clockId
    void outbox.put(
      job.jobId,
      what === 'hold'
        ? [write('hold-ended', { holdId: clock.clockId, pressurePa })]
        : [
            write('pressure-noted', { point: what === 'pull' ? 'low' : 'test', pressurePa }),
            write('watch-ended', { watchId }),
          ],
    )
    setText('')
    answered(userId, clock.clockId)
  }
  const stop = () => {
    void outbox.put(job.jobId, [write('watch-ended', { watchId: clock.clockId })])
    answered(userId, clock.clockId)
  }
  return (
    <form className="clock-due" onSubmit={submit} role="alert">
      <Link to={`/jobs/${job.jobId}`}>
        <span>
          <strong>{nameOf(job)}</strong>: {CLOCK_WORDS[clock.what]}, {leftWords(clock, now)}
        </span>
      </Link>
      <MeasureInput
        kind={kind}
        label={label}
        value={text}
        onChange={setText}
        error={missing && measured.kind === 'empty' ? 'Enter what the instrument reads.' : undefined}
      />
      <Button type="submit" className="btn-big">
        Note it
      </Button>
      {what !== 'hold' && (
        <Button variant="outline-secondary" className="stop" onClick={stop}>
          Stop watching
        </Button>
      )}
    </form>
  )
}
