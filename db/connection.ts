import { AsyncLocalStorage } from 'node:async_hooks'
import postgres from 'postgres'

/** A transaction in which one shop is set: only its rows can be seen or written. */
export type ShopTx = postgres.TransactionSql<{ bigint: number }>

type Sql = postgres.Sql<{ bigint: number }>

const insideShop = new AsyncLocalStorage<string>()
let pool: Sql | undefined

/** PostgreSQL's bigint as a safe integer: masses are whole milligrams, far below 2^53. */
const safeBigint = {
  to: 20,
  from: [20],
  serialize: (value: number) => String(value),
  parse: (text: string) => {
    const value = Number(text)
    if (!Number.isSafeInteger(value)) throw new RangeError(`${text} is too large for a safe integer`)
    return value
  },
}

/** Plain dates stay text (`2026-11-24`): they have no time of day and no zone. */
const plainDate = {
  to: 1082,
  from: [1082],
  serialize: (value: string) => value,
  parse: (text: string) => text,
}

/**
 * The pool, for this folder's modules only: what is not in a shop goes through definer functions.
 * @throws Error when KEG_DATABASE_URL is not set.
 */
export function database(): Sql {
  if (!pool) {
    const url = process.env.KEG_DATABASE_URL
    if (!url) throw new Error('KEG_DATABASE_URL is not set: start Keg with ./keg')
    pool = postgres(url, {
      max: Number(process.env.KEG_DATABASE_CONNECTIONS ?? 10),
      types: { bigint: safeBigint, date: plainDate },
      // Columns only: what is inside a jsonb is nobody's business here.
      transform: { column: { from: postgres.toCamel, to: postgres.fromCamel } },
      // Queries differ in their values only: planning each anew costs more than it gains.
      connection: { plan_cache_mode: 'force_generic_plan' } as never,
      onnotice: () => {},
      connect_timeout: 10,
    }) as unknown as Sql
  }
  return pool
}

const DEADLOCK = '40P01'
const TRIES = 3

/**
 * The only way to a shop's rows: one transaction with the shop set for it. Row-level security shows and takes
 * nothing else, whatever the query says. Not to be nested, and no network calls inside. After a deadlock it is done
 * again from the start.
 * @throws Error when called within another shop's transaction.
 */
export async function inShop<T>(shopId: string, work: (tx: ShopTx) => Promise<T>): Promise<T> {
  if (insideShop.getStore()) throw new Error('inShop must not be nested: pass the transaction on instead')
  return insideShop.run(shopId, async () => {
    for (let tried = 1; ; tried++) {
      try {
        const result = await database().begin(async (tx) => {
          await tx`select set_config('keg.shop_id', ${shopId}, true)`
          return { value: await work(tx as unknown as ShopTx) }
        })
        return (result as { value: T }).value
      } catch (error) {
        if (tried >= TRIES || (error as { code?: string }).code !== DEADLOCK) throw error
      }
    }
  })
}

/** Is the database answering? */
export async function databaseAnswers(): Promise<boolean> {
  try {
    await database()`select 1`
    return true
  } catch {
    return false
  }
}

export async function closeDatabase(): Promise<void> {
  await pool?.end({ timeout: 5 })
  pool = undefined
}
