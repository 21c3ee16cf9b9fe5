import { parseISO } from 'date-fns'
import ical, { ICalCalendarMethod, ICalEventTransparency } from 'ical-generator'

export interface Calendar {
  name: string
  at: Date
  events: {
    /** The same each time: a calendar that is fetched again moves what it knows, and adds nothing. */
    id: string
    /** `2026-11-24` */
    on: string
    summary: string
    description: string
    url: string
  }[]
}

/** A calendar as RFC 5545 has it: whole days, which take no time of anybody. */
export async function layOutCalendar({ name, at, events }: Calendar): Promise<string> {
  const calendar = ical({
    name,
    prodId: { company: 'Keg', product: 'Keg', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
  })
  for (const { on, ...event } of events)
    calendar.createEvent({
      ...event,
      stamp: at,
      start: parseISO(on),
      allDay: true,
      transparency: ICalEventTransparency.TRANSPARENT,
    })
  return calendar.toString()
}
