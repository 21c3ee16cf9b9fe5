import postgres from 'postgres'
import { partsOf, withDatabase } from './address'

/** Of a whole database, for restore and its check; needs the address of a superuser. */
const asAdmin = async <T>(url: string, work: (sql: postgres.Sql) => Promise<T>): Promise<T> => {
  const sql = postgres(url, { max: 1, onnotice: () => {}, connect_timeout: 10 })
  try {
    return await work(sql)
  } finally {
    await sql.end({ timeout: 5 })
  }
}

const server = (url: string) => withDatabase(url, 'postgres')

/** An empty database beside the others, owned by whom its tables will belong to. */
export async function makeDatabase(adminUrl: string, database: string, ownerUrl: string): Promise<void> {
  await asAdmin(server(adminUrl), async (sql) => {
    await sql`drop database if exists ${sql(database)} with (force)`
    await sql`create database ${sql(database)} owner ${sql(partsOf(ownerUrl).user)} template template0 encoding 'UTF8'`
  })
}

export async function dropDatabase(adminUrl: string, database: string): Promise<void> {
  await asAdmin(server(adminUrl), (sql) => sql`drop database if exists ${sql(database)} with (force)`)
}

/**
 * Puts a database in the place of another, which keeps its rows under a new name.
 * @throws when somebody is still connected to either: Keg has to be stopped
 */
export async function putInPlace(adminUrl: string, made: string, place: string, away: string): Promise<void> {
  await asAdmin(server(adminUrl), (sql) =>
    sql.begin(async (tx) => {
      const [there] = await tx`select 1 from pg_database where datname = ${place}`
      if (there) await tx`alter database ${tx(place)} rename to ${tx(away)}`
      await tx`alter database ${tx(made)} rename to ${tx(place)}`
    }),
  )
}

/** What somebody has shut out, by its name; of a database that a backup is put in the place of. */
export interface ShutOut {
  kind: 'token' | 'device' | 'person'
  shopId: string
  id: string
  name: string
  at: Date
}

/** Everything that is shut out in a database; undefined where there is no such database, or none that can be read. */
export async function shutOut(databaseUrl: string): Promise<ShutOut[] | undefined> {
  try {
    return await asAdmin(databaseUrl, async (sql) => [
      ...(await sql<ShutOut[]>`
        select 'token' as kind, shop_id as "shopId", token_id as id, name, revoked_at as at
          from api_token where revoked_at is not null
        union all select 'device', shop_id, device_id, name, revoked_at from device where revoked_at is not null
        union all select 'person', u.shop_id, u.user_id, p.display_name, u.disabled_at
          from app_user u join person p using (shop_id, user_id) where u.disabled_at is not null`),
    ])
  } catch (error) {
    // No database yet, or one from before there were such things: nothing was shut out in it.
    if (['3D000', '42P01', '42703'].includes((error as { code?: string }).code ?? '')) return []
    return undefined
  }
}

/** What was shut out stays out. @returns which were open in this database again */
export async function shutOutAgain(databaseUrl: string, all: readonly ShutOut[]): Promise<ShutOut[]> {
  return asAdmin(databaseUrl, async (sql) => {
    const again: ShutOut[] = []
    for (const each of all) {
      const { shopId, id, at } = each
      const { count } =
        each.kind === 'token'
          ? await sql`update api_token set revoked_at = ${at} where shop_id = ${shopId} and token_id = ${id} and revoked_at is null`
          : each.kind === 'device'
            ? await sql`update device set revoked_at = ${at} where shop_id = ${shopId} and device_id = ${id} and revoked_at is null`
            : // Never the last manager of a shop.
              await sql`
                update app_user u set disabled_at = ${at}
                where shop_id = ${shopId} and user_id = ${id} and disabled_at is null and (role <> 'manager' or exists (
                  select 1 from app_user o where o.shop_id = u.shop_id and o.user_id <> u.user_id
                    and o.role = 'manager' and o.disabled_at is null))`
      if (count > 0) again.push(each)
    }
    return again
  })
}

/** No device is let in before somebody has looked: what was revoked since the backup cannot be known in it. @returns how many */
export async function holdDevices(databaseUrl: string): Promise<number> {
  return asAdmin(databaseUrl, async (sql) => {
    const held = await sql`update device set held_at = now() where in_force`
    return held.count
  })
}

/** Nobody stays signed in. @returns how many sessions there were */
export async function endAllSessions(databaseUrl: string): Promise<number> {
  return asAdmin(databaseUrl, async (sql) => {
    const [row] = await sql<{ ended: string }[]>`select session_close_all() as ended`
    return Number(row!.ended)
  })
}

export interface Books {
  movements: number
  entries: number
  /** Cylinders and systems whose balance is not the sum of their movements. */
  wrong: { place: string; balanceMg: number; sumMg: number }[]
}

/** Compares every balance with the sum of its movements, over all shops. */
export async function checkBooks(databaseUrl: string): Promise<Books> {
  return asAdmin(databaseUrl, async (sql) => {
    const wrong = await sql<{ place: string; balance: string; sum: string }[]>`
      with sums as (
        select shop_id, id, sum(mg) as mg from (
          select shop_id, to_cylinder as id, mass_mg as mg from movement where to_cylinder is not null
          union all select shop_id, from_cylinder, -mass_mg from movement where from_cylinder is not null
          union all select shop_id, to_system, mass_mg from movement where to_system is not null
          union all select shop_id, from_system, -mass_mg from movement where from_system is not null) m
        group by shop_id, id)
      select b.place, b.balance_mg as balance, coalesce(s.mg, 0) as sum
      from (
        select shop_id, cylinder_id as id, 'cylinder ' || label as place, balance_mg from cylinder
        union all select shop_id, system_id, 'system ' || name, balance_mg from system) b
      left join sums s using (shop_id, id)
      where b.balance_mg <> coalesce(s.mg, 0) order by 1 limit 100`
    const [counts] = await sql<{ movements: string; entries: string }[]>`
      select (select count(*) from movement) as movements, (select count(*) from entry) as entries`
    return {
      movements: Number(counts!.movements),
      entries: Number(counts!.entries),
      wrong: wrong.map((w) => ({ place: w.place, balanceMg: Number(w.balance), sumMg: Number(w.sum) })),
    }
  })
}
