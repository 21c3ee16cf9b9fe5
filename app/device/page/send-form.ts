/** A form could not be sent: it stands as it was typed. */
let unsent = false
const listeners = new Set<() => void>()

export const formUnsent = () => unsent

export function subscribeToForms(tell: () => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

/**
 * A route's client action that leaves the form as it stands where no answer comes, and says so: nothing of it is sent by itself.
 * @param here what can be done on this device instead
 */
export async function sendForm<T>(
  { serverAction }: { serverAction: () => Promise<T> },
  here?: () => Promise<T | undefined>,
): Promise<T | undefined> {
  say(false)
  try {
    return await serverAction()
  } catch (error) {
    // A response or a redirect came from the server; a TypeError says that the browser reached none.
    if (!(error instanceof TypeError)) throw error
    const done = await here?.()
    if (done === undefined) say(true)
    return done
  }
}

/** Somebody goes on: what was said of a form is over. */
export const forgetForms = () => say(false)

function say(next: boolean) {
  if (next === unsent) return
  unsent = next
  for (const tell of listeners) tell()
}
