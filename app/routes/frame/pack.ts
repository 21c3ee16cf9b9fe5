import { createHash } from 'node:crypto'
import { Readable } from 'node:stream'
import { createReadableStreamFromReadable } from '@react-router/node'
import { inSlices } from '~/device/pack/in-slices.server'
import { readPack } from '~/device/pack/pack.server'
import { overLimit } from '~/base/session/rate.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/pack'

/** What this person's device takes along. Asked for with the mark of what it has, it says whether that is still so. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const origin = process.env.KEG_ORIGIN ?? new URL(request.url).origin
  const who = signedIn(context)
  const over = await overLimit('PACK', who.person.userId)
  if (over) throw new Response(over, { status: 429, headers: { 'retry-after': '30' } })
  const { at, ...pack } = await readPack(who, origin)
  const hash = createHash('sha256')
  const slices: string[] = []
  for await (const slice of inSlices(pack)) {
    hash.update(slice)
    slices.push(slice)
  }
  const mark = `"${hash.digest('base64url').slice(0, 22)}"`
  const headers = { 'content-type': 'application/json', etag: mark, 'keg-time': String(at) }
  if (request.headers.get('if-none-match') === mark) return new Response(null, { status: 304, headers })
  // The time it was read at is no part of what the mark is of.
  slices[slices.length - 1] = `,"at":${at}}`
  return new Response(createReadableStreamFromReadable(Readable.from(slices)), { headers })
}
