import { Form, Link } from 'react-router'
import { FILTER_SOON, filterUsed, KIT_KINDS } from '#core/kit'
import { inShop, kitList, kitPlaces, type KitRow } from '#db'
import { openPage } from '~/device/page/page'
import { KitIcon } from '~/kit/icon'
import { todayIn } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import { type Column, DataTable } from '~/base/ui/data-table'
import { NotSent } from '~/base/ui/not-sent'
import { plainDay } from '~/base/ui/time'
import { ACT_WORDS, KIT_KIND_WORDS, KIT_STATE_WORDS, inSentence } from '~/words/en'
import type { Route } from './+types/list'
import { KIT_PAGE, KIT_SORTS, KIT_STATES, type KitListData, kitWish } from '~/pages/kit/list-data'

export function meta() {
  return [{ title: 'Kit · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const wished = kitWish(new URL(request.url).searchParams)
  const { filter, wish } = wished
  return inShop(shop.shopId, async (tx) => {
    const [{ kit, count }, places] = await Promise.all([
      kitList(tx, filter, { ...wish, size: KIT_PAGE }),
      kitPlaces(tx),
    ])
    return {
      kit,
      count,
      places,
      ahead: [] as string[],
      ...wished,
      pages: Math.max(1, Math.ceil(count / KIT_PAGE)),
      today: todayIn(shop.timeZone),
      mayWrite: person.role !== 'trainee',
    } satisfies KitListData
  })
}

export const clientLoader = openPage<KitListData>(() =>
  import('~/pages/kit/from-device').then((each) => each.kitList),
)

/** The shop's instruments and machines: where each is, and what is due on it. */
export default function KitList({ loaderData }: Route.ComponentProps) {
  const { kit, count, places, ahead, filter, wish, pages, today, mayWrite } = loaderData
  const columns: Column<KitRow>[] = [
    {
      id: 'label',
      name: 'Label',
      cell: (k) => (
        <>
          <Link to={`/kit/${k.kitId}`}>{k.label}</Link> {ahead.includes(k.kitId) && <NotSent />}
        </>
      ),
    },
    {
      id: 'kind',
      name: 'Kind',
      cell: (k) => (
        <span className="with-icon">
          <KitIcon kind={k.kind} /> {KIT_KIND_WORDS[k.kind]}
        </span>
      ),
    },
    { id: 'keepsAt', name: 'Kept at', cell: (k) => k.keepsAt },
    { id: 'dueOn', name: 'Due', cell: (k) => <DueCell piece={k} today={today} /> },
    { id: 'gas', name: 'Last gas', cell: (k) => k.lastGas, hidden: true },
    { id: 'state', name: 'State', cell: (k) => KIT_STATE_WORDS[k.state], hidden: true },
  ]
  return (
    <>
      <div className="page-head">
        <h1>Kit</h1>
        <span className="quiet">
          {count} {inSentence(KIT_STATE_WORDS[filter.state])}
        </span>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to="/kit/devices">
            Live instruments
          </Link>
          <Link className="btn btn-outline-secondary" to="/labels?what=kit">
            Labels
          </Link>
          {mayWrite && (
            <Link className="btn btn-primary" to="/kit/new">
              Add kit
            </Link>
          )}
        </div>
      </div>
      <Form method="get" className="row-of mb-3" role="search" key={JSON.stringify(filter)}>
        <select name="kind" className="form-select w-choice" defaultValue={filter.kind} aria-label="Kind">
          <option value="">All kinds</option>
          {KIT_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {KIT_KIND_WORDS[kind]}
            </option>
          ))}
        </select>
        <select
          name="place"
          className="form-select w-choice"
          defaultValue={filter.keepsAt}
          aria-label="Kept at"
        >
          <option value="">Everywhere</option>
          {places.map((each) => (
            <option key={each}>{each}</option>
          ))}
        </select>
        <select name="state" className="form-select w-choice" defaultValue={filter.state} aria-label="State">
          {KIT_STATES.map((each) => (
            <option key={each} value={each}>
              {KIT_STATE_WORDS[each]}
            </option>
          ))}
        </select>
        <input
          name="label"
          className="form-control w-choice"
          defaultValue={filter.label}
          placeholder="Label"
          aria-label="Part of a label"
        />
        <button type="submit" className="btn btn-outline-secondary">
          Show
        </button>
      </Form>
      <DataTable
        label="Kit"
        columns={columns}
        rows={kit}
        rowId={(k) => k.kitId}
        server={{ sort: wish.sort, down: wish.down, page: wish.number, pages, sorts: KIT_SORTS }}
        empty={
          filter.kind || filter.keepsAt || filter.label || filter.state !== 'in-use'
            ? 'No kit fits this search.'
            : 'No kit yet. Start with the scale: every weight rests on it.'
        }
      />
    </>
  )
}

function DueCell({ piece, today }: { piece: KitRow; today: string }) {
  const used = filterUsed(piece.facts, piece.passedMg)
  return (
    <span className="row-of">
      {piece.failedAt && <span className="tag tag-limit">check failed</span>}
      {piece.dueOn && piece.dueWhat && piece.state !== 'retired' && (
        <span className={piece.dueOn <= today ? 'tag tag-amber' : 'quiet'}>
          {ACT_WORDS[piece.dueWhat].due}, {piece.dueOn <= today ? 'since ' : ''}
          {plainDay(piece.dueOn)}
        </span>
      )}
      {used !== null && used >= FILTER_SOON && (
        <span className={`tag ${used >= 1 ? 'tag-limit' : 'tag-amber'}`}>
          filter {Math.round(100 * used)} % used
        </span>
      )}
    </span>
  )
}
