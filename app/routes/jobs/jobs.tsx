import { Form, Link } from 'react-router'
import { inShop, jobPage } from '#db'
import { openPage } from '~/device/page/page'
import { signedIn } from '~/base/session/signed-in.server'
import { type Column, DataTable } from '~/base/ui/data-table'
import { useShow } from '~/base/ui/reader'
import { day } from '~/base/ui/time'
import { JOB_STATUS_WORDS } from '~/words/en'
import type { Route } from './+types/jobs'
import { JOB_SORTS, JOBS_PAGE, type JobsData, jobsWish } from '~/pages/jobs/list-data'

export function meta() {
  return [{ title: 'Jobs · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const { filter, wish } = jobsWish(new URL(request.url).searchParams)
  const { jobs, count } = await inShop(shop.shopId, (tx) => jobPage(tx, filter, { ...wish, size: JOBS_PAGE }))
  return {
    jobs,
    count,
    wish,
    filter,
    pages: Math.max(1, Math.ceil(count / JOBS_PAGE)),
    onlyInHand: false,
    timeZone: shop.timeZone,
  } satisfies JobsData
}

export const clientLoader = openPage<JobsData>(() =>
  import('~/pages/jobs/list-from-device').then((each) => each.jobs),
)

/** Every job, the latest first. */
export default function Jobs({ loaderData }: Route.ComponentProps) {
  const { jobs, count, wish, filter, pages, onlyInHand, timeZone } = loaderData
  const show = useShow()
  const columns: Column<JobsData['jobs'][number]>[] = [
    {
      id: 'number',
      name: 'Job',
      cell: (job) => (
        <Link to={`/jobs/${job.jobId}`} className="digits">
          {job.number ?? '–'}
        </Link>
      ),
    },
    {
      id: 'what',
      name: 'What',
      cell: (job) => (
        <>
          <Link to={`/jobs/${job.jobId}`}>{job.title || job.system || 'Job from the roof'}</Link>
          {job.title && job.system && <div className="quiet">{job.system}</div>}
        </>
      ),
    },
    { id: 'customer', name: 'Customer', cell: (job) => job.customer },
    { id: 'status', name: 'State', cell: (job) => JOB_STATUS_WORDS[job.status] },
    { id: 'gas', name: 'Gas', cell: (job) => job.refrigerant },
    { id: 'recovered', name: 'Recovered', num: true, cell: (job) => show('weight', job.recoveredMg) },
    { id: 'charged', name: 'Charged', num: true, cell: (job) => show('weight', job.chargedMg) },
    {
      id: 'lastAt',
      name: 'Last entry',
      cell: (job) => <span className="digits">{day(job.lastAt, timeZone)}</span>,
    },
    { id: 'site', name: 'Site', cell: (job) => job.site, hidden: true },
  ]
  return (
    <>
      <div className="page-head">
        <h1>Jobs</h1>
        <span className="quiet">
          {onlyInHand ? `${count} in hand, those touched last; the server knows the others` : count}
        </span>
      </div>
      <Form method="get" className="row-of mb-3" role="search" key={JSON.stringify(filter)}>
        <select
          name="status"
          className="form-select w-choice"
          defaultValue={filter.status}
          aria-label="State"
        >
          <option value="">All states</option>
          {Object.entries(JOB_STATUS_WORDS).map(([code, words]) => (
            <option key={code} value={code}>
              {words}
            </option>
          ))}
        </select>
        <input
          name="search"
          className="form-control"
          style={{ width: '18rem' }}
          defaultValue={filter.search}
          placeholder="Title, system, customer or number"
          aria-label="Title, system, customer or number"
        />
        <button type="submit" className="btn btn-outline-secondary">
          Show
        </button>
      </Form>
      <DataTable
        label="Jobs"
        columns={columns}
        rows={jobs}
        rowId={(job) => job.jobId}
        server={{ sort: wish.sort, down: wish.down, page: wish.number, pages, sorts: JOB_SORTS }}
        empty={
          filter.search || filter.status ? 'No job fits this search.' : 'No job yet: start one with New job.'
        }
      />
    </>
  )
}
