import { isUnsentMaking } from './making'
import { canSeal, seal, unseal } from './seal'
import { allKept, type Kept, type Locked, room, stepOver, type Store, STORES } from './waiting-room'

/**
 * Locks what waits here of somebody who leaves: the next person on this device can read none of it. It opens again when they
 * sign in. Where the browser cannot, it stays as it is.
 * @param key theirs, from the server
 */
export async function lockFor(userId: string, key: string): Promise<void> {
  if (!canSeal()) return
  const kept = await allKept()
  const locked: Locked[] = []
  const lock = async (
    store: Store,
    id: string,
    row: { userId: string; userName?: string },
    unsent: boolean,
  ) => {
    if (row.userId !== userId) return
    const userName = row.userName ?? ''
    locked.push({ id, store, userId, userName, unsent, sealed: await seal(key, userId, row) })
  }
  for (const each of kept.waiting) await lock('waiting', each.entryId, each, true)
  for (const each of kept.aside) await lock('aside', each.entryId, each, false)
  for (const each of kept.makings) await lock('makings', each.id, each, isUnsentMaking(each))
  for (const each of kept.photos) await lock('photos', each.photoId, each, !('sentence' in each))
  const tx = (await room()).transaction([...STORES, 'locked'], 'readwrite')
  for (const each of locked) {
    void tx.objectStore('locked').put(each)
    void tx.objectStore(each.store).delete(each.id)
  }
  await tx.done
  stepOver(locked.map(({ id }) => id))
  // What was read last is no longer so.
  await allKept()
}

/** Opens it again. What does not open with this key stays locked. @returns everything that is kept */
export async function unlockFor(userId: string, key: string): Promise<Kept> {
  if (!canSeal()) return allKept()
  const own = (await allKept()).locked.filter((each) => each.userId === userId)
  const opened = await Promise.all(
    own.map(({ store, id, sealed }) =>
      unseal(key, userId, sealed).then(
        (row) => ({ store, id, row }),
        () => undefined,
      ),
    ),
  )
  const tx = (await room()).transaction([...STORES, 'locked'], 'readwrite')
  for (const each of opened) {
    // Another tab may have opened it, and sent it, meanwhile.
    if (!each || !(await tx.objectStore('locked').get(each.id))) continue
    void tx.objectStore(each.store).put(each.row as never)
    void tx.objectStore('locked').delete(each.id)
  }
  await tx.done
  return allKept()
}
