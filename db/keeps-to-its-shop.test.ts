// A shop could live on any machine: every table, key and reference keeps to one shop, and so does every query, since the
// database adds the shop to each of them. The directory, which says where a name belongs, is the exception.
import { randomUUID } from 'node:crypto'
import postgres from 'postgres'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { aCylinder, aJob, anEntry, aShop, aSystem, note } from '../testing/a-shop'
import * as db from '.'

/** Every statement that was asked, with what it was asked with last. */
const asked = vi.hoisted(() => new Map<string, unknown[]>())
vi.mock('postgres', async (original) => {
  const { default: real } = (await original()) as { default: (url: string, options: object) => unknown }
  const debug = (_connection: number, text: string, values: unknown[]) => void asked.set(text, values)
  return { default: Object.assign((url: string, options: object) => real(url, { ...options, debug }), real) }
})

/** Asked before anybody knows which shop: small, and on one machine for all. */
const DIRECTORY = [
  'device_directory',
  'directory',
  'first_run',
  'known_browser',
  'pairing_directory',
  'rate_count',
  'schema_version',
  'session',
  'token_directory',
]
const admin = postgres(process.env.KEG_ADMIN_DATABASE_URL!, { max: 1, onnotice: () => {} })
afterAll(async () => {
  await admin.end()
  await db.closeDatabase()
})

const tables = async () =>
  (
    await admin<
      { name: string; secured: boolean; forced: boolean; policy: string | null; check: string | null }[]
    >`
      select c.relname as name, c.relrowsecurity as secured, c.relforcerowsecurity as forced,
        pg_get_expr(p.polqual, p.polrelid) as policy, pg_get_expr(p.polwithcheck, p.polrelid) as check
      from pg_class c left join pg_policy p on p.polrelid = c.oid
      where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p')
        -- Parts of a table that is divided by days are asked through it.
        and not c.relispartition
      order by 1`
  ).filter(({ name }) => !DIRECTORY.includes(name))

describe('every table', () => {
  it('but those of the directory belongs to shops, and shows and takes the rows of one only', async () => {
    const all = await tables()
    expect(all.length).toBeGreaterThan(25)
    for (const { name, secured, forced, policy, check } of all) {
      const own = /^\(shop_id = \( SELECT current_shop\(\) AS current_shop\)\)$/
      expect({ name, secured, forced }).toEqual({ name, secured: true, forced: true })
      expect(policy, name).toMatch(own)
      expect(check, name).toMatch(own)
    }
  })
  it('has keys that begin with the shop: they are kept and looked up where the shop is', async () => {
    const keys = await admin<{ table: string; key: string; first: string }[]>`
      select c.relname as table, i.relname as key, a.attname as first
      from pg_index x join pg_class c on c.oid = x.indrelid join pg_class i on i.oid = x.indexrelid
        join pg_attribute a on a.attrelid = c.oid and a.attnum = x.indkey[0]
      where c.relnamespace = 'public'::regnamespace and x.indisunique and not c.relispartition`
    const wrong = keys.filter(({ table, first }) => !DIRECTORY.includes(table) && first !== 'shop_id')
    expect(wrong).toEqual([])
  })
  it('refers to rows of the same shop only', async () => {
    const references = await admin<{ table: string; name: string; from: string[]; to: string[] }[]>`
      select c.relname as table, f.conname as name,
        array(select a.attname::text from unnest(f.conkey) with ordinality k(n, i) join pg_attribute a on a.attrelid = f.conrelid and a.attnum = k.n order by i) as "from",
        array(select a.attname::text from unnest(f.confkey) with ordinality k(n, i) join pg_attribute a on a.attrelid = f.confrelid and a.attnum = k.n order by i) as "to"
      from pg_constraint f join pg_class c on c.oid = f.conrelid
      where f.contype = 'f' and c.relnamespace = 'public'::regnamespace and not c.relispartition`
    expect(references.length).toBeGreaterThan(20)
    const wrong = references.filter(
      ({ table, from, to }) =>
        !DIRECTORY.includes(table) &&
        (from.indexOf('shop_id') === -1 || from.indexOf('shop_id') !== to.indexOf('shop_id')),
    )
    expect(wrong).toEqual([])
  })
})

/** Each place of a plan that reads a table, with what binds it. */
function readsIn(node: Record<string, unknown>): { table: string; bound: string }[] {
  const below = (node.Plans ?? []) as Record<string, unknown>[]
  const binds = (each: Record<string, unknown>) =>
    ['Index Cond', 'Recheck Cond', 'Filter'].map((name) => String(each[name] ?? '')).join(' ')
  // A bitmap is made by the place below the one that reads.
  const bound = [node, ...below].map(binds).join(' ')
  const reads = node['Relation Name'] && String(node['Node Type']).endsWith('Scan')
  const own = reads ? [{ table: String(node['Relation Name']), bound }] : []
  return [...own, ...below.flatMap(readsIn)]
}

describe('every query', () => {
  it('of a job from its first note to its books, and of the lists, is bound to its shop wherever it reads a table', async () => {
    const shop = await aShop()
    asked.clear()
    const [cylinderId, systemId, jobId] = [await aCylinder(shop), await aSystem(shop), await aJob(shop)]
    const runId = randomUUID()
    await note(
      shop,
      jobId,
      anEntry('job-described', { systemId, refrigerant: 'R-410A' }),
      anEntry('run-started', { runId, use: 'recover', cylinderId, scale: '', mode: 'gross', weightMg: 12e6 }),
      anEntry('weight-noted', { runId, weightMg: 13e6 }),
      anEntry('run-ended', { runId, weightMg: 14e6, hoseMg: 0 }),
    )
    await db.inShop(shop.shopId, async (tx) => {
      await db.stock(tx)
      await db.allCylinders(tx)
      await db.cylindersFor(tx, 'R-410A', jobId)
      await db.cylindersAtHand(tx, shop.userId, 8)
      await db.needingAttention(tx, '2026-06-01')
      await db.findCylinders(tx, 'a', jobId)
      await db.jobsInHand(tx)
      await db.jobsFinished(tx, 20)
      await db.findJobs(tx, 'a', 5)
      await db.jobsWithClocks(tx)
      await db.jobsOn(tx, systemId)
      await db.systems(tx, 'a')
      await db.systemPasts(tx)
      await db.allKit(tx)
      await db.dueKit(tx, '2026-06-01', 0.8, 20)
      await db.kitThatSpeaks(tx)
      await db.devices(tx)
      await db.apiTokens(tx)
      await db.sites(tx)
      await db.customers(tx)
      await db.tapeOf(tx, jobId)
    })
    const statements = [...asked].filter(([text]) => /^\s*(select|with|update|delete|insert)/i.test(text))
    expect(statements.length).toBeGreaterThan(40)
    const read = new Set<string>()
    await db.inShop(shop.shopId, async (tx) => {
      for (const [text, values] of statements) {
        const [row] = (await tx.unsafe(
          `explain (format json) ${text}`,
          values as never[],
        )) as unknown as object[]
        const [{ Plan }] = Object.values(row!)[0] as [{ Plan: Record<string, unknown> }]
        for (const { table, bound } of readsIn(Plan)) {
          if (DIRECTORY.includes(table) || table.startsWith('pg_')) continue
          read.add(table)
          expect(bound, `${table} in ${text.slice(0, 300)}`).toMatch(/shop_id/)
        }
      }
    })
    expect(read.size).toBeGreaterThan(15)
  })
})
