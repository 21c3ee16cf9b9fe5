// A shop's data survives every upgrade: an older database, with what people did in it, brought to today's schema.
import { randomUUID } from 'node:crypto'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { withDatabase } from './address'
import { prepareDatabase } from './migrate'
import { dropDatabase } from './restore'

const database = `keg_old_${randomUUID().slice(0, 8)}`
const adminUrl = withDatabase(process.env.KEG_ADMIN_DATABASE_URL!, database)
const addresses = {
  adminUrl,
  ownerUrl: withDatabase(process.env.KEG_OWNER_DATABASE_URL!, database),
  appUrl: withDatabase(process.env.KEG_DATABASE_URL!, database),
}
const [shop, user, first, second, siteA, siteB, system] = Array.from({ length: 7 }, () => randomUUID())
let sql: postgres.Sql

beforeAll(async () => {
  await prepareDatabase(addresses, '005')
  sql = postgres(adminUrl, { max: 1, onnotice: () => {} })
  await sql.unsafe(`
    insert into shop (shop_id, name, created_at) values ('${shop}', 'Old quay', now());
    insert into app_user (shop_id, user_id, sign_in, role, password_hash, created_at)
      values ('${shop}', '${user}', 'old', 'manager', 'x', now());
    insert into person values ('${shop}', '${user}', 'Old Hand');
    insert into customer values ('${shop}', '${first}', 'Fish hall', '2020-01-01'), ('${shop}', '${second}', 'FISH HALL', '2021-01-01');
    insert into site (shop_id, site_id, customer_id, name, address, altitude_m, created_at) values
      ('${shop}', '${siteA}', '${first}', 'Hall 1', '', 0, '2020-01-01'),
      ('${shop}', '${siteB}', '${second}', 'hall 1', 'Mole 2', 1200, '2021-01-01');
    insert into system (shop_id, system_id, site_id, name, trade, created_at)
      values ('${shop}', '${system}', '${siteB}', 'Old freezer', 'stationary', now());
    insert into cylinder (shop_id, cylinder_id, label, kind, tare_mg, owner_customer_id, created_at)
      values ('${shop}', '${randomUUID()}', 'Old 1', 'recovery', 1, '${second}', now());
    insert into api_token (shop_id, token_id, name, token_hash, scopes, made_by, made_at)
      values ('${shop}', '${randomUUID()}', 'van', 'x', '{calc}', '${user}', now())`)
})
afterAll(async () => {
  await sql.end()
  await dropDatabase(process.env.KEG_ADMIN_DATABASE_URL!, database)
})

const applied = async () =>
  (await sql`select max(version) as version from schema_version`)[0]!.version as string

describe('an upgrade', () => {
  it('that fails half-way has not happened', async () => {
    await sql`create table first_run (in_the_way integer)`
    await expect(prepareDatabase(addresses)).rejects.toThrow(/first_run/)
    expect(Number(await applied())).toBe(5)
    expect(
      await sql`select 1 from information_schema.columns where table_name = 'cylinder' and column_name = 'version'`,
    ).toHaveLength(0)
    expect(await sql`select 1 from customer`).toHaveLength(2)
    await sql`drop table first_run`
  })
  it('makes one of a customer and a site that were entered twice, and loses nothing that hangs on them', async () => {
    await prepareDatabase(addresses)
    expect(await sql`select customer_id, name from customer`).toEqual([
      { customer_id: first, name: 'Fish hall' },
    ])
    expect(await sql`select site_id, customer_id, address, altitude_m from site`).toEqual([
      { site_id: siteA, customer_id: first, address: 'Mole 2', altitude_m: 1200 },
    ])
    expect(await sql`select site_id from system where system_id = ${system!}`).toEqual([{ site_id: siteA }])
    expect(await sql`select owner_customer_id from cylinder`).toEqual([{ owner_customer_id: first }])
    expect(await sql`select held_by from api_token`).toEqual([{ held_by: user }])
    const guarded = await sql`
      select relname from pg_class where relname in ('customer', 'site', 'cylinder', 'system', 'api_token') and relforcerowsecurity`
    expect(guarded).toHaveLength(5)
    await expect(
      sql`insert into customer values (${shop!}, ${randomUUID()}, 'fish Hall', now())`,
    ).rejects.toThrow(/customer_name/)
  })
  it('done twice changes nothing', async () => {
    await prepareDatabase(addresses)
    expect(await sql`select 1 from customer`).toHaveLength(1)
  })
})

it('counted tries that have run out are found by an index, and swept by one process at a time', async () => {
  await sql`
    insert into rate_count (bucket, window_start, hits)
    select 'SIGN_IN ' || n, now() - interval '2 days' * (n % 2), 1 from generate_series(1, 20000) n`
  await sql`analyze rate_count`
  // As the function asks it.
  const [body] = await sql`select prosrc from pg_proc where proname = 'tidy_up'`
  const sweep = /delete from rate_count[^;]*/.exec(body!.prosrc as string)![0]
  expect(JSON.stringify(await sql.unsafe(`explain ${sweep.replace('1 day', '90 days')}`))).toContain(
    'rate_count_window',
  )
  const swept = await Promise.all([sql`select tidy_up() as gone`, sql`select tidy_up() as gone`])
  expect(swept.map(([row]) => Number(row!.gone)).sort((a, b) => a - b)).toEqual([0, 10_000])
  expect(await sql`select rate_take('SIGN_IN 1', 2, 60) as wait`).toEqual([{ wait: 0 }])
})
