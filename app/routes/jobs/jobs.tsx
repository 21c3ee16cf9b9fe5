import { Link } from 'react-router'
import { inShop, jobs as listJobs } from '#db'
import { askedTime } from '~/form/search.server'
import { signedIn } from '~/session/signed-in.server'
import { Value } from '~/ui/reader'
import { day } from '~/ui/time'
import { JOB_STATUS_WORDS } from '~/wording/en'
import { WideTable } from '~/ui/wide-table'
import type { Route } from './+types/jobs'

const PAGE = 60

export function meta() {
  return [{ title: 'Jobs · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const before = askedTime(new URL(request.url).searchParams, 'before')
  const jobs = await inShop(shop.shopId, (tx) => listJobs(tx, PAGE, before))
  return {
    jobs,
    timeZone: shop.timeZone,
    more: jobs.length === PAGE ? jobs.at(-1)!.lastAt.toISOString() : null,
  }
}

/** Every job, the latest first. */
export default function Jobs({ loaderData: { jobs, timeZone, more } }: Route.ComponentProps) {
  return (
    <>
      <div className="page-head">
        <h1>Jobs</h1>
      </div>
      {jobs.length === 0 ? (
        <div className="empty">No job yet: start one with New job.</div>
      ) : (
        <div className="sheet">
          <WideTable label="Jobs">
            <thead>
              <tr>
                <th>Job</th>
                <th>What</th>
                <th>Customer</th>
                <th>State</th>
                <th>Gas</th>
                <th className="num">Recovered</th>
                <th className="num">Charged</th>
                <th>Last entry</th>
              </tr>
            </thead>
            <tbody>
              {jobs.map((job) => (
                <tr key={job.jobId}>
                  <td>
                    <Link to={`/jobs/${job.jobId}`} className="digits">
                      {job.number}
                    </Link>
                  </td>
                  <td>
                    <Link to={`/jobs/${job.jobId}`}>{job.title || job.system || 'Job from the roof'}</Link>
                    {job.title && job.system && <div className="quiet">{job.system}</div>}
                  </td>
                  <td>{job.customer}</td>
                  <td>{JOB_STATUS_WORDS[job.status]}</td>
                  <td>{job.refrigerant}</td>
                  <td className="num">
                    <Value kind="weight" of={job.recoveredMg} />
                  </td>
                  <td className="num">
                    <Value kind="weight" of={job.chargedMg} />
                  </td>
                  <td className="digits">{day(job.lastAt, timeZone)}</td>
                </tr>
              ))}
            </tbody>
          </WideTable>
        </div>
      )}
      {more && (
        <Link className="btn btn-outline-secondary mt-3" to={`?before=${encodeURIComponent(more)}`}>
          Earlier jobs
        </Link>
      )}
    </>
  )
}
