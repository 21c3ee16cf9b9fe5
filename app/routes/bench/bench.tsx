import { CalendarClock } from 'lucide-react'
import { Link } from 'react-router'
import {
  inShop,
  jobsFinished,
  jobsInHand,
  needingAttention,
  programmesRunning,
  runningJobs,
  stock,
} from '#db'
import { CylinderTags } from '~/cylinders/tags'
import { dueItems } from '~/kit/due.server'
import { useRefresh } from '~/device/news/changes'
import { openPage } from '~/device/page/page'
import { now, todayIn } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import { Value } from '~/base/ui/reader'
import { day, dayAndTime, plainDay } from '~/base/ui/time'
import { jobNumber } from '~/base/ui/job-number'
import { NEXT_WORDS, STAGE_WORDS } from '~/words/en'
import { AtTheStations } from '~/pages/bench/at-the-stations'
import { type BenchData, benchData, DUE_DAYS, DUE_SHOWN } from '~/pages/bench/data'
import { RunningNow } from '~/pages/bench/running-now'
import type { Route } from './+types/bench'

const IN_HAND_SHOWN = 25

export function meta() {
  return [{ title: 'Bench · Keg' }]
}

export async function loader({ context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const today = todayIn(shop.timeZone)
  return inShop(shop.shopId, async (tx) => {
    const [jobs, lately, cylinders, held, due, running, programmes] = await Promise.all([
      jobsInHand(tx, IN_HAND_SHOWN),
      jobsFinished(tx, 5),
      needingAttention(tx, today),
      stock(tx),
      dueItems(tx, today, DUE_DAYS, DUE_SHOWN + 1),
      runningJobs(tx),
      programmesRunning(tx),
    ])
    return benchData({
      jobs,
      lately,
      cylinders,
      stock: held,
      due,
      running,
      programmes,
      loadedAt: now().getTime(),
      today,
      marginPct: shop.fillMarginPct,
      timeZone: shop.timeZone,
      mayWrite: person.role !== 'trainee',
    })
  })
}

export const clientLoader = openPage<BenchData>(() =>
  import('~/pages/bench/from-device').then((each) => each.bench),
)

/** Home: the jobs in hand and what each waits for, the cylinders to look at, and what the rack holds. */
export default function Bench({
  loaderData: { running, programmes, loadedAt, jobs, lately, due, moreDue, amiss, stock, timeZone, mayWrite },
}: Route.ComponentProps) {
  useRefresh(() => true)
  return (
    <>
      <div className="page-head">
        <h1>Bench</h1>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to="/jobs">
            All jobs
          </Link>
        </div>
      </div>
      <div className="two-columns">
        <section className="stack" aria-labelledby="in-hand">
          {programmes.length > 0 && (
            <AtTheStations programmes={programmes} loadedAt={loadedAt} timeZone={timeZone} />
          )}
          {running.length > 0 && <RunningNow jobs={running} loadedAt={loadedAt} />}
          <h2 id="in-hand" className="mb-0">
            In hand
          </h2>
          {jobs.length === 0 && running.length === 0 && programmes.length === 0 && (
            <div className="empty">
              <p>No job is in hand.</p>
              {mayWrite && (
                <Link className="btn btn-primary btn-big" to="/jobs/new">
                  Start the first one
                </Link>
              )}
            </div>
          )}
          {jobs.map((job) => (
            <JobCard key={job.jobId} job={job} timeZone={timeZone} />
          ))}
          {lately.length > 0 && (
            <section className="sheet" aria-labelledby="lately">
              <h2 id="lately">Finished lately</h2>
              <ul className="due-list">
                {lately.map((job) => (
                  <li key={job.jobId}>
                    <Link to={`/jobs/${job.jobId}`}>
                      <span>
                        {job.title || job.system || jobNumber(job.number)}{' '}
                        <span className="quiet">
                          {job.title && job.system} {day(job.lastAt, timeZone)}
                        </span>
                      </span>
                      <span>
                        out <Value kind="weight" of={job.recoveredMg} /> · in{' '}
                        <Value kind="weight" of={job.chargedMg} />
                      </span>
                    </Link>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </section>
        <div className="stack">
          <section className="sheet" aria-labelledby="due">
            <h2 id="due" className="with-icon">
              <CalendarClock size={20} aria-hidden className="icon" /> Due
            </h2>
            {due.length === 0 && <p className="mb-0 quiet">Nothing within {DUE_DAYS} days.</p>}
            <ul className="due-list">
              {due.map((item) => (
                <li key={item.id}>
                  <details>
                    <summary>
                      <span className={item.overdue ? 'tag tag-amber' : 'tag'}>{plainDay(item.on)}</span>{' '}
                      <strong>{item.label}</strong> <span>{item.what}</span>
                    </summary>
                    <p className="mb-1 quiet">
                      {item.how[0]}
                      <br />
                      {item.how[1]} <Link to={item.to}>Open {item.label}</Link>
                    </p>
                  </details>
                </li>
              ))}
            </ul>
            <p className="mb-0 mt-1 row-of">
              <Link to="/due">{moreDue ? 'More, and the year ahead' : 'The year ahead'}</Link>
              <a href="/due.ics" download>
                As a calendar
              </a>
            </p>
          </section>
          <section className="sheet" aria-labelledby="amiss">
            <h2 id="amiss">Cylinders to look at</h2>
            {amiss.length === 0 && (
              <p className="mb-0 quiet">None is near its limit, and none is in doubt.</p>
            )}
            <ul className="due-list">
              {amiss.map((c) => (
                <li key={c.cylinderId}>
                  <Link to={`/cylinders/${c.cylinderId}`}>
                    <span>
                      <strong>{c.label}</strong> <span className="quiet">{c.refrigerant ?? 'empty'}</span>
                    </span>
                    <span className="row-of">
                      <CylinderTags tags={c.tags} />
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
          <section className="sheet" aria-labelledby="stock">
            <h2 id="stock">In the rack</h2>
            {stock.length === 0 && (
              <p className="mb-0">
                No cylinder yet. {mayWrite && <Link to="/cylinders/new">Add the first one</Link>}
              </p>
            )}
            <ul className="due-list">
              {stock
                .filter((s) => s.refrigerant !== null)
                .map((s) => (
                  <li key={s.refrigerant}>
                    <Link to={`/cylinders?refrigerant=${encodeURIComponent(s.refrigerant!)}`}>
                      <span>
                        {s.refrigerant} <span className="quiet">in {s.cylinders}</span>
                      </span>
                      <strong>
                        <Value kind="weight" of={s.massMg} />
                      </strong>
                    </Link>
                  </li>
                ))}
            </ul>
          </section>
        </div>
      </div>
    </>
  )
}

function JobCard({ job, timeZone }: { job: BenchData['jobs'][number]; timeZone: string }) {
  const waiting = job.status === 'waiting'
  return (
    <Link to={`/jobs/${job.jobId}`} className={waiting ? 'job-card waiting' : 'job-card'}>
      <span className="spread">
        <span className="title">{job.title || job.system || jobNumber(job.number)}</span>
        <span className="row-of">
          {job.refrigerant && <span className="tag tag-copper">{job.refrigerant}</span>}
          <span className="tag">{waiting ? 'Waiting' : STAGE_WORDS[job.stage]}</span>
        </span>
      </span>
      <span className="quiet">
        {jobNumber(job.number)}
        {job.system && ` · ${job.system}, ${job.customer}`} · last entry {dayAndTime(job.lastAt, timeZone)}
      </span>
      <span className="next">
        {waiting ? `Waiting for ${job.waitingFor || 'something'}` : NEXT_WORDS[job.next]}
      </span>
      {(job.recoveredMg > 0 || job.chargedMg > 0) && (
        <span className="row-of">
          {job.recoveredMg > 0 && (
            <span>
              recovered{' '}
              <strong>
                <Value kind="weight" of={job.recoveredMg} />
              </strong>
            </span>
          )}
          {job.chargedMg > 0 && (
            <span>
              charged{' '}
              <strong>
                <Value kind="weight" of={job.chargedMg} />
              </strong>
            </span>
          )}
        </span>
      )}
    </Link>
  )
}
