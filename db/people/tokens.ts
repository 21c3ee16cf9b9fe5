import { randomBytes } from 'node:crypto'
import { askDirectory, inShop, type ShopTx } from '../connection'
import { readShop, type Shop } from '../shop'
import { hashOf } from './sign-in'

/** calc: work things out; cylinders: look at the shop's cylinders while doing so. */
export type Scope = 'calc' | 'cylinders'

export interface ApiToken {
  tokenId: string
  name: string
  scopes: Scope[]
  madeBy: string
  /** The manager with whom it ends. */
  heldBy: string
  holder: string
  madeAt: Date
  /** Day of its last use, UTC; null: never used. */
  usedOn: string | null
  revokedAt: Date | null
}

/** The shop's tokens, those in force first. */
export async function apiTokens(tx: ShopTx): Promise<ApiToken[]> {
  return tx<ApiToken[]>`
    select t.token_id, t.name, t.scopes, p.display_name as made_by, t.held_by, h.display_name as holder, t.made_at, t.used_on,
      t.revoked_at
    from api_token t
      join person p on p.shop_id = t.shop_id and p.user_id = t.made_by
      join person h on h.shop_id = t.shop_id and h.user_id = t.held_by
    order by t.revoked_at is not null, t.made_at desc, t.token_id limit 200`
}

export interface NewToken {
  tokenId: string
  name: string
  scopes: Scope[]
  madeBy: string
  at: Date
}

/** A token that nobody has guessed: it can be told from other secrets by its beginning. */
export const freshToken = (): string => `keg_${randomBytes(32).toString('base64url')}`

/** Keeps a hash of the token; the token itself is shown once, by whoever made it. */
export async function addApiToken(tx: ShopTx, token: string, made: NewToken): Promise<void> {
  const { tokenId, name, scopes, madeBy, at } = made
  const hash = hashOf(token)
  await tx`
    insert into api_token (shop_id, token_id, name, token_hash, scopes, made_by, held_by, made_at)
    values (current_shop(), ${tokenId}, ${name}, ${hash}, ${scopes}, ${madeBy}, ${madeBy}, ${at})`
  await tx`select token_add(${hash}, ${tokenId})`
}

/** @returns false when there is no such token in force */
export async function revokeApiToken(tx: ShopTx, tokenId: string, at: Date): Promise<boolean> {
  const changed =
    await tx`update api_token set revoked_at = ${at} where token_id = ${tokenId} and revoked_at is null`
  return changed.count > 0
}

/**
 * Whoever no longer manages the shop holds no tokens: they are passed on, or end. The caller holds the shop's lock.
 * @param to another manager, or null: they are revoked
 * @returns how many there were
 */
export async function passTokens(tx: ShopTx, from: string, to: string | null, at: Date): Promise<number> {
  const passed = to
    ? await tx`update api_token set held_by = ${to} where held_by = ${from} and revoked_at is null`
    : await tx`update api_token set revoked_at = ${at} where held_by = ${from} and revoked_at is null`
  return passed.count
}

export interface TokenHolder {
  shop: Shop
  tokenId: string
  scopes: Scope[]
}

/** Whom a token speaks for; undefined when it is unknown, was revoked, or its holder is no manager any more. Notes the day of its use. */
export async function findApiToken(token: string, at: Date): Promise<TokenHolder | undefined> {
  const [found] = await askDirectory(
    (sql) => sql<{ shopId: string; tokenId: string }[]>`select * from token_find(${hashOf(token)})`,
  )
  if (!found) return undefined
  return inShop(found.shopId, async (tx) => {
    const [row] = await tx<{ scopes: Scope[]; usedOn: string | null }[]>`
      select t.scopes, t.used_on
      from api_token t join app_user u on u.shop_id = t.shop_id and u.user_id = t.held_by
      where t.token_id = ${found.tokenId} and t.revoked_at is null and u.disabled_at is null and u.role = 'manager'`
    if (!row) return undefined
    const today = at.toISOString().slice(0, 10)
    if (row.usedOn !== today)
      await tx`update api_token set used_on = ${today}::date where token_id = ${found.tokenId}`
    return { shop: await readShop(tx), tokenId: found.tokenId, scopes: row.scopes }
  })
}
