import { Form, Link } from 'react-router'
import { inShop, systems as listSystems } from '#db'
import { signedIn } from '~/session/signed-in.server'
import { Value } from '~/ui/reader'
import { TRADE_WORDS } from '~/wording/en'
import { WideTable } from '~/ui/wide-table'
import { asked } from '~/form/search.server'
import type { Route } from './+types/systems'

export function meta() {
  return [{ title: 'Systems · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const search = asked(new URL(request.url).searchParams, 'search')
  return {
    systems: await inShop(shop.shopId, (tx) => listSystems(tx, search)),
    search,
    mayWrite: person.role !== 'trainee',
  }
}

/** Plates, customers and sites. */
export default function Systems({ loaderData: { systems, search, mayWrite } }: Route.ComponentProps) {
  return (
    <>
      <div className="page-head">
        <h1>Systems</h1>
        <div className="actions">
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
      {systems.length === 0 ? (
        <div className="empty">
          <p>{search ? `Nothing has "${search}" in its name.` : 'No system yet.'}</p>
          {mayWrite && (
            <Link className="btn btn-primary" to="/systems/new">
              Add a system
            </Link>
          )}
        </div>
      ) : (
        <div className="sheet">
          <WideTable label="Systems">
            <thead>
              <tr>
                <th>System</th>
                <th>Customer and site</th>
                <th>Trade</th>
                <th>Gas</th>
                <th className="num">Plate</th>
                <th className="num">In it by the books</th>
              </tr>
            </thead>
            <tbody>
              {systems.map((s) => (
                <tr key={s.systemId}>
                  <td>
                    <Link to={`/systems/${s.systemId}`}>{s.name}</Link>
                  </td>
                  <td>
                    {s.customer}
                    <div className="quiet">{s.site}</div>
                  </td>
                  <td>{TRADE_WORDS[s.trade]}</td>
                  <td>{s.refrigerant ?? 'not known'}</td>
                  <td className="num">
                    {s.plateMg === null ? 'no plate' : <Value kind="weight" of={s.plateMg} />}
                  </td>
                  <td className="num">
                    {s.balanceMg === 0 ? (
                      <span className="quiet">not known</span>
                    ) : (
                      <Value kind="weight" of={s.balanceMg} />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </WideTable>
        </div>
      )}
    </>
  )
}
