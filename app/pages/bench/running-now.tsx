import { useEffect } from 'react'
import { Link, useRevalidator } from 'react-router'
import type { PullState } from '#core/recovery'
import type { RunningJob } from '#db'
import { useShow, useShowRate } from '~/base/ui/reader'
import { duration, minutesRange } from '~/base/ui/time'
import { PULL_WORDS } from '~/words/en'

const AGAIN_MS = 5_000
/** Judged longer ago than this, it says since when. */
const OLD_MS = 20_000

/** Recoveries that run: what goes on in each, how far it is, and how long it takes. */
export function RunningNow({ jobs, loadedAt }: { jobs: RunningJob[]; loadedAt: number }) {
  const { revalidate, state } = useRevalidator()
  useEffect(() => {
    const timer = setInterval(() => {
      if (state === 'idle' && !document.hidden) void revalidate()
    }, AGAIN_MS)
    return () => clearInterval(timer)
  }, [revalidate, state])
  return (
    <section className="stack" aria-labelledby="running-now">
      <h2 id="running-now" className="mb-0">
        Running now
      </h2>
      {jobs.map((job) => (
        <RunningCard key={job.jobId} job={job} loadedAt={loadedAt} />
      ))}
    </section>
  )
}

function RunningCard({ job, loadedAt }: { job: RunningJob; loadedAt: number }) {
  const show = useShow()
  const rate = useShowRate()
  const { jobId, number, title, refrigerant, code, kgPerS, movedMg, expectedMg, share, cylinder } = job
  const words = Object.hasOwn(PULL_WORDS, code) ? PULL_WORDS[code as PullState['code']] : undefined
  const done = expectedMg ? Math.min(1, movedMg / expectedMg) : undefined
  const judgedAgoMs = loadedAt - new Date(job.judgedAt).getTime()
  return (
    <Link to={`/jobs/${jobId}`} className={`job-card running ${code}`}>
      <span className="spread">
        <span className="title">{title || `Job ${number}`}</span>
        {refrigerant && <span className="tag tag-copper">{refrigerant}</span>}
      </span>
      <span className="spread">
        <strong className="says">{words?.says ?? code}</strong>
        <span className="digits">{kgPerS !== null && kgPerS > 0 && rate(kgPerS)}</span>
      </span>
      {done !== undefined && (
        <span
          className="run-bar"
          role="img"
          aria-label={`${Math.round(100 * done)} % of what should be in there`}
        >
          <span style={{ width: `${(100 * done).toFixed(1)}%` }} />
        </span>
      )}
      <span className="quiet">
        {[
          `${show('weight', movedMg)}${expectedMg ? ` of ${show('weight', expectedMg)}` : ''}`,
          job.leastS !== null && `${minutesRange(job.leastS, job.mostS ?? Infinity)} left`,
          share !== null && `${cylinder || 'cylinder'} ${Math.round(100 * share)} % of its limit`,
          judgedAgoMs > OLD_MS && `judged ${duration(judgedAgoMs / 1000)} ago`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </Link>
  )
}
