import { lockFor } from '../room/locked'
import { forget, keptFor } from '../pack/store'

const KEY = 'keg-signed-in'
const THEME = 'keg-theme'
/** Somebody signed out here, and the server has not heard it yet: it is told before anything else is shown. */
const OWED = 'keg-sign-out-owed'
/** What is no person's, and what waits to be sent. */
const STAYS = [/^keg-waiting /, /^keg-device/, /^keg-no-shortcuts$/, new RegExp(`^${OWED}$`)]

/** Who is on this device; undefined: nobody, or somebody who is on the way out. */
export const whoIsHere = (): string | undefined => (owed() ? undefined : signedInHere())

/** Who signed in on this device last, as its tabs tell one another. */
function signedInHere(): string | undefined {
  try {
    return localStorage.getItem(KEY) ?? undefined
  } catch {
    return undefined
  }
}

/** Somebody is here: other tabs hear it, and the device opens their pages without signal. Of whoever was here before, nothing stays. */
export function isHere(userId: string, theme: string): void {
  const before = signedInHere()
  if (before !== undefined && before !== userId) void forgetPerson(before)
  try {
    localStorage.setItem(KEY, userId)
    localStorage.setItem(THEME, theme)
  } catch {
    // A browser that keeps nothing: the server still refuses notes in another's name.
  }
}

/**
 * Takes everything of a person's from this device, but what waits to be sent: that is locked. What the browser has at hand goes at once,
 * so that nothing of whoever comes next goes with it.
 */
async function forgetPerson(userId: string | undefined): Promise<void> {
  try {
    for (const key of Object.keys(localStorage))
      if (key.startsWith('keg-') && !STAYS.some((stays) => stays.test(key))) localStorage.removeItem(key)
    await lockWhatWaits(userId)
    await forget(userId)
  } catch {
    // A browser that keeps nothing has nothing to forget.
  }
}

async function lockWhatWaits(userId: string | undefined): Promise<void> {
  try {
    const key = userId && (await keptFor(userId))?.pack.person.deviceKey
    if (key) await lockFor(userId, key)
  } catch {
    // What waits cannot be reached just now, by nobody: the rest goes all the same.
  }
}

/** Somebody else has come in another tab, or whoever was here has left; or the browser has brought back a page of before that. */
export function onSomebodyElse(userId: string, tell: () => void): () => void {
  const look = (event: StorageEvent) => {
    if (event.key === KEY && event.newValue !== userId) tell()
  }
  const back = (event: PageTransitionEvent) => {
    if (event.persisted && whoIsHere() !== userId) tell()
  }
  window.addEventListener('storage', look)
  window.addEventListener('pageshow', back)
  return () => {
    window.removeEventListener('storage', look)
    window.removeEventListener('pageshow', back)
  }
}

/** A server that has not heard it by then hears it later, ms. */
const PATIENCE_MS = 5_000

/**
 * Leaves this device, and what it kept is gone. That it is owed stands first: whoever puts the phone away meanwhile has left all the same.
 * The server hears of it before the other tabs do, so that none of them brings it back; without signal, before it is asked for anything
 * else.
 */
export async function signOut(): Promise<void> {
  const owing = owe(true)
  const told = await tellServer()
  await owing
  await forgetPerson(signedInHere())
  if (told) await owe(false)
  location.assign('/sign-in')
}

/** @returns `told`: somebody had signed out without signal, and is out now; `owed`: the server has still not heard it */
export async function signOutOwed(): Promise<'nothing' | 'told' | 'owed'> {
  if (!owed()) return 'nothing'
  // The worker may have told it already.
  if (!(await heardByWorker()) && !(await tellServer())) return 'owed'
  await forgetPerson(signedInHere())
  await owe(false)
  return 'told'
}

async function tellServer(): Promise<boolean> {
  try {
    const response = await fetch('/sign-out', {
      method: 'POST',
      redirect: 'manual',
      signal: AbortSignal.timeout(PATIENCE_MS),
    })
    // A way elsewhere is Keg's answer; a page of something in between is none.
    return response.type === 'opaqueredirect'
  } catch {
    return false
  }
}

function owed(): boolean {
  try {
    return localStorage.getItem(OWED) !== null
  } catch {
    return false
  }
}

/** Where the worker sees it as well: it lets nothing through meanwhile in the name of whoever left. */
async function owe(yes: boolean): Promise<void> {
  try {
    if (yes) localStorage.setItem(OWED, '1')
    else localStorage.removeItem(OWED)
    const worker = 'serviceWorker' in navigator ? navigator.serviceWorker.controller : null
    if (!worker) return
    if (yes) await (await caches.open(OWED)).put('/owed', new Response())
    else await caches.delete(OWED)
    worker.postMessage(yes ? 'sign-out-owed' : 'sign-out-heard')
  } catch {
    // Nothing can be kept: then nobody was kept here either.
  }
}

/** The worker tells its pages once the server has heard that somebody left. */
export function hearWorker(): void {
  if (!('serviceWorker' in navigator)) return
  navigator.serviceWorker.addEventListener('message', ({ data }) => {
    if (data === 'sign-out-heard') void signOutOwed()
  })
}

/** The worker has told the server meanwhile. */
async function heardByWorker(): Promise<boolean> {
  try {
    return (await caches.match('/heard', { cacheName: OWED })) !== undefined
  } catch {
    // A browser without a worker.
    return false
  }
}
