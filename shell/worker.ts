/**
 * The service worker: it keeps the program on the device, so that any page opens without signal, and nothing else. Data
 * is the pages' own affair (app/device).
 *
 * Written by hand: the names of our files carry their content, so that precaching is a list and "have it already"; and the one
 * strategy that matters, the server for so long and then the shell, is none of the ready-made ones.
 */
import { type Files, isShell, keepFiles } from './kept'
import { know, nothingOwed, pageSaid, stillOwed } from './owed'
import { type Way, wayOf } from './ways'

declare const self: ServiceWorkerGlobalScope
/** Put in by the build: its version, and every file of it. */
declare const KEG_BUILD: string
declare const KEG_FILES: Files

const SHELL = '/shell'
const DOOR = '/sign-in'
const PREFIX = 'keg-program-'
const OWN = PREFIX + KEG_BUILD
/** A server that has not begun to answer a page by then: it opens from the device. */
const SLOW_MS = 300
/** A phone on a slow line has other things to load as well. */
const AT_ONCE = 4

void know()
self.addEventListener('install', (event) => event.waitUntil(keepProgram()))
self.addEventListener('activate', (event) => event.waitUntil(takeOver()))
self.addEventListener('message', (event) => {
  if (event.data === 'take-over') void self.skipWaiting()
  if (event.data === 'sign-out-owed') pageSaid(true)
  if (event.data === 'sign-out-heard') pageSaid(false)
})
self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  const way = wayOf(url, self.location.origin, request.method, request.mode)
  if (way === 'program') return event.respondWith(program(request))
  const own = url.origin === self.location.origin && url.pathname !== '/sign-out'
  if (own && !nothingOwed()) return event.respondWith(unlessOwed(way, request))
  if (way !== 'leave') event.respondWith(answer(way, request))
})

const answer = (way: Way, request: Request): Promise<Response> =>
  way === 'page' ? page(request) : way === 'paper' ? paper(request) : fetch(request)

/** Until the server has heard that somebody left, this device has no signal but for the door: pages open from it as nobody. */
async function unlessOwed(way: Way, request: Request): Promise<Response> {
  if (!(await stillOwed(tellPages))) return answer(way, request)
  if (way === 'leave') return Response.error()
  const shell = await (await caches.open(OWN)).match(SHELL)
  const atDoor = new URL(request.url).pathname === DOOR
  return atDoor && shell ? shell : atDoor ? Response.error() : Response.redirect(DOOR)
}

function tellPages() {
  void self.clients.matchAll().then((pages) => {
    for (const each of pages) each.postMessage('sign-out-heard')
  })
}

async function keepProgram() {
  const cache = await caches.open(OWN)
  // The shell knows no person: it is fetched as nobody.
  const shell = await fetch(SHELL, { credentials: 'omit', cache: 'no-store' })
  if (!(await isShell(shell, KEG_BUILD)))
    throw new Error(`The shell came as something else (${shell.status}).`)
  // What another version had is the same file.
  const known = async (file: string) => (file.startsWith('/assets/') ? caches.match(file) : undefined)
  await keepFiles(KEG_FILES, cache, known, AT_ONCE)
  await cache.put(SHELL, shell)
}

/** Pages of the version before may still be open, and ask for its files: it stays until the next one comes. */
async function takeOver() {
  const others = (await caches.keys()).filter((name) => name.startsWith(PREFIX) && name !== OWN)
  await Promise.all(others.slice(0, -1).map((name) => caches.delete(name)))
  await self.clients.claim()
}

async function program(request: Request): Promise<Response> {
  const own = await (await caches.open(OWN)).match(request, { ignoreVary: true })
  return own ?? (await caches.match(request, { ignoreVary: true })) ?? fetch(request)
}

/** Only the server makes them: without it a page of ours says so, in place of the browser's own. */
async function paper(request: Request): Promise<Response> {
  return fetch(request).catch(() => Response.redirect('/needs-signal'))
}

async function page(request: Request): Promise<Response> {
  const shell = await (await caches.open(OWN)).match(SHELL)
  if (!shell) return fetch(request)
  const ended = new AbortController()
  const fromServer = fetch(request, { signal: ended.signal }).catch(() => undefined)
  // A browser that knows of no connection is not waited for.
  const patienceMs = self.navigator.onLine ? SLOW_MS : 0
  const late = new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), patienceMs))
  const answer = await Promise.race([fromServer, late])
  // A server that is just starting, or one in between that has nothing to say.
  if (answer && ![502, 503, 504].includes(answer.status)) return answer
  ended.abort()
  return shell
}
