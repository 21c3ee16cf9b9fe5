/** When the page was last as it should be, while it is not: its data could not be loaded again. */
let staleSince: number | undefined
const listeners = new Set<() => void>()

export const reloadState = () => staleSince

export function subscribeToReloads(tell: () => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

interface ClientLoad<T> {
  request: Request
  serverLoader: () => Promise<T>
}

/**
 * A route's client loader that keeps the page as it is when loading it again fails: no signal, or a server that is just
 * starting. A page that was not there yet is still answered for by the error page. Set `hydrate` on it.
 */
export function keepLastGood<T>(): ((load: ClientLoad<T>) => Promise<T>) & { hydrate: true } {
  let last: { address: string; data: T; at: number } | undefined
  const load = async ({ request, serverLoader }: ClientLoad<T>) => {
    const address = new URL(request.url).pathname + new URL(request.url).search
    try {
      const data = await serverLoader()
      last = { address, data, at: Date.now() }
      say(undefined)
      return data
    } catch (error) {
      // A way elsewhere is an answer: to the door, for one.
      if (error instanceof Response || last?.address !== address || !onThisPage(address)) throw error
      say(last.at)
      return last.data
    }
  }
  return Object.assign(load, { hydrate: true as const })
}

/** What a form comes back as when no answer came: it waits on this device, and there is nothing to load again. */
export interface Unsent<T> {
  unsent: T
}

export const isUnsent = (result: unknown): result is Unsent<unknown> =>
  typeof result === 'object' && result !== null && 'unsent' in result

/** Loading again what is shown, not on the way to it. */
const onThisPage = (address: string) => location.pathname + location.search === address

function say(since: number | undefined) {
  if (since === staleSince) return
  staleSince = since
  for (const tell of listeners) tell()
}
