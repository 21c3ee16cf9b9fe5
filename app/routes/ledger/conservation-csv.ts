import Papa from 'papaparse'
import { CAME_FROM, INSIDE, sum, WENT_TO } from '#core/ledger'
import { co2EquivalentT } from '#core/leaks'
import { massNumber, MG_PER_KG } from '#core/units'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/conservation-csv'
import { loadConservation, type ShownGas } from '~/pages/ledger/conservation.server'

/** The same for other programs, with tonnes of CO2-equivalent (fourth assessment report) of each figure. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { wrong, firstDay, lastDay, gases } = await loadConservation(
    signedIn(context),
    new URL(request.url).searchParams,
  )
  if (wrong) return new Response(wrong, { status: 400 })
  const rows = gases.map((each) => {
    const figures: [string, number][] = [
      ['start', sum(each.start)],
      ...CAME_FROM.map((place): [string, number] => [`from_${place}`, each.came[place]]),
      ...WENT_TO.map((place): [string, number] => [`to_${place}`, each.went[place]]),
      ['end', sum(each.end)],
      ...INSIDE.map((place): [string, number] => [`end_in_${place}`, each.end[place]]),
    ]
    return {
      first_day: firstDay,
      last_day: lastDay,
      refrigerant: each.refrigerant ?? '',
      gwp_ar4: each.gwp ?? '',
      ...Object.fromEntries(figures.map(([name, massMg]) => [`${name}_kg`, massNumber(massMg, 'kg')])),
      ...Object.fromEntries(figures.map(([name, massMg]) => [`${name}_t_co2e`, tonnes(each, massMg)])),
    }
  })
  return new Response(`${Papa.unparse(rows, { newline: '\r\n' })}\r\n`, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="keg-where-it-went-${firstDay}-to-${lastDay}.csv"`,
      'cache-control': 'private, no-store',
    },
  })
}

const tonnes = ({ gwp }: ShownGas, massMg: number) =>
  gwp === null ? '' : co2EquivalentT(massMg / MG_PER_KG, gwp).toFixed(3)
