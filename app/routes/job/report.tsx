import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { openPage } from '~/device/page/page'
import { idOf } from '~/base/form/ids.server'
import { signedIn } from '~/base/session/signed-in.server'
import { useTape } from '~/job/tape/use-tape'
import { Fact } from '~/base/ui/fact'
import { useReadersUnits } from '~/base/ui/reader'
import { dayAndTime } from '~/base/ui/time'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { LOCAL_CODES } from '~/words/en'
import { WideTable } from '~/base/ui/wide-table'
import '~/styles/job.scss'
import type { Route } from './+types/report'
import { JobContext, useJob, useJudging } from '~/job/field/job-context'
import type { JobData } from '~/job-data/data'
import { loadJob } from '~/job-data/load.server'
import { OnSite } from '~/job/field/on-site'
import { Drawn } from '~/job/paper/drawn'
import { headOf, type Section, sectionsOf, type TapeRow } from '~/job/paper/facts'
import { HoldCurves, Photos } from '~/job/paper/tight'

export function loader({ params, context }: Route.LoaderArgs) {
  return loadJob(signedIn(context), idOf(params.jobId), { whole: true })
}

export const clientLoader = openPage<JobData, Route.LoaderArgs['params']>(() =>
  import('~/pages/jobs/job-from-device').then((each) => each.job),
)

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `Report, job ${loaderData.number ?? '–'} · Keg` : 'Keg' }]
}

/** The whole job on paper, for the customer and the file. */
export default function Report({ loaderData: data }: Route.ComponentProps) {
  // With what only this device knows yet: paper must not be older than the page.
  const { state } = useTape(data.jobId, data)
  const byId = new Map(data.cylinders.map((c) => [c.cylinderId, c]))
  const job = {
    data,
    state,
    note: () => {},
    closed: true,
    cylinderOf: (id: string) => byId.get(id),
    learn: () => {},
    openStage: () => {},
    wholeJob: () => {},
  }
  return (
    <OnSite altitudeM={data.system?.altitudeM}>
      <JobContext value={job}>
        <div className="page-head no-print">
          <h1>Job report</h1>
          <div className="actions">
            <Link className="btn btn-outline-secondary" to={`/jobs/${data.jobId}`}>
              Back to the job
            </Link>
            <a className="btn btn-outline-secondary" href={`/jobs/${data.jobId}/job.json`} download>
              JSON
            </a>
            <a className="btn btn-outline-primary" href={`/jobs/${data.jobId}/report.pdf`}>
              PDF, customer
            </a>
            <a className="btn btn-outline-primary" href={`/jobs/${data.jobId}/report.pdf?copy=full`}>
              PDF, full
            </a>
            <Button onClick={() => window.print()}>Print</Button>
          </div>
        </div>
        <article className="print-sheet stack" data-bs-theme="light">
          <Sheet />
          <p className="mb-0">{LOCAL_CODES}</p>
          {state.signature ? (
            <div>
              <Drawn strokes={state.signature.strokes} />
              <p className="mb-0">
                {state.signature.name || 'The customer'}, {dayAndTime(state.signature.at, data.shop.timeZone)}
              </p>
            </div>
          ) : (
            <p className="mb-0 pt-4">Signature of the customer: ____________________________</p>
          )}
        </article>
      </JobContext>
    </OnSite>
  )
}

/** All of it, from the same list that the PDF is laid out of. */
function Sheet() {
  const { data, state } = useJob()
  const job = { data, state, judging: useJudging(), reading: useReadersUnits() }
  const { heading, title, facts } = headOf(job)
  return (
    <>
      <header>
        <div>{heading}</div>
        <h2 className="h1 mb-0">{title}</h2>
        <Facts facts={facts} />
      </header>
      {sectionsOf(job).map((section) => (
        <OfPaper key={section.id} section={section} />
      ))}
    </>
  )
}

const Facts = ({ facts }: { facts: readonly [name: string, value: string][] }) => (
  <dl className="facts mt-2">
    {facts.map(([name, value], i) => (
      <Fact key={`${name} ${i}`} name={name}>
        {value}
      </Fact>
    ))}
  </dl>
)

function OfPaper({ section }: { section: Section }) {
  if (section.id === 'curves') return <HoldCurves />
  if (section.id === 'photos') return <Photos />
  return (
    <section>
      <h3>{section.heading}</h3>
      {'lines' in section && (
        <ul className="mb-0">
          {section.lines.map((line, i) => (
            <li key={i}>{line}</li>
          ))}
        </ul>
      )}
      {'facts' in section && <Facts facts={section.facts} />}
      {'verdicts' in section && (
        <div className="stack">
          {section.verdicts.map(({ given, stale, doubted }) => (
            <VerdictCard
              key={given.entryId}
              verdict={given.verdict}
              overruled={given.overruled}
              stale={stale}
              doubted={doubted}
            />
          ))}
        </div>
      )}
      {section.id === 'weights' && <Weights columns={section.columns} rows={section.rows} />}
      {section.id === 'tape' && <Noted rows={section.rows} />}
    </section>
  )
}

function Weights({ columns, rows }: { columns: string[]; rows: string[][] }) {
  // What was moved, in, and on what; then figures.
  const kind = (i: number) => (i > 2 ? 'num' : undefined)
  return (
    <WideTable label="Transfers">
      <thead>
        <tr>
          {columns.map((column, i) => (
            <th key={column} className={kind(i)}>
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, k) => (
          <tr key={k}>
            {row.map((cell, i) => (
              <td key={i} className={kind(i)}>
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </WideTable>
  )
}

function Noted({ rows }: { rows: TapeRow[] }) {
  return (
    <WideTable label="Everything that was noted">
      <thead>
        <tr>
          <th>Time</th>
          <th>Entry</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ entryId, when, words, struck, by }) => (
          <tr key={entryId}>
            <td className="digits">{when}</td>
            <td className={struck ? 'struck' : undefined}>{words}</td>
            <td>{by}</td>
          </tr>
        ))}
      </tbody>
    </WideTable>
  )
}
