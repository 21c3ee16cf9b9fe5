import { listeningDatabase, onGivenUp, type ShopTx } from './connection'

/** Something changed; ids only, readers refetch in their own shop. */
export interface Change {
  /** `session`: one of somebody's has ended, told by the functions that end it. */
  kind: 'job' | 'cylinder' | 'kit' | 'device' | 'alarm' | 'session' | 'refetch'
  id: string
}

const CHANNEL = 'keg_changes'
const HEARD_MS = 5_000
const listeners = new Map<string, Set<(change: Change) => void>>()
const listening = new Map<string, Listening>()

/** Tells every process once the transaction commits. The channel knows no row security: it carries ids only. */
export async function announce(tx: ShopTx, change: Change): Promise<void> {
  await tx`select pg_notify(${CHANNEL}, current_shop()::text || ' ' || ${change.kind}::text || ' ' || ${change.id}::text)`
}

/** This process does not hear of changes: its database does not answer. */
export class NotListeningError extends Error {
  override name = 'NotListeningError'
}

/**
 * Calls back for each change in a shop. All listeners of this process share one database connection; after it was
 * lost and found again everybody is told to refetch.
 * @returns a function that ends it
 * @throws NotListeningError
 */
export async function onChange(shopId: string, tell: (change: Change) => void): Promise<() => void> {
  await hear(CHANNEL, spread, () => {
    for (const shop of listeners.values()) for (const tell of shop) tell({ kind: 'refetch', id: '' })
  })
  const own = listeners.get(shopId) ?? new Set()
  listeners.set(shopId, own)
  own.add(tell)
  return () => {
    own.delete(tell)
    if (own.size === 0 && listeners.get(shopId) === own) listeners.delete(shopId)
  }
}

interface Listening {
  told: (payload: string) => void
  /** Called whenever the connection was made, also again. */
  found: () => void
  begun: Promise<void>
}

/**
 * Listens on a channel of the database, once for all of this process. Once begun the driver goes on trying, however often
 * the database goes away.
 * @param found called whenever the connection was made, also again
 * @throws NotListeningError
 */
export async function hear(
  channel: string,
  told: (payload: string) => void,
  found: () => void,
): Promise<void> {
  const { begun } = listening.get(channel) ?? begin(channel, told, found)
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new NotListeningError('The database does not answer.')), HEARD_MS)
  })
  await Promise.race([begun, late]).finally(() => clearTimeout(timer))
}

function begin(channel: string, told: Listening['told'], found: Listening['found']): Listening {
  const begun = new Promise<void>((resolve) => {
    listeningDatabase()
      .listen(channel, told, () => {
        resolve()
        found()
      })
      .catch(() => {
        // Not yet: it tries again by itself, and resolves then.
      })
  })
  const each = { told, found, begun }
  listening.set(channel, each)
  return each
}

onGivenUp(() => {
  for (const [channel, { told, found }] of listening) begin(channel, told, found)
})

function spread(payload: string) {
  const [shopId, kind, id] = payload.split(' ') as [string, Change['kind'], string]
  for (const tell of listeners.get(shopId) ?? []) tell({ kind, id })
}
