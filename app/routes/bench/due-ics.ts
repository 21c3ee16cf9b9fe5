import ical, { ICalCalendarMethod, ICalEventTransparency } from 'ical-generator'
import { parseISO } from 'date-fns'
import { inShop } from '#db'
import { dueItems } from '~/kit/due.server'
import { now, todayIn } from '~/session/clock.server'
import { signedIn } from '~/session/signed-in.server'
import type { Route } from './+types/due-ics'

const AHEAD_DAYS = 365
/** Of kit and of cylinders, each. */
const MOST = 1_000

/** What is due as a calendar (RFC 5545): whole days, which take no time of anybody. What is late stands on today. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const today = todayIn(shop.timeZone)
  const origin = process.env.KEG_ORIGIN ?? new URL(request.url).origin
  const due = await inShop(shop.shopId, (tx) => dueItems(tx, today, AHEAD_DAYS, MOST))
  const calendar = ical({
    name: `${shop.name}: due`,
    prodId: { company: 'Keg', product: 'Keg', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
  })
  for (const { id, to, label, what, how, on } of due)
    calendar.createEvent({
      // The same each time: a calendar that is fetched again moves what it knows, and adds nothing.
      id: `${id}@keg`,
      stamp: now(),
      start: parseISO(on < today ? today : on),
      allDay: true,
      transparency: ICalEventTransparency.TRANSPARENT,
      summary: `${label}: ${what}`,
      description: `${how.join('\n')}${on < today ? `\nDue since ${on}.` : ''}`,
      url: `${origin}${to}`,
    })
  return new Response(calendar.toString(), {
    headers: {
      'content-type': 'text/calendar; charset=utf-8',
      'content-disposition': 'attachment; filename="keg-due.ics"',
    },
  })
}
