import { isDay } from './day'

/** What an address asks for by a name, short and without what a database cannot look for. */
export function asked(search: URLSearchParams, name: string, most = 100): string {
  return (search.get(name) ?? '').replaceAll('\0', '').trim().slice(0, most).toWellFormed()
}

/** The moment that an address names, `2026-11-24T10:00:00.000Z`; undefined where it names none. */
export function askedTime(search: URLSearchParams, name: string): Date | undefined {
  const text = search.get(name) ?? ''
  const time = Date.parse(text)
  return isDay(text.slice(0, 10)) && !Number.isNaN(time) ? new Date(time) : undefined
}
