import type { ShopTx } from '../connection'
import { lock } from '../locks'

export type Role = 'manager' | 'technician' | 'trainee'

export interface Person {
  userId: string
  /** Rises with every change of role, access or preferences: a form that was opened with an older one is out of date. */
  version: number
  signIn: string
  name: string
  role: Role
  disabled: boolean
  /** When they might write for the last time, who now only read and wrote before. */
  wroteUntil: Date | null
  /** What the interface keeps for this person: units, theme. */
  preferences: Record<string, unknown>
}

const COLUMNS = (tx: ShopTx) => tx`
  u.user_id, u.version, u.sign_in, p.display_name as name, u.role, u.disabled_at is not null as disabled, u.wrote_until, u.preferences`

export async function personOf(tx: ShopTx, userId: string): Promise<Person | undefined> {
  const [person] = await tx<Person[]>`
    select ${COLUMNS(tx)} from app_user u join person p using (shop_id, user_id) where u.user_id = ${userId}`
  return person
}

/** Locks what waits on a device when this person leaves it; 32 bytes in hex. */
export async function deviceKeyOf(tx: ShopTx, userId: string): Promise<string> {
  const [row] = await tx<{ deviceKey: string }[]>`select device_key from app_user where user_id = ${userId}`
  return row!.deviceKey
}

/** Everyone of the shop, by name. */
export async function people(tx: ShopTx): Promise<Person[]> {
  return tx<Person[]>`
    select ${COLUMNS(tx)} from app_user u join person p using (shop_id, user_id) order by lower(p.display_name)`
}

export interface NewPerson {
  userId: string
  signIn: string
  name: string
  role: Role
  passwordHash: string
  preferences: Record<string, unknown>
  at: Date
}

/** @returns false when the sign-in name is taken (in any shop): nothing was added */
export async function addPerson(tx: ShopTx, person: NewPerson): Promise<boolean> {
  const { userId, signIn, name, role, passwordHash, preferences, at } = person
  const [known] = await tx`select 1 from directory_find(${signIn})`
  if (known) return false
  await tx`
    insert into app_user (shop_id, user_id, sign_in, role, password_hash, preferences, created_at)
    values (current_shop(), ${userId}, ${signIn}, ${role}, ${passwordHash}, ${tx.json(preferences as never)}, ${at})`
  await tx`insert into person (shop_id, user_id, display_name) values (current_shop(), ${userId}, ${name})`
  const [row] = await tx<{ added: boolean }[]>`select directory_add(${signIn}, ${userId}) as added`
  if (!row!.added) throw new SignInTakenError(`The sign-in name ${signIn} was taken a moment ago.`)
  return true
}

/** Two people asked for the same name at the same moment. */
export class SignInTakenError extends Error {
  override name = 'SignInTakenError'
}

export async function passwordHashOf(tx: ShopTx, userId: string): Promise<string | undefined> {
  const [row] = await tx<
    { passwordHash: string }[]
  >`select password_hash from app_user where user_id = ${userId} and disabled_at is null`
  return row?.passwordHash
}

/** A new password ends the person's other sessions. @param kept hash of the session that goes on, if any */
export async function changePassword(
  tx: ShopTx,
  userId: string,
  passwordHash: string,
  kept: Buffer | null,
): Promise<void> {
  await tx`update app_user set password_hash = ${passwordHash} where user_id = ${userId}`
  await tx`select session_close_others(${userId}, ${kept})`
}

export async function changePreferences(
  tx: ShopTx,
  userId: string,
  preferences: Record<string, unknown>,
): Promise<void> {
  await tx`update app_user set preferences = preferences || ${tx.json(preferences as never)} where user_id = ${userId}`
}

/** @returns the person as they are now, and stay until this transaction ends */
export async function lockedPerson(tx: ShopTx, userId: string): Promise<Person | undefined> {
  // The shop's row stands for "who manages it": two managers must not remove each other at the same time.
  await lock(tx, { shop: true })
  return personOf(tx, userId)
}

/**
 * The caller holds the shop's lock.
 * @returns false when that would leave the shop without a manager: nothing was changed
 */
export async function changePerson(
  tx: ShopTx,
  userId: string,
  change: { role?: Role; disabledAt?: Date | null },
): Promise<boolean> {
  if (change.role)
    await tx`
      update app_user set role = ${change.role}, wrote_until = case
          when ${change.role} <> 'trainee' then null
          when role <> 'trainee' then clock_timestamp()
          else wrote_until end
      where user_id = ${userId}`
  if (change.disabledAt !== undefined)
    await tx`update app_user set disabled_at = ${change.disabledAt} where user_id = ${userId}`
  const [left] = await tx`select 1 from app_user where role = 'manager' and disabled_at is null limit 1`
  if (!left) {
    await tx`update app_user set role = 'manager', disabled_at = null where user_id = ${userId}`
    return false
  }
  if (change.disabledAt) await tx`select session_close_others(${userId}, null)`
  return true
}
