import { projectDue, projectFailed, projectPassed } from '../kit/acts'
import type { ShopTx } from '../connection'
import { lock } from '../locks'
import { ARCHIVE_PARTS } from './parts'

export interface ArchivedPerson {
  user_id: string
  sign_in: string
  role: string
  display_name: string
  created_at: string
}

export interface ArchivedShop {
  name: string
  heading: string
  time_zone: string
  fill_margin_pct: number
  sample_days: number
  next_job_number: number
}

const AT_ONCE = 1_000

/** Shop and people, as an archive begins. Passwords, sessions and the keys of devices are in none. */
export async function archiveHead(tx: ShopTx): Promise<{ shop: ArchivedShop; people: ArchivedPerson[] }> {
  const [shop] = await tx<{ row: ArchivedShop }[]>`
    select jsonb_build_object('name', name, 'heading', heading, 'time_zone', time_zone, 'fill_margin_pct',
      fill_margin_pct, 'sample_days', sample_days, 'next_job_number', next_job_number) as row from shop where shop_id = current_shop()`
  const people = await tx<{ row: ArchivedPerson }[]>`
    select jsonb_build_object('user_id', u.user_id, 'sign_in', u.sign_in, 'role', u.role, 'display_name',
      p.display_name, 'created_at', u.created_at) as row
    from app_user u join person p using (shop_id, user_id) order by u.created_at, u.user_id`
  return { shop: shop!.row, people: people.map(({ row }) => row) }
}

/** Every row of every part, part by part, all of one moment: it is one query. Rows are JSON already. */
export async function* archiveRows(tx: ShopTx): AsyncGenerator<{ part: string; rows: string[] }> {
  const parts = ARCHIVE_PARTS.map(
    ({ table, columns, order }, i) => `
      select ${i} as part, row_number() over (order by ${order}) as n,
        jsonb_build_object(${columns.map((column) => `'${column}', ${column}`).join(', ')})::text as row
      from "${table}" where shop_id = current_shop()`,
  )
  const query = `select part, row from (${parts.join(' union all ')}) all_of_it order by part, n`
  for await (const rows of tx.unsafe<{ part: number; row: string }[]>(query).cursor(AT_ONCE)) {
    for (const [i, { name }] of ARCHIVE_PARTS.entries()) {
      const own = rows.filter((each) => each.part === i)
      if (own.length > 0) yield { part: name, rows: own.map(({ row }) => row) }
    }
  }
}

/** Whether nothing has been written in a shop yet, but for its people. */
export async function shopIsEmpty(tx: ShopTx): Promise<boolean> {
  const [row] = await tx<{ empty: boolean }[]>`
    select not (exists (select 1 from customer where shop_id = current_shop())
      or exists (select 1 from cylinder where shop_id = current_shop())
      or exists (select 1 from kit where shop_id = current_shop())
      or exists (select 1 from job where shop_id = current_shop())
      or exists (select 1 from voucher where shop_id = current_shop())) as empty`
  return row!.empty
}

export const NOT_EMPTY = 'There is something in this shop already: an archive goes into an empty one only.'

/** A row of an archive does not fit; the text says which. */
export class ArchiveError extends Error {
  override name = 'ArchiveError'
}

/**
 * Brings an archive into the shop of this transaction, which must be empty. People come disabled and cannot sign in: what
 * they wrote keeps their names. Jobs are to be folded afterwards.
 * @throws ArchiveError
 */
export async function bringBack(
  tx: ShopTx,
  archive: { shop: ArchivedShop; people: ArchivedPerson[]; parts: Record<string, object[]> },
  at: Date,
): Promise<void> {
  await lock(tx, { shop: true })
  if (!(await shopIsEmpty(tx))) throw new ArchiveError(NOT_EMPTY)
  const { shop, people, parts } = archive
  await fitting(
    'shop',
    () => tx`
    update shop set name = ${shop.name}, heading = ${shop.heading}, time_zone = ${shop.time_zone},
      fill_margin_pct = ${shop.fill_margin_pct}, sample_days = ${shop.sample_days}, next_job_number = ${shop.next_job_number}
    where shop_id = current_shop()`,
  )
  await fitting('people', async () => {
    await tx`
      insert into app_user (shop_id, user_id, sign_in, role, password_hash, disabled_at, created_at)
      select current_shop(), r.user_id, left('archived ' || r.sign_in, 200), r.role, '!', ${at}, r.created_at
      from jsonb_to_recordset(${tx.json(people as never)}) as r(user_id uuid, sign_in text, role text, created_at timestamptz)
      where not exists (select 1 from app_user u where u.shop_id = current_shop() and u.user_id = r.user_id)`
    await tx`
      insert into person (shop_id, user_id, display_name)
      select current_shop(), r.user_id, r.display_name
      from jsonb_to_recordset(${tx.json(people as never)}) as r(user_id uuid, display_name text)
      on conflict do nothing`
  })
  for (const { name, table, columns } of ARCHIVE_PARTS) {
    const rows = parts[name] ?? []
    const list = columns.join(', ')
    for (let from = 0; from < rows.length; from += AT_ONCE)
      await fitting(`${name}, rows ${from + 1} to ${Math.min(rows.length, from + AT_ONCE)}`, () =>
        tx.unsafe(
          `insert into "${table}" (shop_id, ${list})
           select current_shop(), ${columns.map((column) => `r.${column}`).join(', ')}
           from jsonb_array_elements($1::jsonb) with ordinality as each(row, n),
             jsonb_populate_record(null::"${table}", each.row) as r order by each.n`,
          [tx.json(rows.slice(from, from + AT_ONCE) as never) as never],
        ),
      )
  }
  const kit = await tx<{ kitId: string }[]>`select kit_id from kit order by kit_id`
  await projectPassed(
    tx,
    kit.map((each) => each.kitId),
  )
  for (const { kitId } of kit) {
    await projectFailed(tx, kitId)
    await projectDue(tx, kitId)
  }
}

async function fitting(what: string, write: () => PromiseLike<unknown>) {
  try {
    await write()
  } catch (error) {
    const { code, message } = error as { code?: string; message: string }
    // Data that do not fit (22), rules that do not hold (23): the file's fault. All else is ours.
    if (code?.startsWith('22') || code?.startsWith('23'))
      throw new ArchiveError(`${what}: what stands there does not fit (${message}).`)
    throw error
  }
}
