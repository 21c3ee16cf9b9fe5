import { useEffect, useState, useSyncExternalStore } from 'react'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { storesHere, subscribeToKeeping } from '../pack/keeping'
import { newerProgram, subscribeToProgram, takeNewer } from '../news/program'
import { formUnsent, subscribeToForms } from '../page/send-form'
import { useStandsSince } from '../page/use-fresh'
import { clockTime, day } from '~/base/ui/time'
import type { Signal } from '../outbox/outbox'
import { useOutbox } from '../outbox/outbox-context'

const WHY: Record<Exclude<Signal, 'here'>, (count: string) => string> = {
  lost: (count) => `No connection: ${count} and will be sent when it returns.`,
  failing: (count) => `The server cannot take notes just now: ${count} and will be sent when it can.`,
  busy: (count) => `The server asks for a pause: ${count} and will be sent in a moment.`,
  'signed-out': (count) => `You are signed out: ${count}. Sign in again in this browser and it is sent.`,
  'another-person': (count) => `Somebody else has signed in here: ${count} until you sign in again.`,
}

/** Says when entries wait on this device and why, whose they are, and when the page is not the newest. */
export function SignalLine({ timeZone }: { timeZone: string }) {
  const {
    outbox,
    signal,
    unsent: count,
    makingsAside,
    renamed,
    others,
    locked,
    shut,
    against,
    kept,
  } = useOutbox()
  const since = useStandsSince()
  const now = useMinute(since !== undefined)
  const stores = useSyncExternalStore(subscribeToKeeping, storesHere, () => undefined)
  const formLeft = useSyncExternalStore(subscribeToForms, formUnsent, () => false)
  const newer = useSyncExternalStore(subscribeToProgram, newerProgram, () => false)
  const lines = [
    signal !== 'here' && count > 0 && WHY[signal](waits(count)),
    count > 0 &&
      !kept &&
      'This browser keeps nothing when it is closed: leave this page open until it is sent.',
    count === 0 &&
      stores === false &&
      'This browser keeps nothing (a private window, or the device is full): without signal only open pages go on.',
    ...others.map(
      ({ name, count }) => `${notes(count)} of ${name} kept here: sent when ${name} signs in here again.`,
    ),
    locked > 0 &&
      (shut
        ? `${notes(locked)} of yours on this device cannot be opened with the key that the server has: ask whoever runs Keg whether an older backup was put back.`
        : `${notes(locked)} of yours ${locked === 1 ? 'is' : 'are'} locked on this device since you left: opened and sent once the server answers.`),
    formLeft &&
      'No connection: the form was not sent. What you typed stays; send it once the signal is back.',
    since !== undefined && `From this device, as it was ${ageWords(since, now, timeZone)}.`,
  ].filter((line) => typeof line === 'string')
  const told = against.length + makingsAside.length + renamed.length
  if (lines.length === 0 && told === 0 && !newer) return null
  return (
    <div className="signal" role="status">
      {lines.map((line) => (
        <div key={line}>{line}</div>
      ))}
      {against.map((jobId) => (
        <div key={jobId} role="alert">
          What you did without signal does not go together with the books:{' '}
          <Link to={`/jobs/${jobId}`}>look at the job</Link>
        </div>
      ))}
      {renamed.map(([id, label]) => (
        <div key={id} role="alert">
          The label of a cylinder that you added was taken meanwhile: it is <strong>{label}</strong> now.
          Write that on it, or <Link to={`/cylinders/${id}/change`}>give it another one</Link>.{' '}
          <Button variant="link" onClick={() => outbox.seenRenamed(id)}>
            Done
          </Button>
        </div>
      ))}
      {makingsAside.map(({ id, kind, row, sentence }) => (
        <div key={id} role="alert">
          Not added: {kind === 'cylinder' ? row.label : row.name}. {sentence}{' '}
          <Button variant="link" onClick={() => void outbox.makeAgain(id)}>
            Send it again
          </Button>{' '}
          <Link to={kind === 'cylinder' ? '/cylinders/new' : '/systems/new'}>Add it once more</Link>{' '}
          <Button
            variant="link"

            onClick={() => void outbox.throwMakingAway(id)}
          >
            Throw it away
          </Button>
        </div>
      ))}
      {newer && (
        <div>
          There is a newer Keg. What waits here stays.{' '}
          <Button variant="link" onClick={takeNewer}>
            Load it
          </Button>
        </div>
      )}
    </div>
  )
}

const waits = (count: number) => `${count} ${count === 1 ? 'entry waits' : 'entries wait'} on this device`
const notes = (count: number) => (count === 1 ? '1 unsent note' : `${count} unsent notes`)

/** Of today its time is enough. */
function ageWords(since: number, now: number, timeZone: string): string {
  const at = clockTime(since, timeZone)
  return day(since, timeZone) === day(now, timeZone) ? `at ${at}` : `on ${day(since, timeZone)}, ${at}`
}

const MINUTE_MS = 60_000

/** The time, to the minute, as long as it is looked at. */
function useMinute(looked: boolean): number {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    if (!looked) return
    const tick = () => setNow(Date.now())
    const first = setTimeout(tick, 0)
    const timer = setInterval(tick, MINUTE_MS)
    return () => {
      clearTimeout(first)
      clearInterval(timer)
    }
  }, [looked])
  return now
}
