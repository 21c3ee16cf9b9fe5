import { randomBytes, randomInt } from 'node:crypto'
import { type Arrival, type Channel, CLOCK_BATCHES } from '#core/samples'
import { askDirectory, inShop, type ShopTx } from '../connection'
import { hashOf } from '../people/sign-in'

export interface DeviceChannel {
  channel: Channel
  /** The piece of kit it is now; null: none. */
  kitId: string | null
  kit: string | null
}

export interface DeviceRow {
  deviceId: string
  name: string
  standIn: boolean
  pairedAt: Date
  pairedBy: string
  revokedAt: Date | null
  /** Since a restore: nobody has looked yet whether it may still be let in. */
  heldAt: Date | null
  /** When its last batch came. */
  heardAt: Date | null
  /** Samples that were not taken since it was paired, and why the last was not. */
  refused: number
  refusedWhy: string
  refusedAt: Date | null
  channels: DeviceChannel[]
  /** Its last batches: what its clock said, and when they came, ms. */
  arrivals: Arrival[]
}

const MINUTES_VALID = 15
/** Letters and digits that are not taken for one another. */
const ALPHABET = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'

/** A code that is typed once into a gateway: 10 characters, 50 bits. */
export function freshPairingCode(): string {
  const letters = Array.from({ length: 10 }, () => ALPHABET[randomInt(ALPHABET.length)]!)
  return `${letters.slice(0, 5).join('')}-${letters.slice(5).join('')}`
}

const plain = (code: string) => code.toUpperCase().replace(/[^A-Z0-9]/g, '')

/** Keeps a hash of the code; it can be traded once, within a quarter of an hour. */
export async function addPairingCode(tx: ShopTx, code: string, userId: string, at: Date): Promise<Date> {
  const hash = hashOf(plain(code))
  const expires = new Date(at.getTime() + MINUTES_VALID * 60_000)
  await tx`
    insert into pairing_code (shop_id, code_hash, made_by, made_at, expires_at)
    values (current_shop(), ${hash}, ${userId}, ${at}, ${expires})`
  await tx`select pairing_add(${hash})`
  return expires
}

export interface NewDevice {
  deviceId: string
  name: string
  channels: readonly Channel[]
  standIn: boolean
}

/**
 * Trades a pairing code for a device and its token.
 * @returns undefined when the code is unknown, used or too old
 */
export async function pairDevice(
  code: string,
  device: NewDevice,
  at: Date,
): Promise<{ shopId: string; token: string } | undefined> {
  const hash = hashOf(plain(code))
  const [found] = await askDirectory(
    (sql) => sql<{ shopId: string | null }[]>`select pairing_find(${hash}) as shop_id`,
  )
  const shopId = found?.shopId
  if (!shopId) return undefined
  return inShop(shopId, async (tx) => {
    const [used] = await tx<{ madeBy: string }[]>`
      update pairing_code set used_at = ${at}
      where code_hash = ${hash} and used_at is null and expires_at > ${at} returning made_by`
    if (!used) return undefined
    return { shopId, token: await addDevice(tx, device, used.madeBy, at) }
  })
}

/** @returns its token, which is kept as a hash only */
export async function addDevice(
  tx: ShopTx,
  { deviceId, name, channels, standIn }: NewDevice,
  userId: string,
  at: Date,
): Promise<string> {
  const token = `kegdev_${randomBytes(32).toString('base64url')}`
  const hash = hashOf(token)
  await tx`
    insert into device (shop_id, device_id, name, token_hash, stand_in, paired_by, paired_at)
    values (current_shop(), ${deviceId}, ${name}, ${hash}, ${standIn}, ${userId}, ${at})`
  await tx`
    insert into device_channel (shop_id, device_id, channel)
    select current_shop(), ${deviceId}, c from unnest(${[...new Set(channels)]}::text[]) c`
  await tx`select device_add(${hash}, ${deviceId})`
  return token
}

/** Tokens and whose they are never change; whether one is still in force is looked at with each use. */
const known = new Map<string, { shopId: string; deviceId: string }>()
const MOST_KNOWN = 2_000

/** Whose token it is, or was; undefined: nobody's. */
export async function deviceOf(token: string): Promise<{ shopId: string; deviceId: string } | undefined> {
  const hash = hashOf(token)
  const key = hash.toString('base64')
  const kept = known.get(key)
  if (kept) return kept
  const [found] = await askDirectory(
    (sql) => sql<{ shopId: string; deviceId: string }[]>`select * from device_find(${hash})`,
  )
  if (!found) return undefined
  if (known.size >= MOST_KNOWN) known.clear()
  known.set(key, found)
  return found
}

/** It is there, nobody has revoked it, and nobody has to look at it first. */
export async function inForce(tx: ShopTx, deviceId: string): Promise<boolean> {
  const rows = await tx`select 1 from device where device_id = ${deviceId} and in_force`
  return rows.length > 0
}

/** The shop's devices, those in force first. */
export async function devices(tx: ShopTx): Promise<DeviceRow[]> {
  return tx<DeviceRow[]>`
    select d.device_id, d.name, d.stand_in, d.paired_at, p.display_name as paired_by, d.revoked_at, d.held_at, d.heard_at, d.refused,
      d.refused_why, d.refused_at, (
        select coalesce(jsonb_agg(jsonb_build_object('channel', c.channel, 'kitId', u.kit_id, 'kit', k.label) order by c.channel), '[]')
        from device_channel c
          left join channel_use u on u.shop_id = c.shop_id and u.device_id = c.device_id and u.channel = c.channel and u.until is null
          left join kit k on k.shop_id = u.shop_id and k.kit_id = u.kit_id
        where c.shop_id = d.shop_id and c.device_id = d.device_id) as channels, (
        select coalesce(jsonb_agg(jsonb_build_object('saidAt', round(date_part('epoch', b.to_at) * 1000),
          'arrivedAt', round(date_part('epoch', b.arrived_at) * 1000))), '[]')
        from (select to_at, arrived_at from sample_batch b
          where b.shop_id = d.shop_id and b.device_id = d.device_id order by nr desc limit ${CLOCK_BATCHES}) b) as arrivals
    from device d join person p on p.shop_id = d.shop_id and p.user_id = d.paired_by
    order by d.revoked_at is not null, lower(d.name), d.device_id limit 200`
}

export async function renameDevice(tx: ShopTx, deviceId: string, name: string): Promise<void> {
  await tx`update device set name = ${name} where device_id = ${deviceId}`
}

/** From now on it is not let in. @returns false when there is none in force */
export async function revokeDevice(tx: ShopTx, deviceId: string, at: Date): Promise<boolean> {
  const changed = await tx`
    update device set revoked_at = ${at} where device_id = ${deviceId} and revoked_at is null`
  await tx`update channel_use set until = greatest(since, ${at}) where device_id = ${deviceId} and until is null`
  return changed.count > 0
}

/** One that was held since a restore is let in again. @returns false where none is held */
export async function letInAgain(tx: ShopTx, deviceId: string): Promise<boolean> {
  const changed = await tx`
    update device set held_at = null where device_id = ${deviceId} and held_at is not null and revoked_at is null`
  return changed.count > 0
}

/** A channel is another piece of kit from now on, or none; what it said before stays where it was. */
export async function moveChannel(
  tx: ShopTx,
  use: { deviceId: string; channel: Channel; kitId: string | null },
  at: Date,
): Promise<void> {
  const { deviceId, channel, kitId } = use
  const [now] = await tx<{ kitId: string; since: Date }[]>`
    select kit_id, since from channel_use
    where device_id = ${deviceId} and channel = ${channel} and until is null for update`
  if ((now?.kitId ?? null) === kitId) return
  // Two moves in one moment do not fall on one another.
  const since = now && at <= now.since ? new Date(now.since.getTime() + 1) : at
  if (now)
    await tx`
      update channel_use set until = ${since}
      where device_id = ${deviceId} and channel = ${channel} and until is null`
  if (kitId)
    await tx`
      insert into channel_use (shop_id, device_id, channel, kit_id, since)
      values (current_shop(), ${deviceId}, ${channel}, ${kitId}, ${since})`
}

/** How a stand-in's knobs stand, as it said last. */
export async function keepState(tx: ShopTx, deviceId: string, state: object): Promise<void> {
  await tx`update device set state = ${tx.json(state as never)} where device_id = ${deviceId}`
}

export interface StandIn {
  deviceId: string
  name: string
  state: Record<string, unknown> | null
  heardAt: Date | null
}

/** Stand-ins among some devices. */
export async function standIns(tx: ShopTx, deviceIds: readonly string[]): Promise<StandIn[]> {
  if (deviceIds.length === 0) return []
  return tx<StandIn[]>`
    select device_id, name, state, heard_at from device
    where stand_in and in_force and device_id in ${tx([...deviceIds])} order by lower(name)`
}

/** Something for a device to do; it asks for it. @returns its number, or undefined without such a device */
export async function command(
  tx: ShopTx,
  deviceId: string,
  what: object,
  userId: string,
  at: Date,
): Promise<number | undefined> {
  const [next] = await tx<{ commands: number }[]>`
    update device set commands = commands + 1 where device_id = ${deviceId} and in_force returning commands`
  if (!next) return undefined
  await tx`
    insert into device_command (shop_id, device_id, nr, command, made_by, made_at)
    values (current_shop(), ${deviceId}, ${next.commands}, ${tx.json(what as never)}, ${userId}, ${at})`
  return next.commands
}

export async function commandsAfter(
  tx: ShopTx,
  deviceId: string,
  after: number,
): Promise<{ nr: number; command: Record<string, unknown> }[]> {
  return tx`
    select nr, command from device_command where device_id = ${deviceId} and nr > ${after} order by nr limit 100`
}
