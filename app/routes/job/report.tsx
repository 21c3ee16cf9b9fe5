import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import {
  asFound,
  bodyToday,
  checkResult,
  type Episode,
  type GivenVerdict,
  inSystemNow,
  netMg,
  standingVerdict,
} from '#core/tape'
import { formatTemperatureDifference } from '#core/units'
import { openPage } from '~/offline/page/page'
import { idOf } from '~/form/ids.server'
import { signedIn } from '~/session/signed-in.server'
import { useTape } from '~/tape/use-tape'
import { Fact } from '~/ui/fact'
import { useReadersUnits, useShow } from '~/ui/reader'
import { clockTime, day, dayAndTime } from '~/ui/time'
import { VerdictCard } from '~/ui/verdict-card'
import { IN_SYSTEM_WORDS, JOB_STATUS_WORDS, LOCAL_CODES } from '~/wording/en'
import { WideTable } from '~/ui/wide-table'
import '~/styles/job.scss'
import type { Route } from './+types/report'
import { useWords } from './tape/use-words'
import { JobContext, judgingContext } from './job-context'
import type { JobData } from '~/job/data'
import { loadJob } from '~/job/load.server'
import { WeighedInDoubt } from './kit/weighed-in-doubt'
import { OnSite } from './on-site'
import { Drawn } from './paper/drawn'
import { doubtsOf, nextDates, summaryOf } from './paper/summary'
import { HoldCurves, RepairOnPaper } from './paper/tight'

export function loader({ params, context }: Route.LoaderArgs) {
  return loadJob(signedIn(context), idOf(params.jobId), { whole: true })
}

export const clientLoader = openPage<JobData, Route.LoaderArgs['params']>(() =>
  import('./from-device').then((each) => each.job),
)

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `Report, job ${loaderData.number ?? '–'} · Keg` : 'Keg' }]
}

/** Whether a verdict rests on weights that are in doubt. */
const rests = ({ about }: GivenVerdict, doubts: number) =>
  doubts > 0 && (about === 'recovery' || about === 'charge')

/** What came out and went in from one emptying to the next. */
function EpisodeFacts({ episode }: { episode: Episode }) {
  const show = useShow()
  const { outMg, inMg, pulls, charges } = episode
  return (
    <>
      {charges > 0 && <Fact name="Charged">{show('weight', inMg)}</Fact>}
      {(pulls > 0 || episode.end) && <Fact name="Recovered">{show('weight', outMg)}</Fact>}
    </>
  )
}

/** The whole job on paper, for the customer and the file. */
export default function Report({ loaderData: data }: Route.ComponentProps) {
  // With what only this device knows yet: paper must not be older than the page.
  const { state } = useTape(data.jobId, data)
  const judging = judgingContext(data, state)
  /** One that another has followed spoke of its time. */
  const isStale = ({ entryId, about }: GivenVerdict) => {
    const standing = standingVerdict(state, about, judging)
    return standing?.entryId === entryId && standing.stale
  }
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
          <Head data={data} />
          <InShort />
          <Figures />
          <WeighedInDoubt />
          {state.verdicts.map((given) => (
            <VerdictCard
              key={given.entryId}
              verdict={given.verdict}
              overruled={given.overruled}
              stale={isStale(given)}
              doubted={rests(given, data.doubts.length)}
            />
          ))}
          <HoldCurves />
          <RepairOnPaper />
          <Transfers />
          <TapeTable />
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

  function InShort() {
    const show = useShow()
    const lines = [...summaryOf(state, judging, show), ...doubtsOf(state)]
    const dates = nextDates(state, judging)
    return (
      <section>
        <h3>In short</h3>
        <ul className="mb-0">
          {lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
          {dates.map(({ on, what }) => (
            <li key={what}>
              {day(on, data.shop.timeZone)}: {what}.
            </li>
          ))}
        </ul>
      </section>
    )
  }

  function Figures() {
    const show = useShow()
    const { units } = useReadersUnits()
    const found = asFound(judging)
    const result = checkResult(state)
    const now = inSystemNow(state)
    return (
      <dl className="facts">
        {found && (
          <Fact name={found.from === 'books' ? 'In it by earlier books' : 'Should have been in it'}>
            {show('weight', found.weighed.massMg)} ± {show('weight', 2 * found.weighed.sigmaMg)}
          </Fact>
        )}
        {state.episodes.map((episode, i) => (
          <EpisodeFacts key={i} episode={episode} />
        ))}
        {state.target && <Fact name="Target">{show('weight', state.target.massMg)}</Fact>}
        {now.kind !== 'as-found' && (
          <Fact name={IN_SYSTEM_WORDS[now.kind]}>
            {now.kind === 'empty' ? 'empty' : show('weight', now.massMg)}
          </Fact>
        )}
        {state.kit.length > 0 && (
          <Fact name="Kit used">{[...new Set(state.kit.map(({ label }) => label))].join(', ')}</Fact>
        )}
        {state.oil.noted && (
          <Fact name="Oil out / in">
            {show('volume', state.oil.outMl)} / {show('volume', state.oil.inMl)}
          </Fact>
        )}
        {result.superheatK !== undefined && (
          <Fact name="Superheat">{formatTemperatureDifference(result.superheatK, units.temperature)}</Fact>
        )}
        {result.subcoolingK !== undefined && (
          <Fact name="Subcooling">{formatTemperatureDifference(result.subcoolingK, units.temperature)}</Fact>
        )}
      </dl>
    )
  }

  function Transfers() {
    const show = useShow()
    if (state.transfers.length === 0) return null
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
          {state.transfers.map((run) => (
            <tr key={run.transferId}>
              <td>{run.use === 'recover' ? 'Recovered' : 'Charged'}</td>
              <td>{byId.get(run.cylinderId)?.label}</td>
              <td>
                {run.segments.map(({ scale, mode }) => `${scale ? `${scale}, ` : ''}${mode}`).join(' then ')}
              </td>
              <td className="num">{show('weight', run.weighings[0]!.weightMg)}</td>
              <td className="num">{show('weight', run.weighings.at(-1)!.weightMg)}</td>
              <td className="num">{show('weight', netMg(run))}</td>
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
          {state.lines.map(({ entry, time, body, struck, correctedBy }) => (
            <tr key={entry.entryId}>
              <td className="digits">
                {day(time, data.shop.timeZone)} {clockTime(time, data.shop.timeZone)}
              </td>
              <td className={struck ? 'struck' : undefined}>
                {words(entry.kind, body)}
                {struck && ' (struck)'}
                {correctedBy && !struck && ` (was: ${words(entry.kind, bodyToday(entry))})`}
              </td>
              <td>{data.people[entry.userId ?? '']}</td>
            </tr>
          ))}
        </tbody>
      </WideTable>
    )
  }
}
