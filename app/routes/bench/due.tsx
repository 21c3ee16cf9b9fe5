import { Link } from 'react-router'
import { inShop } from '#db'
import { dueItems } from '~/kit/due.server'
import { openPage } from '~/device/page/page'
import { todayIn } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import { plainDay } from '~/base/ui/time'
import type { Route } from './+types/due'

/** A year ahead: for planning. */
const AHEAD_DAYS = 365

export function meta() {
  return [{ title: 'Due · Keg' }]
}

export async function loader({ context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const today = todayIn(shop.timeZone)
  return inShop(shop.shopId, async (tx) => ({ due: await dueItems(tx, today, AHEAD_DAYS) }))
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>(() =>
  import('~/pages/bench/from-device').then((each) => each.due),
)

/** Everything that is due within a year, the earliest first, each with how it is done. */
export default function Due({ loaderData: { due } }: Route.ComponentProps) {
  return (
    <>
      <div className="page-head">
        <h1>Due</h1>
        <span className="quiet">within a year</span>
        <div className="actions">
          <a className="btn btn-outline-secondary" href="/due.ics" download>
            As a calendar
          </a>
        </div>
      </div>
      {due.length === 0 ? (
        <div className="empty">Nothing is due: no kit and no cylinder has a date.</div>
      ) : (
        <section className="sheet">
          <ul className="plain-list">
            {due.map(({ id, to, label, what, how, on, overdue }) => (
              <li key={id}>
                <div className="row-of">
                  <span className={overdue ? 'tag tag-amber' : 'tag'}>{plainDay(on)}</span>
                  <Link to={to}>{label}</Link>
                  <strong>{what}</strong>
                </div>
                <p className="mb-0 quiet">
                  {how[0]}
                  <br />
                  {how[1]}
                </p>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}
