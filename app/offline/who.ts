import { lockFor } from '~/tape/outbox/locked'
import { forget, keptFor } from './pack/store'

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
  owe(true)
  const told = await tellServer()
  await forgetPerson(signedInHere())
  if (told) owe(false)
  location.assign('/sign-in')
}

/** @returns whether somebody had signed out without signal, and is out now */
export async function signOutOwed(): Promise<boolean> {
  if (!owed()) return false
  if (!(await tellServer())) return false
  await forgetPerson(signedInHere())
  owe(false)
  return true
}

async function tellServer(): Promise<boolean> {
  try {
    const response = await fetch('/sign-out', {
      method: 'POST',
      redirect: 'manual',
      signal: AbortSignal.timeout(PATIENCE_MS),
    })
    return response.type === 'opaqueredirect' || response.ok
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

function owe(yes: boolean) {
  try {
    if (yes) localStorage.setItem(OWED, '1')
    else localStorage.removeItem(OWED)
  } catch {
    // Nothing can be kept: then nobody was kept here either.
  }
}
