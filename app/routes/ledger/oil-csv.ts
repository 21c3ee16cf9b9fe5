import Papa from 'papaparse'
import { plain } from '~/exchange/plain'
import { signedIn } from '~/base/session/signed-in.server'
import { localTime } from '~/base/ui/time'
import type { Route } from './+types/oil-csv'
import { placeOf, whatOf } from '~/pages/ledger/oil-words'
import { loadOil } from '~/pages/ledger/oil.server'

/** The moves of oil for other programs: millilitres. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { wrong, firstDay, lastDay, lines, timeZone } = await loadOil(
    signedIn(context),
    new URL(request.url).searchParams,
  )
  if (wrong) return new Response(wrong, { status: 400 })
  const rows = lines.map((line) => ({
    local_time: localTime(line.at, timeZone),
    job: line.number,
    system: plain(line.system ?? ''),
    what: plain(whatOf(line)),
    from: plain(placeOf(line, line.fromPlace)),
    to: plain(placeOf(line, line.toPlace)),
    volume_ml: line.volumeMl,
  }))
  return new Response(`${Papa.unparse(rows, { newline: '\r\n' })}\r\n`, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="keg-oil-${firstDay}-to-${lastDay}.csv"`,
      'cache-control': 'private, no-store',
    },
  })
}
