/**
 * Somebody has signed out on this device, and the server has not heard it yet. It is kept where pages and worker can see
 * it; until it is told nothing goes through in the name of whoever left.
 */
export const OWED = 'keg-sign-out-owed'
const TELL_MS = 5_000

let owed: boolean | undefined
let telling: Promise<boolean> | undefined

/* `/owed` in that cache: the server does not know. `/heard`: the worker has told it, and the pages do not know yet. */

/** Looked up when the worker begins: only who asks in that moment waits for it. */
export async function know(): Promise<boolean> {
  const kept = owed ?? (await caches.match('/owed', { cacheName: OWED })) !== undefined
  return (owed ??= kept)
}

/** For certain that nothing is owed: then the worker need not be asked. */
export const nothingOwed = () => owed === false

/** A page has signed somebody out, or has been heard. */
export const pageSaid = (isOwed: boolean) => void (owed = isOwed)

/**
 * Tells the server first what is owed.
 * @param heard it knows now
 * @returns whether it has still not heard it
 */
export async function stillOwed(heard: () => void): Promise<boolean> {
  if (!(await know())) return false
  telling ??= tell().finally(() => (telling = undefined))
  if (!(await telling)) return true
  const kept = await caches.open(OWED)
  await kept.put('/heard', new Response())
  await kept.delete('/owed')
  owed = false
  heard()
  return false
}

async function tell(): Promise<boolean> {
  try {
    const answer = await fetch('/sign-out', {
      method: 'POST',
      redirect: 'manual',
      signal: AbortSignal.timeout(TELL_MS),
    })
    // A way elsewhere is Keg's answer; a page of something in between is none.
    return answer.type === 'opaqueredirect'
  } catch {
    return false
  }
}
