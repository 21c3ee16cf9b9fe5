import { inShop } from '#db'
import { csvOf } from '~/exchange/sheet.server'
import { sheetNamed, SHEETS } from '~/exchange/sheets.server'
import { manager } from '~/base/session/signed-in.server'
import type { Route } from './+types/csv'

/** A list as a file, or the template to fill in. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = manager(context)
  const search = new URL(request.url).searchParams
  const what = sheetNamed(search.get('what'))
  if (!what) throw new Response('There is no such list: take it from Import and export.', { status: 404 })
  const sheet = SHEETS[what]
  const template = search.get('template') === 'on'
  const rows = template
    ? [Object.fromEntries(sheet.columns.map(({ name, example }) => [name, example]))]
    : (await inShop(shop.shopId, (tx) => sheet.known(tx))).map(({ fields }) => fields)
  return new Response(csvOf(sheet, rows), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="keg-${what}${template ? '-template' : ''}.csv"`,
      'cache-control': 'private, no-store',
    },
  })
}
