const KEY = 'keg-signed-in'
const THEME = 'keg-theme'

/** Who signed in on this device last, as its tabs tell one another. */
export function whoIsHere(): string | undefined {
  try {
    return localStorage.getItem(KEY) ?? undefined
  } catch {
    return undefined
  }
}

/** Somebody is here: other tabs hear it, and the device opens their pages without signal. */
export function isHere(userId: string, theme: string): void {
  try {
    localStorage.setItem(KEY, userId)
    localStorage.setItem(THEME, theme)
  } catch {
    // A browser that keeps nothing: the server still refuses notes in another's name.
  }
}

export function nobodyIsHere(): void {
  try {
    localStorage.removeItem(KEY)
    localStorage.removeItem(THEME)
  } catch {
    // Nothing was kept.
  }
}

/** Somebody else has come, in another tab; undefined: nobody any more. */
export function onSomebodyElse(userId: string, tell: () => void): () => void {
  const look = (event: StorageEvent) => {
    if (event.key === KEY && event.newValue !== null && event.newValue !== userId) tell()
  }
  window.addEventListener('storage', look)
  return () => window.removeEventListener('storage', look)
}
