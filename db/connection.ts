import { AsyncLocalStorage } from 'node:async_hooks'
import { readFileSync } from 'node:fs'
import postgres from 'postgres'
import { severalHosts } from './address'
import { asBusy, BusyError } from './busy'
import { type Line, line, lines } from './line'

/** A transaction in which one shop is set: only its rows can be seen or written. */
export type ShopTx = postgres.TransactionSql<{ bigint: number }>

type Sql = postgres.Sql<{ bigint: number }>

const insideShop = new AsyncLocalStorage<string>()
let pool: Sql | undefined
let ears: Sql | undefined
let leaders: Sql | undefined
let places: Line | undefined

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
 * The pool, for this folder's modules only.
 * @throws Error when KEG_DATABASE_URL is not set.
 */
function database(): Sql {
  pool ??= open(addressFrom('KEG_DATABASE_URL'), process.env.KEG_DATABASE_POOLED === '1', connections())
  return pool
}

/** Connections that this process may hold for its work. What it listens on, and what it leads by, are its own. */
function connections(): number {
  const wanted = Number(process.env.KEG_DATABASE_CONNECTIONS ?? 10)
  if (Number.isInteger(wanted) && wanted >= LEAST_CONNECTIONS && wanted <= 1_000) return wanted
  throw new Error(
    `KEG_DATABASE_CONNECTIONS is ${process.env.KEG_DATABASE_CONNECTIONS}: give a whole number from ${LEAST_CONNECTIONS} to 1000, or leave it out (10)`,
  )
}

/** One that waits for a lock, and one for everybody else. */
const LEAST_CONNECTIONS = 2

/** Nobody waits longer for a connection, and no more than so many at once: they are told to come again. */
const WAIT = { ms: 5_000, most: 200 }

/** One of the connections, as soon as there is one. @throws BusyError */
function withConnection<T>(work: () => Promise<T>, takesLong = false): Promise<T> {
  places ??= line({ atOnce: connections(), most: WAIT.most, ms: WAIT.ms })
  return places(() => (takesLong ? work() : heard(work()))).catch((error: unknown) => {
    throw asBusy(error)
  })
}

/**
 * Longer than anything that is asked may take, and its wait for a lock: a network that was cut says nothing for a quarter of
 * an hour, and holds every connection so long, ms.
 */
const CUT_MS = 40_000

/** What came of it; a connection that says nothing any more is given up, and all others to the same server with it. */
async function heard<T>(work: Promise<T>): Promise<T> {
  const asked = pool
  let timer: NodeJS.Timeout | undefined
  const cut = new Promise<never>((_, reject) => {
    timer = setTimeout(() => {
      if (pool === asked) giveUp()
      reject(new BusyError(`The database said nothing for ${CUT_MS / 1000} s`))
    }, CUT_MS)
  })
  return Promise.race([work, cut]).finally(() => clearTimeout(timer))
}

let whenGivenUp = () => {}
/** For whoever listens: on what was given up nothing is heard any more. */
export const onGivenUp = (listenAnew: () => void) => void (whenGivenUp = listenAnew)

/** Whoever waits on these connections is told that they are gone; whoever comes gets new ones, to whichever server takes writes now. */
function giveUp() {
  const old = [pool, ears, leaders]
  pool = ears = leaders = undefined
  for (const each of old)
    each
      ?.end({ timeout: 0 })
      .catch((error: unknown) =>
        process.emitWarning(`A connection did not end: ${String(error)}`, 'KegDatabase'),
      )
  whenGivenUp()
}

/**
 * Asks what is in no shop, through a definer function.
 * @throws BusyError when the database cannot be asked now
 */
export const askDirectory = <T extends readonly object[]>(work: (sql: Sql) => PromiseLike<T>): Promise<T> =>
  withConnection(async () => work(database()))

/** Where this process listens for changes. A pooler of transactions cannot carry that: it wants an address of its own. */
export function listeningDatabase(): Sql {
  if (!process.env.KEG_LISTEN_DATABASE_URL) return database()
  ears ??= open(addressFrom('KEG_LISTEN_DATABASE_URL'), false, 1)
  return ears
}

/** What one process does for all holds a transaction open meanwhile: on a connection that nobody else waits for. */
export function leadingDatabase(): Sql {
  leaders ??= open(addressFrom('KEG_DATABASE_URL'), process.env.KEG_DATABASE_POOLED === '1', 1)
  return leaders
}

function addressFrom(variable: string): string {
  const file = process.env[`${variable}_FILE`]
  const url = process.env[variable] ?? (file && readFileSync(file, 'utf8').trim())
  if (!url) throw new Error(`${variable} is not set: start Keg with ./keg`)
  return url
}

/** @param pooled transactions of one client come from different sessions of the server: nothing may be kept in them */
function open(url: string, pooled: boolean, max: number): Sql {
  return postgres(url, {
    max,
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
  // Whoever waits longer for a row that others hold is told to come again.
  lock_timeout: 8_000,
  idle_in_transaction_session_timeout: 30_000,
}

let underWay = 0

/** How many transactions of shops are under way in this process, and how many connections it may hold. */
export const databaseLoad = () => ({
  transactions: underWay,
  connections: connections(),
})

const DEADLOCK = '40P01'
const TRIES = 3

/**
 * The only way to a shop's rows: one transaction with the shop set for it. Row-level security shows and takes
 * nothing else, whatever the query says. Not to be nested, and no network calls inside. After a deadlock it is done
 * again from the start, and said so: locks are taken in one order (see `locks.ts`), so that it should never be needed.
 * @param options takesLong: many queries, such as a whole archive; its silence is not taken for a network that was cut
 * @throws Error when called within another shop's transaction
 * @throws BusyError when there is no connection to be had, or others hold for too long what this needs
 */
export async function inShop<T>(
  shopId: string,
  work: (tx: ShopTx) => Promise<T>,
  { takesLong = false } = {},
): Promise<T> {
  if (insideShop.getStore()) throw new Error('inShop must not be nested: pass the transaction on instead')
  underWay++
  const running = withConnection(
    () =>
      insideShop.run(shopId, async () => {
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
      }),
    takesLong,
  )
  return running.finally(() => underWay--)
}

/** Whoever writes on a job that so many others write on is told to come again. */
const writersOf = lines({ atOnce: 1, most: 30, ms: 10_000 })

/**
 * The same for whoever writes on one job: one after another. What waits for a job's turn waits without a connection, and
 * holds up nobody else.
 * @throws BusyError also when too many wait for the same job
 */
export const onJob = <T>(shopId: string, jobId: string, work: (tx: ShopTx) => Promise<T>): Promise<T> =>
  writersOf(jobId, () => inShop(shopId, work))

const ANSWER_MS = 3_000

/** Is the database answering, and soon? */
export async function databaseAnswers(): Promise<boolean> {
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<false>((resolve) => {
    timer = setTimeout(() => resolve(false), ANSWER_MS)
  })
  const answer = askDirectory((sql) => sql`select 1`).then(
    () => true,
    () => false,
  )
  return Promise.race([answer, late]).finally(() => clearTimeout(timer))
}

export async function closeDatabase(): Promise<void> {
  await Promise.all([pool, ears, leaders].map((each) => each?.end({ timeout: 5 })))
  pool = ears = leaders = places = undefined
}
