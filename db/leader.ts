import { leadingDatabase } from './connection'

/**
 * Does something only while nobody else does it, in whichever process comes first: the lock is the transaction's, so that
 * it is free the moment its holder is gone.
 * @param what a number of its own for each kind of work
 * @returns undefined where another one is at it
 */
export async function alone<T>(what: number, work: () => Promise<T>): Promise<{ result: T } | undefined> {
  return leadingDatabase().begin(async (tx) => {
    const [row] = await tx<{ got: boolean }[]>`select pg_try_advisory_xact_lock(7267, ${what}) as got`
    return row!.got ? { result: await work() } : undefined
  }) as Promise<{ result: T } | undefined>
}
