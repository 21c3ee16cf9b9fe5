import { addMonths, format, parseISO } from 'date-fns'
import { Link } from 'react-router'
import { SHEET_COLUMNS, type SheetColumn, type SheetLine } from '#core/ledger'
import { co2EquivalentT } from '#core/leaks'
import { MG_PER_KG } from '#core/units'
import type { SheetPart } from '#db'
import { openPage } from '~/device/page/page'
import { signedIn } from '~/base/session/signed-in.server'
import { useShow } from '~/base/ui/reader'
import { plainDay } from '~/base/ui/time'
import { WideTable } from '~/base/ui/wide-table'
import { SHEET_PART_WORDS } from '~/words/en'
import type { Route } from './+types/month'
import { loadSheet, type ShownLine } from '~/pages/ledger/month.server'
import { presets } from '~/pages/ledger/presets'
import { SpanForm } from '~/pages/ledger/span-form'

export function meta() {
  return [{ title: 'Month sheet · Keg' }]
}

export function loader({ request, context }: Route.LoaderArgs) {
  return loadSheet(signedIn(context), new URL(request.url).searchParams)
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

const HEADS: Record<SheetColumn, string> = {
  startMg: 'In stock at the start',
  boughtMg: SHEET_PART_WORDS.bought,
  openingMg: SHEET_PART_WORDS.opening,
  recoveredMg: SHEET_PART_WORDS.recovered,
  chargedMg: SHEET_PART_WORDS.charged,
  shippedMg: SHEET_PART_WORDS.shipped,
  lostMg: SHEET_PART_WORDS.lost,
  unexplainedMg: SHEET_PART_WORDS.unexplained,
  rigMg: SHEET_PART_WORDS.rig,
  endMg: 'In stock at the end',
}
const PART: Partial<Record<SheetColumn, SheetPart>> = {
  boughtMg: 'bought',
  openingMg: 'opening',
  recoveredMg: 'recovered',
  chargedMg: 'charged',
  shippedMg: 'shipped',
  lostMg: 'lost',
  unexplainedMg: 'unexplained',
  rigMg: 'rig',
}
/** How each goes into the sum. */
const SIGN: Record<SheetColumn, string> = {
  startMg: '',
  boughtMg: '+',
  openingMg: '+',
  recoveredMg: '+',
  chargedMg: '−',
  shippedMg: '−',
  lostMg: '−',
  unexplainedMg: '+',
  rigMg: '−',
  endMg: '=',
}

/** What became of the gas in the cylinders over a month: it adds up, and each figure leads to its movements. */
export default function MonthSheet({ loaderData }: Route.ComponentProps) {
  const { wrong, firstDay, lastDay, today, lines, total, heading, shopName } = loaderData
  const columns = SHEET_COLUMNS.filter(
    (column) =>
      column === 'startMg' || column === 'endMg' || total[column] !== 0 || lines.some((l) => l[column] !== 0),
  )
  const month = (by: number) => format(addMonths(parseISO(firstDay), by), 'yyyy-MM')
  const query = new URLSearchParams({ from: firstDay, to: lastDay })
  return (
    <>
      <div className="page-head no-print">
        <h1>Month sheet</h1>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to="/ledger">
            Ledger
          </Link>
          <a className="btn btn-outline-secondary" href={`/ledger/month.csv?${query}`} download>
            Export as CSV
          </a>
          <button type="button" className="btn btn-outline-secondary" onClick={() => window.print()}>
            Print
          </button>
        </div>
      </div>
      <div className="row-of mb-3 no-print">
        <Link className="btn btn-outline-secondary" to={`?month=${month(-1)}`}>
          Month before
        </Link>
        {presets(today).map(({ words, from, to }) => (
          <Link key={words} className="btn btn-outline-primary" to={`?${new URLSearchParams({ from, to })}`}>
            {words}
          </Link>
        ))}
        <Link className="btn btn-outline-secondary" to={`?month=${month(1)}`}>
          Month after
        </Link>
        <SpanForm firstDay={firstDay} lastDay={lastDay} />
      </div>
      {wrong && (
        <p className="field-error" role="alert">
          {wrong}
        </p>
      )}
      <article className="print-sheet month-sheet stack" data-bs-theme="light">
        <header>
          <div>{heading || shopName}</div>
          <h2 className="mb-0">
            Refrigerant in cylinders, {plainDay(firstDay)} to {plainDay(lastDay)}
          </h2>
        </header>
        {lines.length === 0 ? (
          <p className="mb-0">Nothing was in stock, and nothing moved in these days.</p>
        ) : (
          <>
            <SheetTable lines={lines} total={total} columns={columns} query={query} />
            <Co2Table lines={lines} columns={columns} />
          </>
        )}
        <p className="mb-0 quiet">
          By the books as they are today: a correction counts in the month of what it corrects. Gas that
          leaked from a system was in no cylinder, and is not on this sheet.
        </p>
      </article>
    </>
  )
}

interface TableProps {
  lines: ShownLine[]
  columns: SheetColumn[]
}

function SheetTable({
  lines,
  total,
  columns,
  query,
}: TableProps & { total: SheetLine; query: URLSearchParams }) {
  const show = useShow()
  const link = (column: SheetColumn, refrigerant: string | null) =>
    `/ledger?${new URLSearchParams([
      ...(column === 'startMg' || column === 'endMg' ? [] : [...query]),
      ...(column === 'endMg' ? [['to', query.get('to')!]] : []),
      ...(PART[column] ? [['part', PART[column]]] : []),
      ...(refrigerant ? [['refrigerant', refrigerant]] : []),
    ])}`
  const cells = (line: SheetLine, refrigerant: string | null) =>
    columns.map((column) => (
      <td key={column} className="num">
        {line[column] === 0 ? (
          <span className="quiet">–</span>
        ) : column === 'startMg' ? (
          show('weight', line[column])
        ) : (
          <Link to={link(column, refrigerant)}>{show('weight', line[column])}</Link>
        )}
      </td>
    ))
  return (
    <WideTable label="By gas">
      <thead>
        <tr>
          <th>Gas</th>
          {columns.map((column) => (
            <th key={column} className="num">
              {SIGN[column] && <span aria-hidden>{SIGN[column]} </span>}
              {HEADS[column]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.refrigerant}>
            <td className="digits">{line.refrigerant ?? 'not named'}</td>
            {cells(line, line.refrigerant)}
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <th>In all</th>
          {cells(total, null)}
        </tr>
      </tfoot>
    </WideTable>
  )
}

/** The same in tonnes of CO2-equivalent, where the gas has a factor. */
function Co2Table({ lines, columns }: TableProps) {
  const known = lines.filter((line) => line.gwp !== null)
  const tonnes = (line: ShownLine, column: SheetColumn) => co2EquivalentT(line[column] / MG_PER_KG, line.gwp!)
  const text = (value: number) => (value === 0 ? '–' : value.toFixed(2).replace('-', '−'))
  return (
    <WideTable label="Tonnes of CO₂-equivalent">
      <caption>Tonnes of CO₂-equivalent</caption>
      <thead>
        <tr>
          <th>Gas</th>
          {columns.map((column) => (
            <th key={column} className="num">
              {HEADS[column]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {known.map((line) => (
          <tr key={line.refrigerant}>
            <td className="digits">
              {line.refrigerant} <span className="quiet">GWP {Math.round(line.gwp!)}</span>
            </td>
            {columns.map((column) => (
              <td key={column} className="num">
                {text(tonnes(line, column))}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <th>In all</th>
          {columns.map((column) => (
            <td key={column} className="num">
              {text(known.reduce((sum, line) => sum + tonnes(line, column), 0))}
            </td>
          ))}
        </tr>
      </tfoot>
    </WideTable>
  )
}
