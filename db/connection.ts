import { AsyncLocalStorage } from 'node:async_hooks'
import { readFileSync } from 'node:fs'
import postgres from 'postgres'
import { severalHosts } from './address'

/** A transaction in which one shop is set: only its rows can be seen or written. */
export type ShopTx = postgres.TransactionSql<{ bigint: number }>

type Sql = postgres.Sql<{ bigint: number }>

const insideShop = new AsyncLocalStorage<string>()
let pool: Sql | undefined
let ears: Sql | undefined

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
  pool ??= open(addressFrom('KEG_DATABASE_URL'), process.env.KEG_DATABASE_POOLED === '1')
  return pool
}

/** Where this process listens for changes. A pooler of transactions cannot carry that: it wants an address of its own. */
export function listeningDatabase(): Sql {
  if (!process.env.KEG_LISTEN_DATABASE_URL) return database()
  ears ??= open(addressFrom('KEG_LISTEN_DATABASE_URL'), false)
  return ears
}

function addressFrom(variable: string): string {
  const file = process.env[`${variable}_FILE`]
  const url = process.env[variable] ?? (file && readFileSync(file, 'utf8').trim())
  if (!url) throw new Error(`${variable} is not set: start Keg with ./keg`)
  return url
}

/** @param pooled transactions of one client come from different sessions of the server: nothing may be kept in them */
function open(url: string, pooled: boolean): Sql {
  return postgres(url, {
    max: Number(process.env.KEG_DATABASE_CONNECTIONS ?? 10),
    types: { bigint: safeBigint, date: plainDate },
    // Columns only: what is inside a jsonb is nobody's business here.
    transform: { column: { from: postgres.toCamel, to: postgres.fromCamel } },
    onnotice: () => {},
    connect_timeout: 10,
    keep_alive: 15,
    // A database that comes back is found again at once.
    backoff: (tried: number) => Math.min(0.5, 0.05 * 2 ** tried),
    ...(severalHosts(url) ? { target_session_attrs: 'primary' as const } : {}),
    ...(pooled ? { prepare: false } : { connection: SESSION as never }),
  }) as unknown as Sql
}

const SESSION = {
  application_name: 'keg',
  // Queries differ in their values only: planning each anew costs more than it gains.
  plan_cache_mode: 'force_generic_plan',
  // Nothing that Keg asks takes nearly as long: what does holds up others.
  statement_timeout: 30_000,
  idle_in_transaction_session_timeout: 30_000,
}

let underWay = 0

/** How many transactions of shops are under way in this process, and how many connections it may hold. */
export const databaseLoad = () => ({
  transactions: underWay,
  connections: Number(process.env.KEG_DATABASE_CONNECTIONS ?? 10),
})

const DEADLOCK = '40P01'
const TRIES = 3

/**
 * The only way to a shop's rows: one transaction with the shop set for it. Row-level security shows and takes
 * nothing else, whatever the query says. Not to be nested, and no network calls inside. After a deadlock it is done
 * again from the start, and said so: locks are taken in one order (see `locks.ts`), so that it should never be needed.
 * @throws Error when called within another shop's transaction.
 */
export async function inShop<T>(shopId: string, work: (tx: ShopTx) => Promise<T>): Promise<T> {
  if (insideShop.getStore()) throw new Error('inShop must not be nested: pass the transaction on instead')
  underWay++
  const running = insideShop.run(shopId, async () => {
    for (let tried = 1; ; tried++) {
      try {
        const result = await database().begin(async (tx) => {
          // Sent, but not waited for: the work's first query follows it on the same connection, and fails with it.
          const shopSet = tx`select set_config('keg.shop_id', ${shopId}, true)`.execute()
          const [value] = await Promise.all([work(tx as unknown as ShopTx), shopSet])
          return { value }
        })
        return (result as { value: T }).value
      } catch (error) {
        if (tried >= TRIES || (error as { code?: string }).code !== DEADLOCK) throw error
        process.emitWarning(
          `Two transactions waited for each other: ${(error as Error).stack}`,
          'KegDeadlock',
        )
      }
    }
  })
  return running.finally(() => underWay--)
}

const ANSWER_MS = 3_000

/** Is the database answering, and soon? */
export async function databaseAnswers(): Promise<boolean> {
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<false>((resolve) => {
    timer = setTimeout(() => resolve(false), ANSWER_MS)
  })
  const answer = database()`select 1`.then(
    () => true,
    () => false,
  )
  return Promise.race([answer, late]).finally(() => clearTimeout(timer))
}

export async function closeDatabase(): Promise<void> {
  await Promise.all([pool?.end({ timeout: 5 }), ears?.end({ timeout: 5 })])
  pool = ears = undefined
}
