import type { Clock } from '#core/tape'
import { jobNumber } from '~/base/ui/job-number'
import { duration, minutesRange } from '~/base/ui/time'
import type { JobClocks } from './running'

export const nameOf = ({ title, number }: JobClocks) => title || jobNumber(number)

/** How long it takes still, in words. */
export function leftWords({ what, dueAt, latestAt }: Clock, now: number): string {
  if (dueAt === null) return ''
  if (what === 'recover' || what === 'charge') {
    const [least, most] = [dueAt - now, latestAt === null ? Infinity : (latestAt ?? dueAt) - now]
    return most <= 0 ? 'should be done' : `${minutesRange(least / 1000, most / 1000)} left`
  }
  return dueAt > now
    ? `${duration((dueAt - now) / 1000)} left`
    : `due since ${duration((now - dueAt) / 1000)}`
}
