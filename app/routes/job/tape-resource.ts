import { data } from 'react-router'
import { append, inShop, jobHead, NoSuchJobError, tapeOf } from '#db'
import { isId } from '~/form/ids.server'
import { now, todayIn } from '~/session/clock.server'
import { overLimit } from '~/session/rate.server'
import { signedIn, writer } from '~/session/signed-in.server'
import { readBatch } from '~/tape/entry-schema.server'
import type { Route } from './+types/tape-resource'

const NOT_HERE = 'There is no such job in this shop: open it from the Bench.'

/** Entries after a number. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const after = Number(new URL(request.url).searchParams.get('after') ?? 0)
  if (!isId(params.jobId)) throw data(NOT_HERE, { status: 404 })
  if (!(Number.isSafeInteger(after) && after >= 0 && after < 2 ** 31))
    throw data('Ask for what comes after a whole number, 0 or more.', { status: 400 })
  return Response.json(
    await inShop(shop.shopId, async (tx) => {
      if (!(await jobHead(tx, params.jobId))) throw data(NOT_HERE, { status: 404 })
      return { entries: await tapeOf(tx, params.jobId, after) }
    }),
  )
}

/** The one way in for entries. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  if (!isId(params.jobId)) throw data(NOT_HERE, { status: 404 })
  const wait = await overLimit('APPEND', person.userId)
  if (wait) throw data(wait, { status: 429 })
  const batch = readBatch(await request.json().catch(() => undefined))
  if (!batch) throw data('This is no batch of entries.', { status: 400 })
  const malformed = batch.malformed.map((entryId) => ({ entryId, reasons: [{ code: 'malformed' }] }))
  if (batch.entries.length === 0) return Response.json({ entries: [], refused: malformed })
  try {
    const { entries, refused } = await inShop(shop.shopId, (tx) =>
      append(tx, {
        jobId: params.jobId,
        userId: person.userId,
        entries: batch.entries,
        sentAt: batch.sentAt,
        now: now(),
        today: todayIn(shop.timeZone),
      }),
    )
    return Response.json({ entries, refused: [...refused, ...malformed] })
  } catch (error) {
    if (error instanceof NoSuchJobError) throw data(NOT_HERE, { status: 404 })
    throw error
  }
}
