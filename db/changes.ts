import { database, type ShopTx } from './connection'

/** Something changed; ids only, readers refetch in their own shop. */
export interface Change {
  kind: 'job' | 'cylinder' | 'refetch'
  id: string
}

const CHANNEL = 'keg_changes'
const listeners = new Map<string, Set<(change: Change) => void>>()
let listening: Promise<unknown> | undefined

/** Tells every process once the transaction commits. The channel knows no row security: it carries ids only. */
export async function announce(tx: ShopTx, change: Change): Promise<void> {
  await tx`select pg_notify(${CHANNEL}, current_shop()::text || ' ' || ${change.kind}::text || ' ' || ${change.id}::text)`
}

/**
 * Calls back for each change in a shop. All listeners of this process share one database connection; after it was
 * lost and found again everybody is told to refetch.
 * @returns a function that ends it
 */
export async function onChange(shopId: string, tell: (change: Change) => void): Promise<() => void> {
  const own = listeners.get(shopId) ?? new Set()
  listeners.set(shopId, own)
  own.add(tell)
  listening ??= database().listen(CHANNEL, spread, () => {
    for (const shop of listeners.values()) for (const each of shop) each({ kind: 'refetch', id: '' })
  })
  try {
    await listening
  } catch (error) {
    listening = undefined
    throw error
  }
  return () => {
    own.delete(tell)
    if (own.size === 0) listeners.delete(shopId)
  }
}

function spread(payload: string) {
  const [shopId, kind, id] = payload.split(' ') as [string, Change['kind'], string]
  for (const tell of listeners.get(shopId) ?? []) tell({ kind, id })
}
