import { atmospherePa } from '#core/units'
import { foldTape } from '#core/tape'
import { inShop, photoOf } from '#db'
import { idOf } from '~/form/ids.server'
import { overLimit } from '~/session/rate.server'
import { preferencesOf } from '~/session/preferences'
import { signedIn } from '~/session/signed-in.server'
import type { Route } from './+types/report-pdf'
import { judgingContext } from './job-context'
import { loadJob } from '~/job/load.server'
import { photoWords } from './paper/pdf/paper-job'
import { reportPdf } from './paper/pdf/pdf.server'

/** The newest so many go on paper: each is half a page. */
const MOST_PHOTOS = 24

/** The job report as a PDF; `?copy=full` has the tape, curves, kit and cautions with it. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const who = signedIn(context)
  const limited = await overLimit('PAPER', who.person.userId)
  if (limited)
    return new Response(limited, { status: 429, headers: { 'content-type': 'text/plain; charset=utf-8' } })
  const data = await loadJob(who, idOf(params.jobId), { whole: true })
  const state = foldTape(data.entries)
  const { units } = preferencesOf(who.person.preferences)
  const altitudeM = data.system?.altitudeM
  const copy = new URL(request.url).searchParams.get('copy') === 'full' ? 'full' : 'customer'
  const shown = state.photos.filter((each) => each.hidden === undefined).slice(-MOST_PHOTOS)
  const photos = await inShop(who.shop.shopId, (tx) =>
    Promise.all(
      shown.map(async (photo) => {
        const jpeg = await photoOf(tx, data.jobId, photo.photoId)
        return jpeg && { words: photoWords(photo), jpeg }
      }),
    ),
  )
  const pdf = await reportPdf({
    data,
    state,
    judging: judgingContext(data, state),
    reading: { units, ...(altitudeM ? { atmospherePa: atmospherePa(altitudeM) } : {}) },
    copy,
    photos: photos.flatMap((photo) => photo ?? []),
  })
  return new Response(new Uint8Array(pdf), {
    headers: {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="keg-job-${data.number}${copy === 'full' ? '-full' : ''}.pdf"`,
      'cache-control': 'private, no-store',
    },
  })
}
