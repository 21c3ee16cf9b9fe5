import { lazy, Suspense, useEffect, useEffectEvent, useLayoutEffect, useState } from 'react'
import { Link, useLocation } from 'react-router'
import type { Clock } from '#core/tape'
import { ask } from '~/base/ask'
import { listenForChanges } from '../news/changes'
import { useOutbox } from '../outbox/outbox-context'
import { readyHere } from '../page/page'
import { duration } from '~/base/ui/time'
import { CLOCK_WORDS } from '~/words/en'
import { firstToRing, ring } from './ring'
import { heard, type JobClocks, takenAlong, useRunning } from './running'
import { leftWords, nameOf } from './words'

const TICK_MS = 1_000
const SHOWN = 6

interface StripProps {
  person: { userId: string; role: string }
  /** What ran when the page was loaded. */
  loaded: { now: number; jobs: JobClocks[]; takenAlong?: boolean }
}

/** What runs against the clock, on every screen: job, what, how long, how long still; at its end it calls and asks. */
export function ClockStrip({ person: { userId, role }, loaded }: StripProps) {
  const known = useRunning(userId)
  const unheard = known.userId === ''
  const { own, offsetMs } = known
  const jobs = unheard ? loaded.jobs : known.jobs
  useServersClocks(userId, loaded)
  const ticked = useNow(jobs.length > 0, offsetMs)
  const now = ticked ?? loaded.now
  const { pathname } = useLocation()
  const running = jobs
    .flatMap((job) => job.clocks.map((clock) => ({ job, clock })))
    // On the page of its job a transfer has a face of its own.
    .filter(({ job, clock }) => !(isTransfer(clock) && pathname === `/jobs/${job.jobId}`))
    .sort((a, b) => rank(a, own) - rank(b, own) || (a.clock.dueAt ?? Infinity) - (b.clock.dueAt ?? Infinity))
  useRinging(running, own, now)
  const runs = running.length > 0
  useEffect(() => {
    if (runs) readyHere(loadDue)
  }, [runs])
  if (running.length === 0) return null
  const due = running.filter(({ clock }) => !isTransfer(clock) && clock.dueAt !== null && clock.dueAt <= now)
  const asked = role === 'trainee' ? [] : due.filter(({ job }) => own.includes(job.jobId)).slice(0, 2)
  const others = running.filter((each) => !asked.includes(each)).slice(0, SHOWN)
  return (
    <section className="clocks" aria-label="What runs">
      <Suspense fallback={null}>
        {asked.map(({ job, clock }) => (
          <Due key={clock.clockId} job={job} clock={clock} now={now} userId={userId} />
        ))}
      </Suspense>
      {others.length > 0 && (
        <ul>
          {others.map(({ job, clock }) => (
            <li key={clock.clockId}>
              <Link
                to={`/jobs/${job.jobId}`}
                className={due.some((d) => d.clock === clock) ? 'due' : undefined}
              >
                <strong>{nameOf(job)}</strong> {CLOCK_WORDS[clock.what]}{' '}
                <span className="digits">{duration((now - clock.startedAt) / 1000)}</span>
                <span className="left">{leftWords(clock, now)}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

/** What asks for a reading: fetched before it is due. */
const loadDue = () => import('./due')
const Due = lazy(() => loadDue().then((each) => ({ default: each.Due })))

const isTransfer = ({ what }: Clock) => what === 'recover' || what === 'charge'
const rank = ({ job }: { job: JobClocks }, own: string[]) => (own.includes(job.jobId) ? 0 : 1)

/** Asks the server what runs, at the start and whenever a job changes. */
function useServersClocks(userId: string, loaded: StripProps['loaded']) {
  const { waiting } = useOutbox()
  const unsent = useEffectEvent(() => new Set(waiting.map((each) => each.jobId)))
  const firstHeard = useEffectEvent(() => {
    if (loaded.takenAlong) takenAlong(userId, loaded.jobs)
    else heard(userId, loaded.jobs, Date.now() - loaded.now, unsent())
  })
  // Before anything is painted: what this device kept may be older than the page.
  useLayoutEffect(() => firstHeard(), [])
  useEffect(() => {
    let gone = false
    const fetchThem = async () => {
      const answer = await ask<{ now: number; jobs: JobClocks[] }>('/clocks')
      if (!gone && answer) heard(userId, answer.jobs, Date.now() - answer.now, unsent())
    }
    const stop = listenForChanges(
      ({ kind }) => {
        if (kind !== 'cylinder') void fetchThem()
      },
      { catchUp: true },
    )
    return () => {
      gone = true
      stop()
    }
  }, [userId])
}

function useNow(wanted: boolean, offsetMs: number): number | undefined {
  const [now, setNow] = useState<number>()
  useEffect(() => {
    if (!wanted) return
    const tick = () => setNow(Date.now() - offsetMs)
    tick()
    const timer = setInterval(tick, TICK_MS)
    // A phone that slept looks at once.
    document.addEventListener('visibilitychange', tick)
    return () => {
      clearInterval(timer)
      document.removeEventListener('visibilitychange', tick)
    }
  }, [wanted, offsetMs])
  return now
}

/** Calls once for each clock of this device's own jobs, at its end. */
function useRinging(running: { job: JobClocks; clock: Clock }[], own: string[], now: number) {
  const due = running
    .filter(({ job, clock }) => own.includes(job.jobId) && !isTransfer(clock) && clock.dueAt !== null)
    .filter(({ clock }) => clock.dueAt! <= now)
    .map(({ clock }) => clock.clockId)
    .join(' ')
  useEffect(() => {
    if (due.split(' ').filter((clockId) => clockId !== '' && firstToRing(clockId)).length > 0) ring()
  }, [due])
}
