import { Form, Link } from 'react-router'
import { inShop, systemPage, type SystemRow } from '#db'
import { openPage } from '~/device/page/page'
import { listWish } from '~/base/form/list'
import { signedIn } from '~/base/session/signed-in.server'
import { type Column, DataTable } from '~/base/ui/data-table'
import { NotSent } from '~/base/ui/not-sent'
import { useShow } from '~/base/ui/reader'
import { TRADE_WORDS } from '~/words/en'
import { asked } from '~/base/form/search'
import type { Route } from './+types/systems'
import { SYSTEM_PAGE, SYSTEM_SORTS, type SystemListData } from '~/pages/systems/system-data'

export function meta() {
  return [{ title: 'Systems · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const address = new URL(request.url).searchParams
  const search = asked(address, 'search')
  const wish = listWish(address, SYSTEM_SORTS)
  const { systems, count } = await inShop(shop.shopId, (tx) =>
    systemPage(tx, search, { ...wish, size: SYSTEM_PAGE }),
  )
  return {
    systems,
    ahead: [] as string[],
    count,
    search,
    wish,
    pages: Math.max(1, Math.ceil(count / SYSTEM_PAGE)),
    mayWrite: person.role !== 'trainee',
  }
}

export const clientLoader = openPage<SystemListData>(() =>
  import('~/pages/systems/from-device').then((each) => each.systemList),
)

/** Plates, customers and sites. */
export default function Systems({ loaderData }: Route.ComponentProps) {
  const { systems, ahead, count, search, wish, pages, mayWrite } = loaderData
  const show = useShow()
  const columns: Column<SystemRow>[] = [
    {
      id: 'name',
      name: 'System',
      cell: (s) => (
        <>
          <Link to={`/systems/${s.systemId}`}>{s.name}</Link> {ahead.includes(s.systemId) && <NotSent />}
        </>
      ),
    },
    { id: 'customer', name: 'Customer', cell: (s) => s.customer },
    { id: 'site', name: 'Site', cell: (s) => s.site },
    { id: 'trade', name: 'Trade', cell: (s) => TRADE_WORDS[s.trade] },
    { id: 'refrigerant', name: 'Gas', cell: (s) => s.refrigerant ?? 'not known' },
    {
      id: 'plate',
      name: 'Plate',
      num: true,
      cell: (s) => (s.plateMg === null ? 'no plate' : show('weight', s.plateMg)),
    },
    {
      id: 'balance',
      name: 'In it by the books',
      num: true,
      cell: (s) =>
        s.balanceMg === 0 ? <span className="quiet">nothing booked</span> : show('weight', s.balanceMg),
    },
    { id: 'oil', name: 'Oil', cell: (s) => s.oilType, hidden: true },
    { id: 'registration', name: 'Registration', cell: (s) => s.registration, hidden: true },
  ]
  return (
    <>
      <div className="page-head">
        <h1>Systems</h1>
        <span className="quiet">{count}</span>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to="/labels?what=systems">
            Labels
          </Link>
          {mayWrite && (
            <Link className="btn btn-primary" to="/systems/new">
              Add a system
            </Link>
          )}
        </div>
      </div>
      <Form method="get" className="row-of mb-3" role="search">
        <input
          name="search"
          className="form-control"
          style={{ width: '18rem' }}
          defaultValue={search}
          placeholder="System, site or customer"
          aria-label="System, site or customer"
        />
        <button type="submit" className="btn btn-outline-secondary">
          Find
        </button>
      </Form>
      <DataTable
        label="Systems"
        columns={columns}
        rows={systems}
        rowId={(s) => s.systemId}
        server={{ sort: wish.sort, down: wish.down, page: wish.number, pages, sorts: SYSTEM_SORTS }}
        empty={search ? `Nothing has "${search}" in its name.` : 'No system yet.'}
      />
    </>
  )
}
