import Papa from 'papaparse'
import { massNumber } from '#core/units'
import { inShop, type MovementRow, movements } from '#db'
import { signedIn } from '~/base/session/signed-in.server'
import { localTime } from '~/base/ui/time'
import { plain } from '~/exchange/plain'
import { PLACE_WORDS, VOUCHER_WORDS } from '~/words/en'
import type { Route } from './+types/csv'
import { filterOf } from '~/pages/ledger/filter.server'

const PAGE = 200

/** The ledger for other programs: one movement a line, times of the shop and in UTC, mass in grams and in pounds. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const { filter, wrong } = filterOf(new URL(request.url).searchParams, shop.timeZone)
  if (wrong) return new Response(wrong, { status: 400 })
  const bytes = new TextEncoder()
  let before: { at: Date; nr: number } | undefined
  // A page when the reader has taken the one before: no ledger is too long, and no reader too slow.
  const lines = new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        const page = await inShop(shop.shopId, (tx) => movements(tx, filter, PAGE, before))
        const csv = Papa.unparse(
          page.map((each) => row(each, shop.timeZone)),
          {
            header: before === undefined,
            columns: Object.keys(COLUMNS),
            newline: '\r\n',
          },
        )
        if (csv) controller.enqueue(bytes.encode(`${csv}\r\n`))
        before = page.at(-1)
        if (page.length < PAGE) controller.close()
      },
    },
    { highWaterMark: 0 },
  )
  return new Response(lines, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="keg-ledger.csv"',
      // Squeezed on the way it would no longer wait for its reader.
      'cache-control': 'private, no-store, no-transform',
    },
  })
}

const COLUMNS = {
  local_time: (m: MovementRow, timeZone: string) => localTime(m.at, timeZone),
  time: (m: MovementRow) => m.at.toISOString(),
  from: (m: MovementRow) => plain(m.fromLabel ?? PLACE_WORDS[m.fromPlace]),
  to: (m: MovementRow) => plain(m.toLabel ?? PLACE_WORDS[m.toPlace]),
  refrigerant: (m: MovementRow) => m.refrigerant ?? '',
  mass_g: (m: MovementRow) => massNumber(m.massMg, 'g'),
  mass_lb: (m: MovementRow) => massNumber(m.massMg, 'lb'),
  uncertainty_g: (m: MovementRow) => massNumber(2 * m.uncertaintyMg, 'g'),
  known_by: (m: MovementRow) => m.knownBy,
  job: (m: MovementRow) => m.jobNumber ?? '',
  voucher: (m: MovementRow) => (m.voucherKind ? VOUCHER_WORDS[m.voucherKind] : ''),
  remark: (m: MovementRow) => plain(m.voucherText ?? ''),
  by: (m: MovementRow) => plain(m.by),
  movement_id: (m: MovementRow) => m.movementId,
}

function row(movement: MovementRow, timeZone: string) {
  return Object.fromEntries(Object.entries(COLUMNS).map(([name, value]) => [name, value(movement, timeZone)]))
}
