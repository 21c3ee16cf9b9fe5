import Papa from 'papaparse'
import { massNumber } from '#core/units'
import { inShop, type MovementRow, movements } from '#db'
import { signedIn } from '~/session/signed-in.server'
import { PLACE_WORDS, VOUCHER_WORDS } from '~/wording/en'
import type { Route } from './+types/csv'
import { filterOf } from './filter.server'

const PAGE = 2_000

/** The ledger for other programs: one movement a line, times in UTC, mass in grams and in pounds. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const filter = filterOf(new URL(request.url).searchParams, shop.timeZone)
  const lines = new ReadableStream<Uint8Array>({
    async start(controller) {
      const bytes = new TextEncoder()
      let before: { at: Date; nr: number } | undefined
      // A page at a time: no ledger is too long to export.
      for (let header = true; ; header = false) {
        const page = await inShop(shop.shopId, (tx) => movements(tx, filter, PAGE, before))
        const csv = Papa.unparse(page.map(row), {
          header,
          columns: Object.keys(COLUMNS),
          newline: '\r\n',
          escapeFormulae: true,
        })
        if (csv) controller.enqueue(bytes.encode(`${csv}\r\n`))
        const last = page.at(-1)
        if (page.length < PAGE || !last) break
        before = last
      }
      controller.close()
    },
  })
  return new Response(lines, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="keg-ledger.csv"',
      'cache-control': 'no-store',
    },
  })
}

const COLUMNS = {
  time: (m: MovementRow) => m.at.toISOString(),
  from: (m: MovementRow) => m.fromLabel ?? PLACE_WORDS[m.fromPlace],
  to: (m: MovementRow) => m.toLabel ?? PLACE_WORDS[m.toPlace],
  refrigerant: (m: MovementRow) => m.refrigerant ?? '',
  mass_g: (m: MovementRow) => massNumber(m.massMg, 'g'),
  mass_lb: (m: MovementRow) => massNumber(m.massMg, 'lb'),
  uncertainty_g: (m: MovementRow) => massNumber(2 * m.uncertaintyMg, 'g'),
  known_by: (m: MovementRow) => m.knownBy,
  job: (m: MovementRow) => m.jobNumber ?? '',
  voucher: (m: MovementRow) => VOUCHER_WORDS[m.voucherKind ?? ''] ?? '',
  remark: (m: MovementRow) => m.voucherText ?? '',
  by: (m: MovementRow) => m.by,
  movement_id: (m: MovementRow) => m.movementId,
}

function row(movement: MovementRow) {
  return Object.fromEntries(Object.entries(COLUMNS).map(([name, value]) => [name, value(movement)]))
}
