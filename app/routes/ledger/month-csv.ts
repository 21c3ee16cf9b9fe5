import Papa from 'papaparse'
import { SHEET_COLUMNS } from '#core/ledger'
import { co2EquivalentT } from '#core/leaks'
import { massNumber, MG_PER_KG } from '#core/units'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/month-csv'
import { loadSheet } from '~/pages/ledger/month.server'

/** The month sheet for other programs: kilograms, and tonnes of CO2-equivalent; days are days where the shop is. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { wrong, firstDay, lastDay, timeZone, lines } = await loadSheet(
    signedIn(context),
    new URL(request.url).searchParams,
  )
  if (wrong) return new Response(wrong, { status: 400 })
  const rows = lines.map((line) => ({
    first_day: firstDay,
    last_day: lastDay,
    time_zone: timeZone,
    refrigerant: line.refrigerant ?? '',
    gwp: line.gwp ?? '',
    ...Object.fromEntries(
      SHEET_COLUMNS.map((column) => [`${name(column)}_kg`, massNumber(line[column], 'kg')]),
    ),
    ...Object.fromEntries(
      SHEET_COLUMNS.map((column) => [
        `${name(column)}_t_co2e`,
        line.gwp === null ? '' : co2EquivalentT(line[column] / MG_PER_KG, line.gwp).toFixed(3),
      ]),
    ),
  }))
  return new Response(`${Papa.unparse(rows, { newline: '\r\n' })}\r\n`, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="keg-${firstDay}-to-${lastDay}.csv"`,
      'cache-control': 'private, no-store',
    },
  })
}

const name = (column: string) => column.replace(/Mg$/, '')
