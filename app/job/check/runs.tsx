import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { runningNow } from '#core/tape'
import { type Service, SERVICES, settleTimeS, settlesInS } from '#core/verify'
import { draft } from '~/tape/draft'
import { clockTime, duration } from '~/base/ui/time'
import { SERVICE_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'
import { useServerNow } from '~/tape/use-server-now'
import { useWordsTyped } from '../field/use-figure'

/** Whether it runs, what it is for, and how long until its readings say anything. */
export function Runs() {
  const { state, closed } = useJob()
  const running = runningNow(state)
  // Said wrongly, it is said again: the last word counts.
  const [again, setAgain] = useState<number>()
  if (running && again !== running.order) return <Settling change={() => setAgain(running.order)} />
  return closed ? null : <SayItRuns />
}

function SayItRuns() {
  const { data, note } = useJob()
  const vehicle = data.system?.trade === 'vehicle'
  const [kept, keep] = useWordsTyped('service')
  const offered = SERVICES.filter((each) => (each === 'vehicle') === vehicle)
  const chosen = offered.find((each) => each === kept) ?? (offered.length === 1 ? offered[0] : undefined)
  const say = (service: Service, beforeS: number) => note([draft('system-running', { service, beforeS })])
  return (
    <section className="stack" aria-label="Does it run?">
      <div>
        <h3 className="mb-0">Does it run?</h3>
        <p className="mb-0 quiet">
          Readings say something once it has settled. What it is for decides what is healthy.
        </p>
      </div>
      {offered.length > 1 && (
        <div className="key-grid" role="group" aria-label="What it is for">
          {offered.map((service) => (
            <Button
              key={service}
              variant="outline-primary"
              active={chosen === service}
              aria-pressed={chosen === service}
              onClick={() => keep(service)}
            >
              {SERVICE_WORDS[service]}
            </Button>
          ))}
        </div>
      )}
      <div className="row-of">
        <Button className="btn-big" disabled={!chosen} onClick={() => chosen && say(chosen, 0)}>
          Started just now
        </Button>
        <Button
          variant="outline-primary"
          className="btn-big"
          disabled={!chosen}
          onClick={() => chosen && say(chosen, settleTimeS(chosen).most)}
        >
          It runs steadily already
        </Button>
        {!chosen && <span className="quiet">Say first what it is for.</span>}
      </div>
    </section>
  )
}

function Settling({ change }: { change: () => void }) {
  const { state, data, closed } = useJob()
  const running = runningNow(state)!
  const now = useServerNow(state)
  const leftS = now === undefined ? undefined : settlesInS(running.service, (now - running.since) / 1000)
  return (
    <p className="mb-0" role="status">
      {SERVICE_WORDS[running.service]}, running since{' '}
      <strong className="digits">{clockTime(running.since, data.shop.timeZone)}</strong>
      {leftS !== undefined && (
        <>
          {' · '}
          {leftS > 0 ? (
            <strong>settles: read in {duration(leftS)}</strong>
          ) : (
            <strong className="tag">settled</strong>
          )}
        </>
      )}{' '}
      {!closed && (
        <Button variant="link" className="p-0" onClick={change}>
          Say it again
        </Button>
      )}
    </p>
  )
}
