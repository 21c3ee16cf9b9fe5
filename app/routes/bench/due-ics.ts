import { inShop } from '#db'
import { dueItems } from '~/kit/due.server'
import { now, todayIn } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import { inThread } from '~/threads/in-thread.server'
import type { Route } from './+types/due-ics'

const AHEAD_DAYS = 365
/** Of kit and of cylinders, each. */
const MOST = 1_000
const LONGEST_MS = 60_000

/** What is due as a calendar (RFC 5545): whole days, which take no time of anybody. What is late stands on today. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const today = todayIn(shop.timeZone)
  const origin = process.env.KEG_ORIGIN ?? new URL(request.url).origin
  const due = await inShop(shop.shopId, (tx) => dueItems(tx, today, AHEAD_DAYS, MOST))
  const calendar = await inThread(
    'layOutCalendar',
    {
      name: `${shop.name}: due`,
      at: now(),
      events: due.map(({ id, to, label, what, how, on }) => ({
        id: `${id}@keg`,
        on: on < today ? today : on,
        summary: `${label}: ${what}`,
        description: `${how.join('\n')}${on < today ? `\nDue since ${on}.` : ''}`,
        url: `${origin}${to}`,
      })),
    },
    LONGEST_MS,
  )
  return new Response(calendar, {
    headers: {
      'content-type': 'text/calendar; charset=utf-8',
      'content-disposition': 'attachment; filename="keg-due.ics"',
    },
  })
}
