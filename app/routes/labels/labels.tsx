import { Button } from 'react-bootstrap'
import { Form, Link } from 'react-router'
import { cylindersOf, inShop, kitList, kitOf, rack, systemOf, systemPage, type ShopTx } from '#db'
import { openPage } from '~/device/page/page'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/labels'
import {
  labelSheet,
  type LabelSheet,
  labelWish,
  ofCylinder,
  ofKit,
  ofSystem,
  ON_A_SHEET,
  type Sheet,
  type What,
  WHATS,
} from '~/pages/labels/sheet'

export function meta() {
  return [{ title: 'Labels · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const wish = labelWish(new URL(request.url).searchParams)
  const { what, ids, from, page } = wish
  const origin = process.env.KEG_ORIGIN ?? new URL(request.url).origin
  const found = await inShop(shop.shopId, (tx) => LABELS[what](tx, ids, from, page))
  return labelSheet(wish, { ...found, shop: shop.name, origin })
}

export const clientLoader = openPage<LabelSheet>(() =>
  import('~/pages/labels/from-device').then((each) => each.labels),
)

/** One sheet of each kind, or those that are asked for by their ids. */
const LABELS: Record<
  What,
  (tx: ShopTx, ids: string[], from: string, page: number) => Promise<Pick<Sheet, 'labels' | 'count'>>
> = {
  async cylinders(tx, ids, from, page) {
    const asked = ids.length > 0 ? await cylindersOf(tx, ids) : undefined
    const found = asked
      ? { cylinders: asked, count: asked.length }
      : await rack(tx, { label: from }, page, ON_A_SHEET, { sort: 'label', down: false })
    return { labels: found.cylinders.map(ofCylinder), count: found.count }
  },
  async systems(tx, ids, from, page) {
    const asked = ids.length > 0 ? await Promise.all(ids.map((id) => systemOf(tx, id))) : undefined
    const found = asked
      ? { systems: asked.flatMap((each) => each ?? []), count: asked.length }
      : await systemPage(tx, from, { number: page, size: ON_A_SHEET, sort: 'name', down: false })
    return { labels: found.systems.map(ofSystem), count: found.count }
  },
  async kit(tx, ids, from, page) {
    const asked = ids.length > 0 ? await kitOf(tx, ids) : undefined
    const found = asked
      ? { kit: asked, count: asked.length }
      : await kitList(tx, { label: from }, { number: page, size: ON_A_SHEET, sort: 'label', down: false })
    return { labels: found.kit.map(ofKit), count: found.count }
  },
}

/** Labels with a code that a phone's camera opens at the rack: a sheet of them, or a single one. */
export default function Labels({ loaderData }: Route.ComponentProps) {
  const { what, single, from, skip, shop, labels, count, page, pages } = loaderData
  const to = (next: number) => `?${new URLSearchParams({ what, label: from, page: String(next) })}`
  return (
    <>
      <div className="no-print">
        <div className="page-head">
          <h1>Labels</h1>
          <span className="quiet">
            {count} for {WHATS[what].toLowerCase()}
            {pages > 1 && `, sheet ${page} of ${pages}`}
          </span>
          <div className="actions">
            <Button onClick={() => window.print()}>Print</Button>
          </div>
        </div>
        {single ? (
          <p>
            One label, 70 × 37 mm. <Link to={`?what=${what}`}>A whole sheet</Link>
          </p>
        ) : (
          <Form method="get" className="row-of mb-3" key={`${what}${from}${skip}`}>
            <select name="what" className="form-select w-choice" defaultValue={what} aria-label="Labels for">
              {Object.entries(WHATS).map(([code, words]) => (
                <option key={code} value={code}>
                  {words}
                </option>
              ))}
            </select>
            <input
              name="label"
              className="form-control w-choice"
              defaultValue={from}
              placeholder="Label or name"
              aria-label="Part of a label or name"
            />
            <label className="row-of">
              labels gone from the sheet
              <input
                name="skip"
                className="form-control"
                style={{ width: '5rem' }}
                inputMode="numeric"
                defaultValue={skip || ''}
              />
            </label>
            <Button type="submit" variant="outline-secondary">
              Show
            </Button>
          </Form>
        )}
        {pages > 1 && (
          <nav className="row-of mb-2" aria-label="Sheets">
            {page > 1 && (
              <Link className="btn btn-outline-secondary" to={to(page - 1)}>
                Sheet before
              </Link>
            )}
            {page < pages && (
              <Link className="btn btn-outline-secondary" to={to(page + 1)}>
                Next sheet
              </Link>
            )}
          </nav>
        )}
        <p className="quiet">
          For A4 sheets of 24 labels, 70 × 37 mm: print at 100 %, without margins. The code opens the page in
          Keg; whoever is not signed in is asked to.
        </p>
      </div>
      {labels.length === 0 ? (
        <div className="empty no-print">Nothing fits this search.</div>
      ) : (
        <div className={single ? 'label-single' : 'label-sheet'} data-bs-theme="light">
          {Array.from({ length: single ? 0 : skip }, (_, i) => (
            <div key={`gone ${i}`} className="label-gone" aria-hidden />
          ))}
          {labels.map((label) => (
            <div key={label.id} className="qr-label">
              <img
                src={`data:image/svg+xml;utf8,${encodeURIComponent(label.code)}`}
                alt={`Code that opens ${label.name} in Keg`}
              />
              <div>
                <strong>{label.name}</strong>
                <div>{label.beside}</div>
                <small>{shop}</small>
              </div>
            </div>
          ))}
        </div>
      )}
    </>
  )
}
