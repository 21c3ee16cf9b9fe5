import { Link } from 'react-router'
import { CAME_FROM, type Conservation, INSIDE, sum, WENT_TO } from '#core/ledger'
import { co2EquivalentT } from '#core/leaks'
import { MG_PER_KG } from '#core/units'
import { openPage } from '~/device/page/page'
import { signedIn } from '~/base/session/signed-in.server'
import { Drawn } from '~/base/ui/drawing/drawn'
import { useShow } from '~/base/ui/reader'
import { plainDay } from '~/base/ui/time'
import { WideTable } from '~/base/ui/wide-table'
import { DIFFERENCE_WORDS, PLACE_WORDS, wordOf } from '~/words/en'
import type { Route } from './+types/conservation'
import { loadConservation, type ShownGas } from '~/pages/ledger/conservation.server'
import { presets } from '~/pages/ledger/presets'
import { SpanForm } from '~/pages/ledger/span-form'
import type { Difference } from '#db'
import type { WhereInput } from '~/pages/ledger/where-drawing'

export function meta() {
  return [{ title: 'Where it went · Keg' }]
}

export function loader({ request, context }: Route.LoaderArgs) {
  return loadConservation(signedIn(context), new URL(request.url).searchParams)
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

const loadDrawing = () => import('~/pages/ledger/where-drawing').then(({ whereIn }) => whereIn)

/** Every cylinder, system, machine and loss adds up to what was bought, to the milligram, between any two days. */
export default function ConservationPage({ loaderData }: Route.ComponentProps) {
  const { wrong, firstDay, lastDay, today, gases, off, differences } = loaderData
  const query = new URLSearchParams({ from: firstDay, to: lastDay })
  const amiss = gases.filter((each) => each.offMg !== 0)
  return (
    <>
      <div className="page-head">
        <h1>Where it went</h1>
        <span className="quiet">
          {plainDay(firstDay)} to {plainDay(lastDay)}
        </span>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to="/ledger">
            Ledger
          </Link>
          <a className="btn btn-outline-secondary" href={`/ledger/conservation.csv?${query}`} download>
            Figures of the span as CSV
          </a>
        </div>
      </div>
      <div className="row-of mb-3">
        {presets(today).map(({ words, from, to }) => (
          <Link key={words} className="btn btn-outline-primary" to={`?${new URLSearchParams({ from, to })}`}>
            {words}
          </Link>
        ))}
        <SpanForm firstDay={firstDay} lastDay={lastDay} />
      </div>
      {wrong ? (
        <p className="field-error" role="alert">
          {wrong}
        </p>
      ) : (
        <div className="stack">
          <Finding amiss={amiss} off={off} any={gases.length > 0} />
          {gases.length > 0 && (
            <>
              <section className="sheet">
                <h2>Of all that was there or came: where it is, where it went</h2>
                <Drawn
                  className="where-chart"
                  label="Shares of each gas by where it is or went; the table below has the figures"
                  input={drawnOf(gases)}
                  load={loadDrawing}
                />
              </section>
              <section className="sheet">
                <h2>By gas</h2>
                <Balance gases={gases} query={query} />
              </section>
              {differences.length > 0 && (
                <section className="sheet">
                  <h2>Differences by cause</h2>
                  <ByCause differences={differences} />
                </section>
              )}
            </>
          )}
        </div>
      )}
    </>
  )
}

function Finding({
  amiss,
  off,
  any,
}: {
  amiss: ShownGas[]
  off: Route.ComponentProps['loaderData']['off']
  any: boolean
}) {
  const show = useShow()
  if (!any) return <p className="empty">Nothing was in the books, and nothing moved in these days.</p>
  if (amiss.length === 0 && off.length === 0)
    return (
      <p className="verdict verdict-good mb-0" role="status">
        <strong>It adds up to the milligram:</strong> start, and what came, less what went, is what the places
        hold; and what each place is kept to hold is what its movements make it.
      </p>
    )
  return (
    <div className="verdict verdict-bad" role="alert">
      <h2 className="h3">It does not add up: the books themselves are at fault</h2>
      <p>Write down what stands here, make a backup (./keg backup), and have it looked at.</p>
      <ul className="mb-0">
        {amiss.map((each) => (
          <li key={each.refrigerant}>
            {each.refrigerant ?? 'Gas not named'}: {show('weight', each.offMg)}
          </li>
        ))}
        {off.map((each) => (
          <li key={`${each.place} ${each.label}`}>
            {each.label}: kept {show('weight', each.offMg)} off its movements
          </li>
        ))}
      </ul>
    </div>
  )
}

/** What came into the books or left them without being bought or sent away, by what it was booked for. */
function ByCause({ differences }: { differences: Difference[] }) {
  const show = useShow()
  const weight = (massMg: number) =>
    massMg === 0 ? <span className="quiet">–</span> : show('weight', massMg)
  return (
    <WideTable label="Differences by cause">
      <thead>
        <tr>
          <th>Gas</th>
          <th>Cause</th>
          <th className="num">Found</th>
          <th className="num">Gone</th>
          <th className="num">Times</th>
        </tr>
      </thead>
      <tbody>
        {differences.map(({ refrigerant, cause, foundMg, goneMg, times }) => (
          <tr key={`${refrigerant} ${cause}`}>
            <th scope="row">{refrigerant ?? 'not named'}</th>
            <td className="cause">{wordOf(DIFFERENCE_WORDS, cause)}</td>
            <td className="num">{weight(foundMg)}</td>
            <td className="num">{weight(goneMg)}</td>
            <td className="num digits">{times}</td>
          </tr>
        ))}
      </tbody>
    </WideTable>
  )
}

/** A row for each gas, its parts in the order in which they add up. */
function Balance({ gases, query }: { gases: ShownGas[]; query: URLSearchParams }) {
  const show = useShow()
  const weight = (massMg: number) =>
    massMg === 0 ? <span className="quiet">–</span> : show('weight', massMg)
  const came = CAME_FROM.filter((place) => gases.some((each) => each.came[place] !== 0))
  const went = WENT_TO.filter((place) => gases.some((each) => each.went[place] !== 0))
  const within = INSIDE.filter((place) =>
    gases.some((each) => each.end[place] !== 0 || each.start[place] !== 0),
  )
  const tonnes = ({ gwp }: ShownGas, massMg: number) =>
    gwp === null ? '' : co2EquivalentT(massMg / MG_PER_KG, gwp).toFixed(2)
  return (
    <WideTable label="Start, what came, what went and the end, by gas">
      <thead>
        <tr>
          <th>Gas</th>
          <th className="num">At the start</th>
          {came.map((place) => (
            <th key={place} className="num">
              + {CAME_WORDS[place]}
            </th>
          ))}
          {went.map((place) => (
            <th key={place} className="num">
              − {WENT_WORDS[place]}
            </th>
          ))}
          <th className="num">= At the end</th>
          {within.map((place) => (
            <th key={place} className="num">
              in {WITHIN_WORDS[place]}
            </th>
          ))}
          <th className="num">End, t CO₂e</th>
        </tr>
      </thead>
      <tbody>
        {gases.map((each) => (
          <tr key={each.refrigerant}>
            <th scope="row">
              <Link
                to={`/ledger?${new URLSearchParams([...query, ...(each.refrigerant ? [['refrigerant', each.refrigerant]] : [])])}`}
              >
                {each.refrigerant ?? 'not named'}
              </Link>
            </th>
            <td className="num">{weight(sum(each.start))}</td>
            {came.map((place) => (
              <td key={place} className="num">
                {weight(each.came[place])}
              </td>
            ))}
            {went.map((place) => (
              <td key={place} className="num">
                {weight(each.went[place])}
              </td>
            ))}
            <td className="num">
              <strong>{weight(sum(each.end))}</strong>
            </td>
            {within.map((place) => (
              <td key={place} className="num">
                {weight(each.end[place])}
              </td>
            ))}
            <td className="num">{tonnes(each, sum(each.end))}</td>
          </tr>
        ))}
      </tbody>
    </WideTable>
  )
}

const CAME_WORDS: Record<(typeof CAME_FROM)[number], string> = {
  supplier: 'bought',
  unnamed: 'out of systems that nobody named',
  outside: 'was there before the books',
  unexplained: 'found by weighing',
}
const WENT_WORDS: Record<(typeof WENT_TO)[number], string> = {
  unnamed: 'into systems that nobody named',
  reclaimer: 'to the reclaimer',
  lost: 'lost',
  unexplained: 'missing by weighing',
  outside: 'recovered elsewhere',
}
const WITHIN_WORDS = { cylinder: 'cylinders', system: 'systems', rig: 'hoses and machines' }

const TONES = {
  cylinder: 'copper',
  system: 'cold',
  rig: 'amber',
  reclaimer: 'good',
  lost: 'limit',
  unexplained: 'quiet',
  unnamed: 'cold',
  outside: 'rule',
} as const

function drawnOf(gases: readonly Conservation[]): WhereInput {
  const wholes = gases.map((each) => Math.max(1, sum(each.start) + sum(each.came)))
  const part = (name: string, tone: string, of: (each: Conservation) => number) => ({
    name,
    tone,
    shares: gases.map((each, i) => Math.max(0, of(each)) / wholes[i]!),
  })
  return {
    gases: gases.map((each) => each.refrigerant ?? 'not named'),
    parts: [
      ...INSIDE.map((place) => part(PLACE_WORDS[place], TONES[place], (each) => each.end[place])),
      ...WENT_TO.map((place) => part(WENT_WORDS[place], TONES[place], (each) => each.went[place])),
    ].filter(({ shares }) => shares.some((share) => share > 0)),
  }
}
