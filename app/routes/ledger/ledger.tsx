import { Form, Link } from 'react-router'
import { cylinderOf, inShop, movements, movementSums, stock } from '#db'
import { askedTime } from '~/base/form/search'
import { openPage } from '~/device/page/page'
import { todayIn } from '~/base/session/clock.server'
import { useShow } from '~/base/ui/reader'
import { SHEET_PART_WORDS } from '~/words/en'
import { MovementTable } from '~/ledger/movement-table'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/ledger'
import { filterOf } from '~/pages/ledger/filter.server'
import { presets } from '~/pages/ledger/presets'

const PAGE = 100

export function meta() {
  return [{ title: 'Ledger · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = new URL(request.url).searchParams
  const { filter, wrong } = filterOf(search, shop.timeZone)
  const at = askedTime(search, 'before')
  const nr = Number(search.get('nr') ?? Number.NaN)
  const before = at && Number.isSafeInteger(nr) ? { at, nr } : undefined
  return inShop(shop.shopId, async (tx) => {
    const [list, sums, held, cylinder] = await Promise.all([
      wrong ? [] : movements(tx, filter, PAGE, before),
      // Of everything a sum says nothing, and takes long.
      wrong || Object.keys(filter).length === 0 ? null : movementSums(tx, filter),
      stock(tx),
      filter.cylinderId ? cylinderOf(tx, filter.cylinderId) : undefined,
    ])
    const last = list.at(-1)
    return {
      wrong,
      movements: list,
      sums,
      part: filter.part ?? null,
      today: todayIn(shop.timeZone),
      refrigerants: held.flatMap((s) => s.refrigerant ?? []),
      cylinder: cylinder ? { cylinderId: cylinder.cylinderId, label: cylinder.label } : null,
      search: Object.fromEntries([...search].filter(([name]) => !['before', 'nr'].includes(name))),
      next: list.length === PAGE && last ? { before: last.at.toISOString(), nr: String(last.nr) } : null,
      timeZone: shop.timeZone,
    }
  })
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

/** Every movement, the newest first; as a table for other programs too. */
export default function Ledger({ loaderData }: Route.ComponentProps) {
  const { wrong, movements, sums, part, today, refrigerants, cylinder, search, next, timeZone } = loaderData
  const show = useShow()
  const query = new URLSearchParams(search)
  return (
    <>
      <div className="page-head">
        <h1>Ledger</h1>
        {cylinder && <span className="tag tag-copper">{cylinder.label}</span>}
        {part && <span className="tag tag-copper">{SHEET_PART_WORDS[part]}</span>}
        <div className="actions">
          <Link className="btn btn-outline-primary" to="/ledger/month">
            Month sheet
          </Link>
          <Link className="btn btn-outline-primary" to="/ledger/conservation">
            Where it went
          </Link>
          <Link className="btn btn-outline-primary" to="/ledger/oil">
            Oil
          </Link>
          <a className="btn btn-outline-secondary" href={`/ledger.csv?${query}`} download>
            Export as CSV
          </a>
        </div>
      </div>
      <div className="row-of mb-2">
        {presets(today).map(({ words, from, to }) => (
          <Link
            key={words}
            className="btn btn-outline-secondary"
            to={`?${new URLSearchParams({ ...search, from, to })}`}
          >
            {words}
          </Link>
        ))}
      </div>
      <Form method="get" className="row-of mb-3" role="search" key={JSON.stringify(search)}>
        {part && <input type="hidden" name="part" value={part} />}
        {cylinder && <input type="hidden" name="cylinder" value={cylinder.cylinderId} />}
        <select
          name="refrigerant"
          className="form-select"
          style={{ width: '11rem' }}
          defaultValue={search.refrigerant}
          aria-label="Refrigerant"
        >
          <option value="">All gases</option>
          {refrigerants.map((r) => (
            <option key={r}>{r}</option>
          ))}
        </select>
        <label className="row-of">
          from{' '}
          <input
            type="date"
            name="from"
            className="form-control"
            style={{ width: '10.5rem' }}
            defaultValue={search.from}
          />
        </label>
        <label className="row-of">
          to{' '}
          <input
            type="date"
            name="to"
            className="form-control"
            style={{ width: '10.5rem' }}
            defaultValue={search.to}
          />
        </label>
        <button type="submit" className="btn btn-outline-secondary">
          Show
        </button>
        {Object.keys(search).length > 0 && <Link to="/ledger">All of it</Link>}
      </Form>
      {wrong ? (
        <p className="field-error" role="alert">
          {wrong}
        </p>
      ) : (
        <div className="sheet">
          {sums && sums.count > 0 && (
            <p className="mb-2">
              {sums.count} {sums.count === 1 ? 'movement' : 'movements'}: into cylinders{' '}
              <strong className="digits">{show('weight', sums.intoMg)}</strong>, out of cylinders{' '}
              <strong className="digits">{show('weight', sums.outMg)}</strong>.
            </p>
          )}
          <MovementTable movements={movements} timeZone={timeZone} />
        </div>
      )}
      {next && (
        <Link
          className="btn btn-outline-secondary mt-3"
          to={`?${new URLSearchParams({ ...search, ...next })}`}
        >
          Earlier movements
        </Link>
      )}
    </>
  )
}
