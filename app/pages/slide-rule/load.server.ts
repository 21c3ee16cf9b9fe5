import { type LoaderFunctionArgs, redirect } from 'react-router'
import { inShop, jobsInHand } from '#db'
import { todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { signedIn } from '~/base/session/signed-in.server'
import { cylindersFor } from '~/slide-rule/cylinders.server'
import { toolNamed } from '~/slide-rule/tools'
import { tidyAddress, toolPage } from './page'

const JOBS_OFFERED = 20

export async function loadTool({ request, params, context }: LoaderFunctionArgs) {
  const { shop, person } = signedIn(context)
  const tool = toolNamed(params.tool ?? '')
  if (!tool) throw new Response('There is no such tool on the slide rule.', { status: 404 })
  const given = new URL(request.url).searchParams
  const reading = { units: preferencesOf(person.preferences).units }
  const tidied = tidyAddress(tool, given, reading)
  if (tidied !== undefined) throw redirect(tidied)
  return inShop(shop.shopId, async (tx) => {
    const cylinders = await cylindersFor(tx, tool, given)
    const around = {
      reading,
      today: todayIn(shop.timeZone),
      fillMarginPct: shop.fillMarginPct,
      ...(cylinders ? { cylinders } : {}),
    }
    return toolPage(tool, given, around, {
      userId: person.userId,
      mayWrite: person.role !== 'trainee',
      jobs: async () =>
        (await jobsInHand(tx, JOBS_OFFERED)).map(({ jobId, number, title, system }) => ({
          jobId,
          number,
          title: title || system || '',
        })),
    })
  })
}
