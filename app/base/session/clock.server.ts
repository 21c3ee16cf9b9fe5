import { dayIn } from './day-in'

/** The time now; KEG_NOW fixes it for pictures and tests. */
export function now(): Date {
  return process.env.KEG_NOW ? new Date(process.env.KEG_NOW) : new Date()
}

/** The date where the shop is, `2026-11-24`. */
export function todayIn(timeZone: string, at = now()): string {
  return dayIn(timeZone, at)
}
