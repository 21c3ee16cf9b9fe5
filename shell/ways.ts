/** How the worker answers a request: a page, a file of the program, a paper of the server's, or not at all. */
export type Way = 'page' | 'program' | 'paper' | 'leave'

const FILES = /^\/(assets|icons)\/|^\/(keg\.svg|manifest\.webmanifest)$/
/** Where somebody may go to have one; browsers leave the page for it. */
const PAPERS = /^\/(?!api\/).*\.(pdf|csv|ics|json)$/i
/** What a server alone makes: papers and lists to take away, photos, what programs read. */
const MADE_THERE = /^\/(api|events|metrics|healthz|sign-out)(\/|$)|\/photos\/|\.[a-z0-9]+$/i

/** @param mode of the request: `navigate` where a person goes somewhere */
export function wayOf({ origin, pathname }: URL, own: string, method: string, mode: string): Way {
  if (origin !== own || method !== 'GET') return 'leave'
  if (FILES.test(pathname)) return 'program'
  if (mode === 'navigate' && PAPERS.test(pathname)) return 'paper'
  return mode === 'navigate' && !MADE_THERE.test(pathname) ? 'page' : 'leave'
}
