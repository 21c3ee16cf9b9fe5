import { data } from 'react-router'
import { decidesOn, type Entry, type RefusalCode } from '#core/tape'
import { append, inShop, jobHead, NoSuchJobError, onJob, openJob, tapeOf } from '#db'
import { isId } from '~/base/form/ids.server'
import { now, todayIn } from '~/base/session/clock.server'
import { overLimit } from '~/base/session/rate.server'
import { signedIn, writer } from '~/base/session/signed-in.server'
import { type ReadBatch, readBatch } from '~/tape/entry-schema.server'
import type { Route } from './+types/tape-resource'

const NOT_HERE = 'There is no such job in this shop: open it from the Bench.'

/** Entries after a number, up to another one where it is asked for. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const search = new URL(request.url).searchParams
  const after = Number(search.get('after') ?? 0)
  const upTo = search.has('upTo') ? Number(search.get('upTo')) : undefined
  if (!isId(params.jobId)) throw data(NOT_HERE, { status: 404 })
  if (![after, upTo ?? 0].every((seq) => Number.isSafeInteger(seq) && seq >= 0 && seq < 2 ** 31))
    throw data('Ask for what comes after a whole number, 0 or more.', { status: 400 })
  return Response.json(
    await inShop(shop.shopId, async (tx) => {
      if (!(await jobHead(tx, params.jobId))) throw data(NOT_HERE, { status: 404 })
      return { entries: await tapeOf(tx, params.jobId, after, upTo) }
    }),
  )
}

/** The one way in for entries. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = signedIn(context)
  const mayWrite = person.role !== 'trainee'
  if (!mayWrite && !person.wroteUntil) writer(context)
  if (!isId(params.jobId)) throw data(NOT_HERE, { status: 404 })
  const wait = await overLimit('APPEND', person.userId)
  if (wait) throw data(wait, { status: 429, headers: { 'retry-after': '30' } })
  const batch = readBatch(await request.json().catch(() => undefined))
  if (!batch) throw data('This is no batch of entries.', { status: 400 })
  if (batch.userId !== person.userId)
    throw data('Somebody else has signed in on this device: these entries wait for whoever wrote them.', {
      status: 409,
    })
  const because = (code: RefusalCode) => (entryId: string) => ({ entryId, reasons: [{ code }] })
  const [may, mayNot] = mayWrite ? [batch.entries, []] : madeBefore(person.wroteUntil!, batch)
  const never = [
    ...batch.malformed.map(because('malformed')),
    ...mayNot.map((entry) => because('not-allowed')(entry.entryId)),
  ]
  if (may.length === 0) return Response.json({ entries: [], refused: never })
  const at = now()
  try {
    const { entries, refused } = await onJob(shop.shopId, params.jobId, async (tx) => {
      // One that was begun without a signal: described here for the first time.
      if (may.some((entry) => entry.kind === 'job-described') && !(await jobHead(tx, params.jobId)))
        await openJob(tx, params.jobId, person.userId, at)
      return append(tx, {
        jobId: params.jobId,
        userId: person.userId,
        entries: may,
        sentAt: batch.sentAt,
        unheard: batch.unheard,
        offsetMs: batch.sentAt - at.getTime(),
        made: batch.made,
        now: at,
        today: todayIn(shop.timeZone),
      })
    })
    return Response.json({ entries, refused: [...refused, ...never] })
  } catch (error) {
    if (error instanceof NoSuchJobError) throw data(NOT_HERE, { status: 404 })
    throw error
  }
}

/** What somebody who only reads now saw while they might still write is taken: it happened. Decisions are not. */
function madeBefore(until: Date, { entries, sentAt }: ReadBatch): [Entry[], Entry[]] {
  const taken = entries.filter(
    (entry) => entry.at <= until.getTime() && decidesOn(entry, sentAt) === undefined,
  )
  return [taken, entries.filter((entry) => !taken.includes(entry))]
}
