import { redirect } from 'react-router'
import { ArchiveError, bringBack, inShop, rebuildSummaries } from '#db'
import { readArchive, writeArchive } from '~/exchange/archive.server'
import { now, todayIn } from '~/session/clock.server'
import { manager } from '~/session/signed-in.server'
import type { Route } from './+types/archive'

/** The whole shop, as it is at one moment. */
export async function loader({ context }: Route.LoaderArgs) {
  const { shop } = manager(context)
  const chunks = await inShop(shop.shopId, (tx) => writeArchive(tx, now()))
  return new Response(new Blob(chunks as BlobPart[]).stream(), {
    headers: {
      'content-type': 'application/json; charset=utf-8',
      'content-disposition': `attachment; filename="keg-archive-${todayIn(shop.timeZone)}.json"`,
      // Squeezed on the way it would no longer wait for its reader.
      'cache-control': 'private, no-store, no-transform',
    },
  })
}

/** Back into an empty shop: all of it, or nothing. */
export async function action({ request, context }: Route.ActionArgs) {
  const { shop } = manager(context)
  const form = await request.formData().catch(() => undefined)
  const file = form?.get('archive')
  if (!(file instanceof File)) return refused('Choose the file of the archive.')
  const archive = readArchive(await file.text())
  if ('wrong' in archive) return refused(archive.wrong)
  try {
    await inShop(shop.shopId, (tx) => bringBack(tx, archive, now()))
  } catch (error) {
    if (error instanceof ArchiveError) return refused(error.message)
    throw error
  }
  // Projections follow from what is there now; a start that finds them missing makes them as well.
  await rebuildSummaries(shop.shopId)
  return redirect('/')
}

const refused = (sentence: string) =>
  new Response(`${sentence} Nothing was written. Go back to Import and export.`, {
    status: 400,
    headers: { 'content-type': 'text/plain; charset=utf-8' },
  })
