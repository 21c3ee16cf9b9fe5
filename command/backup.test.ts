// Backup and restore through the command itself: what comes back is the same, row for row.
import { execFile } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import postgres from 'postgres'
import { afterAll, expect, it } from 'vitest'
import { closeDatabase } from '#db'
import { aCylinder, aJob, anEntry, aShop, aSystem, note } from '../testing/a-shop'

const run = promisify(execFile)
const other = `keg_restored_${randomUUID().slice(0, 8)}`
const at = (url: string, database: string) => Object.assign(new URL(url), { pathname: `/${database}` }).href
const admin = process.env.KEG_ADMIN_DATABASE_URL!

afterAll(async () => {
  await closeDatabase()
  const sql = postgres(at(admin, 'postgres'), { max: 1 })
  await sql.unsafe(`drop database if exists "${other}"`)
  await sql.end()
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

it('a backup restored elsewhere is identical, and its fences still stand', async () => {
  const shop = await aShop()
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
  const folder = await mkdtemp(join(tmpdir(), 'keg-backup-'))
  try {
    const file = join(folder, 'keg.dump')
    await run('./keg', ['backup', file])
    // Both sides are read from dumps of one moment: other tests go on writing meanwhile.
    const addresses = (database: string) => ({
      ...process.env,
      KEG_ADMIN_DATABASE_URL: at(admin, database),
      KEG_OWNER_DATABASE_URL: at(process.env.KEG_OWNER_DATABASE_URL!, database),
      KEG_DATABASE_URL: at(process.env.KEG_DATABASE_URL!, database),
    })
    await run('./keg', ['restore', file], { env: addresses(other) })
    const first = await contents(at(admin, other))
    const again = join(folder, 'again.dump')
    await run('./keg', ['backup', again], { env: addresses(other) })
    await run('./keg', ['restore', again], { env: addresses(other) })
    expect(await contents(at(admin, other))).toEqual(first)

    const restored = postgres(at(process.env.KEG_DATABASE_URL!, other), { max: 1 })
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
  } finally {
    await rm(folder, { recursive: true })
  }
}, 120_000)

it('a file that is no backup changes nothing, and says what to do', async () => {
  await expect(run('./keg', ['restore', '/nowhere/keg.dump'])).rejects.toMatchObject({
    stderr: expect.stringContaining('What to do') as string,
  })
  await expect(run('./keg', ['backup'])).rejects.toMatchObject({
    stderr: expect.stringContaining('backup needs a file') as string,
  })
  await expect(run('./keg', ['brew'])).rejects.toMatchObject({
    stderr: expect.stringContaining("no command 'brew'") as string,
  })
})
