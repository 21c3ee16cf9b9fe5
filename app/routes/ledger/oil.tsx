import { Link } from 'react-router'
import type { OilLine } from '#db'
import { openPage } from '~/device/page/page'
import { signedIn } from '~/base/session/signed-in.server'
import { useShow } from '~/base/ui/reader'
import { day } from '~/base/ui/time'
import { WideTable } from '~/base/ui/wide-table'
import type { Route } from './+types/oil'
import { placeOf, whatOf } from '~/pages/ledger/oil-words'
import { loadOil } from '~/pages/ledger/oil.server'
import { SpanForm } from '~/pages/ledger/span-form'

export function meta() {
  return [{ title: 'Oil · Keg' }]
}

export function loader({ request, context }: Route.LoaderArgs) {
  return loadOil(signedIn(context), new URL(request.url).searchParams)
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

/** Every millilitre of oil and dye: from which bottle, into which system, and what was drained or went with old parts. */
export default function Oil({ loaderData }: Route.ComponentProps) {
  const { wrong, firstDay, lastDay, lines, most, timeZone } = loaderData
  const show = useShow()
  return (
    <>
      <div className="page-head">
        <h1>Oil</h1>
        <div className="actions">
          <Link className="btn btn-outline-primary" to="/ledger">
            Gas
          </Link>
          {lines.length > 0 && (
            <a
              className="btn btn-outline-secondary"
              href={`/ledger/oil.csv?from=${firstDay}&to=${lastDay}`}
              download
            >
              Export as CSV
            </a>
          )}
        </div>
      </div>
      <div className="mb-3">
        <SpanForm firstDay={firstDay} lastDay={lastDay} />
      </div>
      {wrong ? (
        <p className="field-error" role="alert">
          {wrong}
        </p>
      ) : (
        <div className="stack">
          <section className="sheet">
            <h2>Where it went</h2>
            {lines.length === 0 ? (
              <p className="mb-0 quiet">No oil was noted in these days.</p>
            ) : (
              <WideTable label="Oil by where it went">
                <thead>
                  <tr>
                    <th>What</th>
                    <th>From</th>
                    <th>To</th>
                    <th className="number">Volume</th>
                  </tr>
                </thead>
                <tbody>
                  {sums(lines).map(({ what, from, to, ml }) => (
                    <tr key={`${what} ${from} ${to}`}>
                      <th scope="row">{what}</th>
                      <td>{from}</td>
                      <td>{to}</td>
                      <td className="number">{show('volume', ml)}</td>
                    </tr>
                  ))}
                </tbody>
              </WideTable>
            )}
          </section>
          {lines.length > 0 && (
            <section className="sheet">
              <h2>Every move</h2>
              {lines.length === most && (
                <p className="quiet">The newest {most}: choose fewer days for the rest.</p>
              )}
              <WideTable label="Moves of oil">
                <thead>
                  <tr>
                    <th>Day</th>
                    <th>Job</th>
                    <th>System</th>
                    <th>What</th>
                    <th>From</th>
                    <th>To</th>
                    <th className="number">Volume</th>
                  </tr>
                </thead>
                <tbody>
                  {lines.map((line, i) => (
                    <tr key={i}>
                      <td>{day(line.at, timeZone)}</td>
                      <td>
                        <Link to={`/jobs/${line.jobId}`}>Job {line.number}</Link>
                      </td>
                      <td>{line.system ?? ''}</td>
                      <td>{whatOf(line)}</td>
                      <td>{placeOf(line, line.fromPlace)}</td>
                      <td>{placeOf(line, line.toPlace)}</td>
                      <td className="number">{show('volume', line.volumeMl)}</td>
                    </tr>
                  ))}
                </tbody>
              </WideTable>
            </section>
          )}
        </div>
      )}
    </>
  )
}

function sums(lines: readonly OilLine[]) {
  const found = new Map<string, { what: string; from: string; to: string; ml: number }>()
  for (const line of lines) {
    const [what, from, to] = [whatOf(line), placeOf(line, line.fromPlace), placeOf(line, line.toPlace)]
    const key = `${what} ${from} ${to}`
    const known = found.get(key)
    if (known) known.ml += line.volumeMl
    else found.set(key, { what, from, to, ml: line.volumeMl })
  }
  return [...found.values()].sort((a, b) => b.ml - a.ml)
}
