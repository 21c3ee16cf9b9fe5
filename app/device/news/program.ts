import { ownBuild } from '~/base/ui/page-facts'

// The program on this device: kept by a service worker, and renewed when a person says so.

let waiting: ServiceWorker | undefined
let newer = false
/** Whether the server has another program than this page is of, as it said last. */
let told: 'same' | 'another' | undefined
const listeners = new Set<() => void>()
/** After the page is there: a phone on a slow line has that to load first. */
const AFTER_MS = 2_000

/** There is a newer Keg than the one that this page is of. */
export const newerProgram = () => newer

export function subscribeToProgram(tell: () => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

/** Whether this browser can keep the program: only on secure addresses, and on this machine itself. */
export const canKeepProgram = () => 'serviceWorker' in navigator

/** Keeps the program on the device from now on. */
export function keepProgram(): void {
  if (!import.meta.env.PROD || !canKeepProgram()) return
  setTimeout(() => void register(), AFTER_MS)
}

async function register() {
  try {
    const registration = await navigator.serviceWorker.register('/worker.js')
    const look = () => {
      // Without one in charge it is the first: nothing is older.
      if (!registration.waiting || !navigator.serviceWorker.controller) return
      waiting = registration.waiting
      settle()
    }
    look()
    registration.addEventListener('updatefound', () =>
      registration.installing?.addEventListener('statechange', look),
    )
  } catch {
    // The browser will not: private windows of some keep no program. Pages still open with signal.
  }
}

/** The server says which program it has. */
export function serverHas(build: string): void {
  const own = ownBuild()
  if (own === '') return
  told = own === build ? 'same' : 'another'
  if (told === 'another' && canKeepProgram())
    void navigator.serviceWorker.getRegistration().then((each) => each?.update())
  settle()
}

function settle() {
  // The page came from the server and is of that program already: the worker follows by itself.
  if (told === 'same') {
    waiting?.postMessage('take-over')
    waiting = undefined
  }
  const now = told === 'another' || waiting !== undefined
  if (now === newer) return
  newer = now
  for (const tell of listeners) tell()
}

/** Loads the newer one. What waits to be sent stays where it is: the newer program takes it up. */
export function takeNewer(): void {
  const reload = () => location.reload()
  if (!waiting) return reload()
  navigator.serviceWorker.addEventListener('controllerchange', reload, { once: true })
  waiting.postMessage('take-over')
}
