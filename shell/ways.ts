/** How the worker answers a request: a page, a file of the program, or not at all. */
export type Way = 'page' | 'program' | 'leave'

const FILES = /^\/(assets|icons)\/|^\/(keg\.svg|manifest\.webmanifest)$/
/** What a server alone makes: papers and lists to take away, photos, what programs read. */
const MADE_THERE = /^\/(api|events|metrics|healthz|sign-out)(\/|$)|\/photos\/|\.[a-z0-9]+$/i

/** @param mode of the request: `navigate` where a person goes somewhere */
export function wayOf({ origin, pathname }: URL, own: string, method: string, mode: string): Way {
  if (origin !== own || method !== 'GET') return 'leave'
  if (FILES.test(pathname)) return 'program'
  return mode === 'navigate' && !MADE_THERE.test(pathname) ? 'page' : 'leave'
}
