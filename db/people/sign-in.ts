import { createHash, randomBytes } from 'node:crypto'
import { askDirectory, inShop, type ShopTx } from '../connection'
import { type Person, personOf } from './people'
import { readShop, type Shop } from '../shop'

export interface SignedIn {
  shop: Shop
  person: Person
}

/** Where a sign-in name belongs; undefined when nobody has it. */
export async function findSignIn(name: string): Promise<{ shopId: string; userId: string } | undefined> {
  const [found] = await askDirectory(
    (sql) => sql<{ shopId: string; userId: string }[]>`select * from directory_find(${name})`,
  )
  return found
}

/** The code that opens the first-run page, the same from every process; undefined once somebody has signed up. */
export async function firstRunCode(): Promise<string | undefined> {
  const [row] = await askDirectory((sql) => sql<{ code: string | null }[]>`select first_run_code() as code`)
  return row!.code ?? undefined
}

/** Takes the first run for this transaction: true for the first who comes with the code, and for nobody after. */
export async function takeFirstRun(tx: ShopTx, code: string): Promise<boolean> {
  const [row] = await tx<{ taken: boolean }[]>`select first_run_take(${code}) as taken`
  return row!.taken
}

/** Nobody has signed up yet: the first-run page is open. */
export async function nobodyYet(): Promise<boolean> {
  const [row] = await askDirectory((sql) => sql<{ empty: boolean }[]>`select directory_is_empty() as empty`)
  return row!.empty
}

const SESSION_HOURS = 14 * 24

/** Opens a session and returns its token; only a hash of it is kept. */
export async function openSession(shopId: string, userId: string): Promise<string> {
  const token = randomBytes(32).toString('base64url')
  await askDirectory(
    (sql) => sql`select session_open(${hashOf(token)}, ${shopId}, ${userId}, ${SESSION_HOURS})`,
  )
  return token
}

/** Who a session token belongs to; undefined when it has ended or its person was disabled. */
export async function findSession(token: string): Promise<SignedIn | undefined> {
  const [found] = await askDirectory(
    (sql) => sql<{ shopId: string; userId: string }[]>`select * from session_find(${hashOf(token)})`,
  )
  if (!found) return undefined
  return inShop(found.shopId, async (tx) => {
    const [shop, person] = await Promise.all([readShop(tx), personOf(tx, found.userId)])
    return person && !person.disabled ? { shop, person } : undefined
  })
}

export async function closeSession(token: string): Promise<void> {
  await askDirectory((sql) => sql`select session_close(${hashOf(token)})`)
}

/**
 * Counts one try against a limit.
 * @returns seconds to wait; 0 when the try is allowed
 */
export async function takeRate(bucket: string, allowed: number, windowSeconds: number): Promise<number> {
  const [row] = await askDirectory(
    (sql) => sql<{ wait: number }[]>`select rate_take(${bucket}, ${allowed}, ${windowSeconds}) as wait`,
  )
  return row!.wait
}

/**
 * Looks whether a limit is reached, and counts nothing.
 * @returns seconds to wait; 0 when a try is allowed
 */
export async function lookAtRate(bucket: string, allowed: number, windowSeconds: number): Promise<number> {
  const [row] = await askDirectory(
    (sql) => sql<{ wait: number }[]>`select rate_look(${bucket}, ${allowed}, ${windowSeconds}) as wait`,
  )
  return row!.wait
}

/** Somebody has signed in here: this browser is known as theirs. @param mark what it keeps, and nobody else knows */
export async function keepBrowser(mark: string, shopId: string, userId: string): Promise<void> {
  await askDirectory((sql) => sql`select browser_keep(${hashOf(mark)}, ${shopId}, ${userId})`)
}

/** Whether somebody has signed in before where this mark is kept. */
export async function browserKnown(mark: string, userId: string): Promise<boolean> {
  const [row] = await askDirectory(
    (sql) => sql<{ known: boolean }[]>`select browser_known(${hashOf(mark)}, ${userId}) as known`,
  )
  return row!.known
}

/** Takes away what has run out: counted tries, sessions, browsers long unused. @returns how many */
export async function tidyUp(): Promise<number> {
  const [row] = await askDirectory((sql) => sql<{ gone: number }[]>`select tidy_up() as gone`)
  return row!.gone
}

export function hashOf(token: string): Buffer {
  return createHash('sha256').update(token).digest()
}
