// Backup and restore through the command itself: what comes back is the same, row for row.
import { execFile } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'
import postgres from 'postgres'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { closeDatabase, openSession } from '#db'
import { partsOf, withDatabase } from '../db/address'
import { prepareDatabase } from '../db/migrate'
import { dropDatabase } from '../db/restore'
import { aCylinder, aJob, anEntry, aShop, aSystem, note } from '../testing/a-shop'

const run = promisify(execFile)
const kegCommand = resolve('keg')
const stamp = randomUUID().slice(0, 8)
const [other, old] = [`keg_restored_${stamp}`, `keg_old_${stamp}`]
const admin = process.env.KEG_ADMIN_DATABASE_URL!
let folder: string

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'keg-backup-'))
})
afterAll(async () => {
  await closeDatabase()
  for (const name of [other, old, `${other}_before_restore`]) await dropDatabase(admin, name)
  await rm(folder, { recursive: true })
})

/** A hash of all rows of each table, whatever their order. */
async function contents(url: string): Promise<Record<string, string>> {
  const sql = postgres(url, { max: 1 })
  try {
    const tables = await sql<{ name: string }[]>`
      select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace order by 1`
    const hashes: Record<string, string> = {}
    for (const { name } of tables) {
      const [row] = await sql.unsafe(
        `select count(*) || ' ' || coalesce(md5(string_agg(t::text, '|' order by t::text)), '') as hash from "${name}" t`,
      )
      hashes[name] = row!.hash as string
    }
    return hashes
  } finally {
    await sql.end()
  }
}

const addresses = (database: string) => ({
  KEG_ADMIN_DATABASE_URL: withDatabase(admin, database),
  KEG_OWNER_DATABASE_URL: withDatabase(process.env.KEG_OWNER_DATABASE_URL!, database),
  KEG_DATABASE_URL: withDatabase(process.env.KEG_DATABASE_URL!, database),
})
const keg = (args: string[], database?: string, cwd = folder) =>
  run(kegCommand, args, { cwd, env: { ...process.env, ...(database ? addresses(database) : {}) } })
const ask = async <T extends object>(database: string, query: string): Promise<T[]> => {
  const sql = postgres(withDatabase(admin, database), { max: 1 })
  try {
    return [...((await sql.unsafe(query)) as unknown as T[])]
  } finally {
    await sql.end()
  }
}

it('a backup restored elsewhere is identical, nobody is signed in to it, and its fences still stand', async () => {
  const shop = await aShop()
  await openSession(shop.shopId, shop.userId)
  const [cylinderId, systemId, jobId] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
  const run1 = {
    runId: randomUUID(),
    use: 'recover',
    cylinderId,
    scale: '',
    mode: 'gross',
    weightMg: 12e6,
  } as const
  await note(
    shop,
    jobId,
    anEntry('job-described', { systemId, refrigerant: 'R-410A' }),
    anEntry('run-started', run1),
    anEntry('run-ended', { runId: run1.runId, weightMg: 14e6, hoseMg: 0 }),
  )
  // Named from where one stands.
  await keg(['backup', 'keg.dump'])
  const file = join(folder, 'keg.dump')
  expect((await stat(file)).mode & 0o777).toBe(0o600)
  const { stdout } = await keg(['restore', 'keg.dump'], other)
  expect(stdout).toMatch(/[1-9]\d* sessions were ended: everybody signs in again/)
  expect(stdout).toContain('Every balance is the sum of its movements.')
  // Both sides are read from dumps of one moment: other tests go on writing meanwhile.
  const first = await contents(withDatabase(admin, other))
  expect(first.session).toMatch(/^0 /)
  await keg(['backup', 'again.dump'], other)
  await keg(['restore', 'again.dump'], other)
  expect(await contents(withDatabase(admin, other))).toEqual(first)

  const restored = postgres(withDatabase(process.env.KEG_DATABASE_URL!, other), { max: 1 })
  try {
    expect(await restored`select * from cylinder`).toHaveLength(0)
    const seen = await restored.begin(async (tx) => {
      await tx`select set_config('keg.shop_id', ${shop.shopId}, true)`
      const [cylinder] = await tx`select balance_mg from cylinder where cylinder_id = ${cylinderId}`
      const entries = await tx`select entry_id from entry where job_id = ${jobId}`
      return { balance: Number(cylinder!.balance_mg), entries: entries.length }
    })
    expect(seen).toEqual({ balance: 2e6, entries: 3 })
    await expect(
      restored.begin(async (tx) => {
        await tx`select set_config('keg.shop_id', ${shop.shopId}, true)`
        await tx`delete from movement`
      }),
    ).rejects.toThrow(/permission denied|append-only/)
  } finally {
    await restored.end()
  }
}, 120_000)

it('whatever was shut out since the backup stays out, and no device is let in before somebody has looked', async () => {
  await keg(['backup', 'before.dump'], other)
  const [token] = await ask<{ token_id: string }>(
    other,
    `
    insert into api_token (shop_id, token_id, name, token_hash, scopes, made_by, held_by, made_at)
    select shop_id, gen_random_uuid(), 'gone', 'x', '{calc}', user_id, user_id, now() from app_user limit 1 returning token_id`,
  )
  await ask(
    other,
    `
    with made as (
      insert into device (shop_id, device_id, name, token_hash, paired_by, paired_at)
      select shop_id, gen_random_uuid(), name, name::bytea, user_id, now()
      from app_user, unnest('{lost van,other van}'::text[]) name where role = 'manager' limit 2 returning 1),
    left_shop as (
      insert into app_user (shop_id, user_id, sign_in, role, password_hash, created_at)
      select shop_id, gen_random_uuid(), 'left-the-shop', 'technician', 'none', now() from app_user limit 1
      returning shop_id, user_id)
    insert into person (shop_id, user_id, display_name) select shop_id, user_id, 'Who left' from left_shop`,
  )
  await keg(['backup', 'with-token.dump'], other)
  await ask(other, `update api_token set revoked_at = now() where token_id = '${token!.token_id}'`)
  await ask(other, `update device set revoked_at = now() where name = 'lost van'`)
  await ask(other, `update app_user set disabled_at = now() where sign_in = 'left-the-shop'`)
  const { stdout } = await keg(['restore', 'with-token.dump'], other)
  for (const each of ['Token gone', 'Device lost van', 'Person Who left'])
    expect(stdout).toContain(`${each} stays out, as since the backup`)
  expect(stdout).toMatch(/[1-9]\d* devices? (is|are) kept out until a manager has looked/)
  expect(await ask(other, `select 1 from api_token where revoked_at is null and name = 'gone'`)).toEqual([])
  expect(await ask(other, `select 1 from device where in_force`)).toEqual([])
  expect(await ask(other, `select 1 from device where name = 'lost van' and revoked_at is null`)).toEqual([])
  expect(
    await ask(other, `select 1 from app_user where sign_in = 'left-the-shop' and disabled_at is null`),
  ).toEqual([])
}, 120_000)

it('a backup of an earlier schema is restored, brought up to date and checked', async () => {
  await prepareDatabase(
    {
      adminUrl: addresses(old).KEG_ADMIN_DATABASE_URL,
      ownerUrl: addresses(old).KEG_OWNER_DATABASE_URL,
      appUrl: addresses(old).KEG_DATABASE_URL,
    },
    '003',
  )
  await ask(
    old,
    `insert into shop (shop_id, name, created_at) values (gen_random_uuid(), 'From long ago', now())`,
  )
  await keg(['backup', 'old.dump'], old)
  const checked = await keg(['restore', '--check', 'old.dump'], other)
  expect(checked.stdout).toContain('Every balance is the sum of its movements.')
  await keg(['restore', 'old.dump'], other)
  expect(await ask(other, `select name, version from shop`)).toEqual([{ name: 'From long ago', version: 1 }])
  expect(await ask(other, `select datname from pg_database where datname like '${other}_check%'`)).toEqual([])
}, 120_000)

it('the check finds books that do not agree', async () => {
  await ask(
    old,
    `
    insert into cylinder (shop_id, cylinder_id, label, kind, tare_mg, balance_mg, created_at)
    select shop_id, gen_random_uuid(), 'Gull 7', 'recovery', 1, 5000, now() from shop limit 1`,
  )
  await keg(['backup', 'wrong.dump'], old)
  await expect(keg(['restore', '--check', 'wrong.dump'], other)).rejects.toMatchObject({
    stderr: expect.stringContaining(
      'cylinder Gull 7: the balance says 5000 mg, its movements 0 mg',
    ) as string,
  })
}, 120_000)

it('a backup that fails leaves the one that was there, and no password is ever in a process list', async () => {
  await writeFile(join(folder, 'good.dump'), 'good')
  await expect(keg(['backup', 'good.dump'], 'keg_nowhere')).rejects.toMatchObject({
    stderr: expect.stringMatching(/keg_nowhere[\s\S]*what was there before stays/) as string,
  })
  expect(await readFile(join(folder, 'good.dump'), 'utf8')).toBe('good')
  expect((await readdir(folder)).filter((name) => name.includes('.part'))).toEqual([])

  const password = partsOf(admin).password
  const seen: string[] = []
  const look = async () => {
    for (const pid of (await readdir('/proc')).filter((name) => /^\d+$/.test(name)))
      seen.push(await readFile(`/proc/${pid}/cmdline`, 'utf8').catch(() => ''))
    await new Promise((resolve) => setTimeout(resolve, 5))
  }
  const dumps = () => seen.some((line) => line.includes('pg_dump'))
  let going = true
  const sql = postgres(withDatabase(admin, other), { max: 1 })
  const backup = await sql.begin(async (tx) => {
    // It cannot read this table, and so be done, before it was seen at work.
    await tx`lock table movement in access exclusive mode`
    const running = keg(['backup', 'watched.dump'], other).finally(() => (going = false))
    while (going && !dumps()) await look()
    return [running]
  })
  while (going) await look()
  await backup[0]
  await sql.end()
  expect(dumps()).toBe(true)
  expect(seen.filter((line) => line.includes(password))).toEqual([])
}, 120_000)

it('a file that is no backup changes nothing, and the real cause is named', async () => {
  const before = await contents(withDatabase(admin, other))
  await writeFile(join(folder, 'no.dump'), 'this is no backup')
  await expect(keg(['restore', 'no.dump'], other)).rejects.toMatchObject({
    stderr: expect.stringMatching(
      /does not appear to be a valid archive[\s\S]*nothing was changed/,
    ) as string,
  })
  expect(await contents(withDatabase(admin, other))).toEqual(before)
  await expect(keg(['restore', '/nowhere/keg.dump'])).rejects.toMatchObject({
    stderr: expect.stringContaining('What to do') as string,
  })
  await expect(keg(['backup'])).rejects.toMatchObject({
    stderr: expect.stringContaining('backup needs a file') as string,
  })
  await expect(keg(['backup', '--every', 'often', '.'])).rejects.toMatchObject({
    stderr: expect.stringContaining('no time between backups') as string,
  })
  await expect(keg(['brew'])).rejects.toMatchObject({
    stderr: expect.stringContaining("no command 'brew'") as string,
  })
})
