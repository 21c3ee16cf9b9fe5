import { Readable } from 'node:stream'
import { createReadableStreamFromReadable } from '@react-router/node'
import { redirect } from 'react-router'
import { inShop, NOT_EMPTY, shopIsEmpty } from '#db'
import { writeArchive } from '~/exchange/archive.server'
import { now, todayIn } from '~/base/session/clock.server'
import { manager } from '~/base/session/signed-in.server'
import { inThread, TooMuchError } from '~/threads/in-thread.server'
import type { Route } from './+types/archive'

/** A large shop, on a slow machine. */
const LONGEST_MS = 10 * 60_000

/** The whole shop, as it is at one moment. */
export async function loader({ context }: Route.LoaderArgs) {
  const { shop } = manager(context)
  const chunks = await inShop(shop.shopId, (tx) => writeArchive(tx, now()), { takesLong: true })
  return new Response(createReadableStreamFromReadable(Readable.from(chunks)), {
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
  // Before anything is kept of it; whoever sends it is answered once it has come.
  if (!(await inShop(shop.shopId, shopIsEmpty))) {
    await request.body?.pipeTo(new WritableStream())
    return refused(NOT_EMPTY)
  }
  const form = await request.formData().catch(() => undefined)
  const file = form?.get('archive')
  if (!(file instanceof File)) return refused('Choose the file of the archive.')
  const bytes = await file.arrayBuffer()
  try {
    const { wrong } = await inThread('bringArchive', { shopId: shop.shopId, bytes, at: now() }, LONGEST_MS, [
      bytes,
    ])
    return wrong === undefined ? redirect('/') : refused(wrong)
  } catch (error) {
    if (error instanceof TooMuchError) return refused('That is more than an archive of Keg has in it.')
    throw error
  }
}

const refused = (sentence: string) =>
  new Response(`${sentence} Nothing was written. Go back to Import and export.`, {
    status: 400,
    headers: { 'content-type': 'text/plain; charset=utf-8' },
  })
