import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { foldTape } from '#core/tape'
import { formatTemperatureDifference } from '#core/units'
import { idOf } from '~/form/ids.server'
import { signedIn } from '~/session/signed-in.server'
import { Fact } from '~/ui/fact'
import { useReading, useShow } from '~/ui/reader'
import { clockTime, day, dayAndTime } from '~/ui/time'
import { VerdictCard } from '~/ui/verdict-card'
import { JOB_STATUS_WORDS, LOCAL_CODES } from '~/wording/en'
import { WideTable } from '~/ui/wide-table'
import '~/styles/job.scss'
import type { Route } from './+types/report'
import { useWords } from './use-words'
import { expectedIn, JobContext } from './job-context'
import { type JobData, loadJob } from './load.server'
import { resultOf } from './stages/verify'

export function loader({ params, context }: Route.LoaderArgs) {
  return loadJob(signedIn(context), idOf(params.jobId))
}

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `Report, job ${loaderData.number} · Keg` : 'Keg' }]
}

/** The whole job on paper, for the customer and the file. */
export default function Report({ loaderData: data }: Route.ComponentProps) {
  const state = foldTape(data.entries)
  const byId = new Map(data.cylinders.map((c) => [c.cylinderId, c]))
  const job = {
    data,
    state,
    note: () => {},
    closed: true,
    cylinderOf: (id: string) => byId.get(id),
    learn: () => {},
  }
  return (
    <JobContext value={job}>
      <div className="page-head no-print">
        <h1>Job report</h1>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to={`/jobs/${data.jobId}`}>
            Back to the job
          </Link>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
      </div>
      <article className="print-sheet stack" data-bs-theme="light">
        <Head data={data} />
        <Figures />
        {state.verdicts.map((given) => (
          <VerdictCard key={given.entryId} verdict={given.verdict} overruled={given.overruled} />
        ))}
        <Transfers />
        <TapeTable />
        <p className="mb-0">{LOCAL_CODES}</p>
        <p className="mb-0 pt-4">Signature of the customer: ____________________________</p>
      </article>
    </JobContext>
  )

  function Head({ data: { system, shop, number, people, entries } }: { data: JobData }) {
    const names = [...new Set(entries.map((e) => people[e.userId ?? '']).filter(Boolean))]
    return (
      <header>
        <div>{shop.heading}</div>
        <h2 className="h1 mb-0">{state.title || system?.name || `Job ${number}`}</h2>
        <dl className="facts mt-2">
          <Fact name="Job">
            {number}, {JOB_STATUS_WORDS[state.status].toLowerCase()}
          </Fact>
          <Fact name="System">
            {system ? `${system.name}, ${system.customer}, ${system.site}` : 'not named'}
          </Fact>
          <Fact name="Refrigerant">{state.refrigerant ?? 'not known'}</Fact>
          <Fact name="Begun">{dayAndTime(state.openedAt, shop.timeZone)}</Fact>
          {state.closedAt !== undefined && (
            <Fact name="Closed">{dayAndTime(state.closedAt, shop.timeZone)}</Fact>
          )}
          <Fact name="Technicians">{names.join(', ')}</Fact>
        </dl>
      </header>
    )
  }

  function Figures() {
    const show = useShow()
    const { units } = useReading()
    const expected = expectedIn(data, state)
    const result = resultOf(state)
    return (
      <dl className="facts">
        {expected && (
          <Fact name="Should have been in it">
            {show('weight', expected.massMg)} ± {show('weight', 2 * expected.sigmaMg)}
          </Fact>
        )}
        <Fact name="Recovered">{show('weight', state.recoveredMg)}</Fact>
        {state.target && <Fact name="Target">{show('weight', state.target.massMg)}</Fact>}
        <Fact name="Charged">{show('weight', state.chargedMg)}</Fact>
        {state.oil.noted && (
          <Fact name="Oil out / in">
            {show('volume', state.oil.outMl)} / {show('volume', state.oil.inMl)}
          </Fact>
        )}
        {result?.superheatK !== undefined && (
          <Fact name="Superheat">{formatTemperatureDifference(result.superheatK, units.temperature)}</Fact>
        )}
        {result?.subcoolingK !== undefined && (
          <Fact name="Subcooling">{formatTemperatureDifference(result.subcoolingK, units.temperature)}</Fact>
        )}
      </dl>
    )
  }

  function Transfers() {
    const show = useShow()
    if (state.runs.length === 0) return null
    return (
      <WideTable label="Transfers">
        <thead>
          <tr>
            <th>Transfer</th>
            <th>Cylinder</th>
            <th>Scale</th>
            <th className="num">First</th>
            <th className="num">Last</th>
            <th className="num">Moved</th>
          </tr>
        </thead>
        <tbody>
          {state.runs.map((run) => (
            <tr key={run.runId}>
              <td>{run.use === 'recover' ? 'Recovered' : 'Charged'}</td>
              <td>{byId.get(run.cylinderId)?.label}</td>
              <td>
                {run.scale || '–'}, {run.modes.join(' then ')}
              </td>
              <td className="num">{show('weight', run.weighings[0]!.weightMg)}</td>
              <td className="num">{show('weight', run.weighings.at(-1)!.weightMg)}</td>
              <td className="num">{show('weight', run.amountMg - run.hoseMg)}</td>
            </tr>
          ))}
        </tbody>
      </WideTable>
    )
  }

  function TapeTable() {
    const words = useWords()
    return (
      <WideTable label="Everything that was noted">
        <caption>Everything that was noted</caption>
        <thead>
          <tr>
            <th>Time</th>
            <th>Entry</th>
            <th>By</th>
          </tr>
        </thead>
        <tbody>
          {state.lines.map(({ entry, body, struck, correctedBy }) => (
            <tr key={entry.entryId}>
              <td className="digits">
                {day(entry.at, data.shop.timeZone)} {clockTime(entry.at, data.shop.timeZone)}
              </td>
              <td className={struck ? 'struck' : undefined}>
                {words(entry.kind, body)}
                {struck && ' (struck)'}
                {correctedBy && !struck && ` (was: ${words(entry.kind, entry.body)})`}
              </td>
              <td>{data.people[entry.userId ?? '']}</td>
            </tr>
          ))}
        </tbody>
      </WideTable>
    )
  }
}
