import type { Entry } from '#core/tape'
import { inShop, lines, photoOf, type SignedIn } from '#db'
import { idOf } from '~/base/form/ids.server'
import { overLimit } from '~/base/session/rate.server'
import { preferencesOf } from '~/base/session/preferences'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/report-pdf'
import { loadJob } from '~/job-data/load.server'
import { inThread, TooMuchError } from '~/threads/in-thread.server'

/** The newest so many go on paper: each is half a page. */
const MOST_PHOTOS = 24
const LONGEST_MS = 60_000
/** One person's papers one after another, read when it is their turn: nobody takes all places. */
const papersOf = lines({ atOnce: 1, most: 8, ms: LONGEST_MS })

/** As the tape names them; whether one is struck is for whoever folds it. */
function notedPhotos(entries: readonly Entry[]): string[] {
  const hidden = new Set(
    entries.flatMap((entry) => (entry.kind === 'photo-hidden' ? entry.body.photoId : [])),
  )
  return entries
    .flatMap((entry) => (entry.kind === 'photo-noted' ? entry.body.photoId : []))
    .filter((photoId) => !hidden.has(photoId))
    .slice(-MOST_PHOTOS)
}

/** The job report as a PDF; `?copy=full` has the tape, curves, kit and cautions with it. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const who = signedIn(context)
  const limited = await overLimit('PAPER', who.person.userId)
  if (limited)
    return new Response(limited, { status: 429, headers: { 'content-type': 'text/plain; charset=utf-8' } })
  const jobId = idOf(params.jobId)
  const copy = new URL(request.url).searchParams.get('copy') === 'full' ? 'full' : 'customer'
  return papersOf(who.person.userId, () => paper(who, jobId, copy))
}

async function paper(who: SignedIn, jobId: string, copy: 'full' | 'customer') {
  const data = await loadJob(who, jobId, { whole: true })
  const { units } = preferencesOf(who.person.preferences)
  const photos = await inShop(who.shop.shopId, (tx) =>
    Promise.all(
      notedPhotos(data.entries).map(async (photoId) => {
        const jpeg = await photoOf(tx, data.jobId, photoId)
        return jpeg && { photoId, jpeg: new Uint8Array(jpeg) }
      }),
    ),
  )
  const pdf = await inThread(
    'layOutReport',
    { data, units, copy, photos: photos.flatMap((photo) => photo ?? []) },
    LONGEST_MS,
  ).catch((error: unknown) => {
    if (!(error instanceof TooMuchError)) throw error
    throw new Response(
      'The PDF could not be laid out in time. Try it again in a moment; the file of the job, job.json, has all of it.',
      {
        status: 503,
      },
    )
  })
  return new Response(pdf as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="keg-job-${data.number}${copy === 'full' ? '-full' : ''}.pdf"`,
      'cache-control': 'private, no-store',
    },
  })
}
