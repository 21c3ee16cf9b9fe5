import { Form, Link } from 'react-router'
import { inShop, rack, stock } from '#db'
import { CylinderPicture } from '~/cylinders/picture'
import { seen } from '~/cylinders/condition.server'
import { CylinderTags } from '~/cylinders/tags'
import { useRefresh } from '~/live/changes'
import { keepLastGood } from '~/live/last-good'
import { todayIn } from '~/session/clock.server'
import { signedIn } from '~/session/signed-in.server'
import { Value } from '~/ui/reader'
import { asked } from '~/form/search.server'
import type { Route } from './+types/rack'

const PAGE_SIZE = 60

export function meta() {
  return [{ title: 'Cylinders · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const search = new URL(request.url).searchParams
  const page = Math.trunc(Math.max(1, Math.min(1000, Number(search.get('page')) || 1)))
  const filter = {
    refrigerant: asked(search, 'refrigerant', 20),
    label: asked(search, 'label', 80),
    retired: search.get('retired') === 'on',
  }
  const today = todayIn(shop.timeZone)
  return inShop(shop.shopId, async (tx) => {
    const [{ cylinders, count }, held] = await Promise.all([rack(tx, filter, page, PAGE_SIZE), stock(tx)])
    return {
      cylinders: cylinders.map((each) => {
        const { cylinderId, label, kind, refrigerant, waterCapacityMg, balanceMg, ...rest } = seen(
          each,
          shop.fillMarginPct,
          today,
        )
        const { level, limit, share, tags } = rest
        return { cylinderId, label, kind, refrigerant, waterCapacityMg, balanceMg, level, limit, share, tags }
      }),
      count,
      page,
      pages: Math.max(1, Math.ceil(count / PAGE_SIZE)),
      filter,
      refrigerants: held.flatMap((s) => s.refrigerant ?? []),
      mayWrite: person.role !== 'trainee',
    }
  })
}

export const clientLoader = keepLastGood<Awaited<ReturnType<typeof loader>>>()

/** The rack, drawn: each cylinder to scale with its level, its limit and what is amiss with it. */
export default function Rack({ loaderData }: Route.ComponentProps) {
  const { cylinders, count, page, pages, filter, refrigerants, mayWrite } = loaderData
  useRefresh(() => true)
  const to = (next: number) => {
    const search = new URLSearchParams({ page: String(next) })
    if (filter.refrigerant) search.set('refrigerant', filter.refrigerant)
    if (filter.label) search.set('label', filter.label)
    if (filter.retired) search.set('retired', 'on')
    return `?${search}`
  }
  return (
    <>
      <div className="page-head">
        <h1>Cylinders</h1>
        <span className="quiet">
          {count} {filter.retired ? 'retired' : 'in use'}
        </span>
        <div className="actions">
          {mayWrite && (
            <Link className="btn btn-primary" to="/cylinders/new">
              Add a cylinder
            </Link>
          )}
        </div>
      </div>
      <Form method="get" className="row-of mb-3" role="search">
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
      {cylinders.length === 0 ? (
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
            </Link>
          ))}
        </div>
      )}
      {pages > 1 && (
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
