import { LayoutGrid, List } from 'lucide-react'
import { Form, Link } from 'react-router'
import { inShop, rack, stock } from '#db'
import { CylinderPicture } from '~/cylinders/picture'
import { CylinderTags } from '~/cylinders/tags'
import { useRefresh } from '~/device/news/changes'
import { openPage } from '~/device/page/page'
import { todayIn } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import { type Column, DataTable } from '~/base/ui/data-table'
import { NotSent } from '~/base/ui/not-sent'
import { useShow, Value } from '~/base/ui/reader'
import { plainDay } from '~/base/ui/time'
import { CYLINDER_KIND_WORDS } from '~/words/en'
import type { Route } from './+types/rack'
import { RACK_PAGE, type RackData, rackData, RACK_SORTS, rackWish } from '~/pages/cylinders/rack-data'

export function meta() {
  return [{ title: 'Cylinders · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const asked = rackWish(new URL(request.url).searchParams)
  const { filter, wish, asList } = asked
  return inShop(shop.shopId, async (tx) => {
    const [{ cylinders, count }, held] = await Promise.all([
      rack(tx, filter, wish.number, RACK_PAGE, asList ? wish : undefined),
      stock(tx),
    ])
    return rackData(asked, {
      cylinders,
      count,
      refrigerants: held.flatMap((s) => s.refrigerant ?? []),
      marginPct: shop.fillMarginPct,
      today: todayIn(shop.timeZone),
      mayWrite: person.role !== 'trainee',
    })
  })
}

export const clientLoader = openPage<RackData>(() =>
  import('~/pages/cylinders/from-device').then((each) => each.rack),
)

/** The rack, drawn: each cylinder to scale with its level, its limit and what is amiss with it. */
export default function Rack({ loaderData }: Route.ComponentProps) {
  const { cylinders, count, page, pages, filter, refrigerants, mayWrite, asList } = loaderData
  useRefresh(({ kind }) => kind !== 'alarm')
  const to = (next: number) => {
    const search = new URLSearchParams({ page: String(next) })
    if (filter.refrigerant) search.set('refrigerant', filter.refrigerant)
    if (filter.label) search.set('label', filter.label)
    if (filter.retired) search.set('retired', 'on')
    return `?${search}`
  }
  const kept = {
    ...(filter.refrigerant && { refrigerant: filter.refrigerant }),
    ...(filter.label && { label: filter.label }),
    ...(filter.retired && { retired: 'on' }),
  }
  return (
    <>
      <div className="page-head">
        <h1>Cylinders</h1>
        <span className="quiet">
          {count} {filter.retired ? 'retired' : 'in use'}
        </span>
        <div className="actions">
          <Link
            className="btn btn-outline-secondary with-icon"
            to={`?${new URLSearchParams({ ...kept, ...(asList ? {} : { as: 'list' }) })}`}
          >
            {asList ? <LayoutGrid size={18} aria-hidden /> : <List size={18} aria-hidden />}
            {asList ? 'As the rack' : 'As a list'}
          </Link>
          <Link className="btn btn-outline-secondary" to="/labels?what=cylinders">
            Labels
          </Link>
          {mayWrite && (
            <Link className="btn btn-primary" to="/cylinders/new">
              Add a cylinder
            </Link>
          )}
        </div>
      </div>
      <Form method="get" className="row-of mb-3" role="search">
        {asList && <input type="hidden" name="as" value="list" />}
        <select
          name="refrigerant"
          className="form-select"
          style={{ width: '11rem' }}
          defaultValue={filter.refrigerant}
          aria-label="Refrigerant"
        >
          <option value="">All gases</option>
          {refrigerants.map((r) => (
            <option key={r}>{r}</option>
          ))}
        </select>
        <input
          name="label"
          className="form-control"
          style={{ width: '12rem' }}
          defaultValue={filter.label}
          placeholder="Label"
          aria-label="Part of a label"
        />
        <label className="form-check">
          <input
            type="checkbox"
            name="retired"
            className="form-check-input"
            defaultChecked={filter.retired}
          />{' '}
          Retired
        </label>
        <button type="submit" className="btn btn-outline-secondary">
          Show
        </button>
      </Form>
      {asList ? (
        <CylinderList {...loaderData} />
      ) : cylinders.length === 0 ? (
        <div className="empty">
          <p>{filter.refrigerant || filter.label ? 'No cylinder fits this search.' : 'No cylinder yet.'}</p>
          {mayWrite && (
            <Link className="btn btn-primary" to="/cylinders/new">
              Add a cylinder
            </Link>
          )}
        </div>
      ) : (
        <div className="rack">
          {cylinders.map((c) => (
            <Link key={c.cylinderId} to={`/cylinders/${c.cylinderId}`} className="rack-cylinder">
              <CylinderPicture cylinder={c} />
              <span className="label">{c.label}</span>
              <span>
                {c.refrigerant ?? 'no gas yet'} · <Value kind="weight" of={c.balanceMg} />
              </span>
              {c.share !== undefined && (
                <span className="quiet">{Math.round(100 * c.share)} % of its limit</span>
              )}
              <CylinderTags tags={c.tags} />
              {c.ahead && <NotSent />}
            </Link>
          ))}
        </div>
      )}
      {!asList && pages > 1 && (
        <nav className="row-of mt-3" aria-label="Pages of the rack">
          {page > 1 && (
            <Link className="btn btn-outline-secondary" to={to(page - 1)}>
              Before
            </Link>
          )}
          <span>
            Page {page} of {pages}
          </span>
          {page < pages && (
            <Link className="btn btn-outline-secondary" to={to(page + 1)}>
              Next
            </Link>
          )}
        </nav>
      )}
    </>
  )
}

type Listed = Route.ComponentProps['loaderData']

/** The same as a table: sorted as one likes, for the office. */
function CylinderList({ cylinders, wish, pages }: Pick<Listed, 'cylinders' | 'wish' | 'pages'>) {
  const show = useShow()
  const columns: Column<Listed['cylinders'][number]>[] = [
    { id: 'label', name: 'Label', cell: (c) => <Link to={`/cylinders/${c.cylinderId}`}>{c.label}</Link> },
    { id: 'refrigerant', name: 'Gas', cell: (c) => c.refrigerant ?? 'none yet' },
    { id: 'balance', name: 'In it', num: true, cell: (c) => show('weight', c.balanceMg) },
    {
      id: 'share',
      name: 'Of its limit',
      num: true,
      cell: (c) => c.share !== undefined && `${Math.round(100 * c.share)} %`,
    },
    { id: 'kind', name: 'Kind', cell: (c) => CYLINDER_KIND_WORDS[c.kind] },
    { id: 'keepsAt', name: 'Kept at', cell: (c) => c.list?.keepsAt },
    { id: 'testDue', name: 'Test holds to', cell: (c) => c.list?.dueOn && plainDay(c.list.dueOn) },
    { id: 'tags', name: 'To look at', cell: (c) => <CylinderTags tags={c.tags} /> },
    { id: 'owner', name: 'Whose gas', cell: (c) => c.list?.owner ?? "the shop's", hidden: true },
    {
      id: 'tare',
      name: 'Tare',
      num: true,
      cell: (c) => c.list && show('weight', c.list.tareMg),
      hidden: true,
    },
  ]
  return (
    <DataTable
      label="Cylinders"
      columns={columns}
      rows={cylinders}
      rowId={(c) => c.cylinderId}
      server={{ sort: wish.sort, down: wish.down, page: wish.number, pages, sorts: RACK_SORTS }}
      empty="No cylinder fits this search."
    />
  )
}
