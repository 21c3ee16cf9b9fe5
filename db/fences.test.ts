import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, note } from '../testing/a-shop'
import { askDirectory } from './connection'
import * as db from '.'

let mine: AShop
let theirs: AShop
let their: { cylinder: string; system: string; job: string }

beforeAll(async () => {
  ;[mine, theirs] = await Promise.all([aShop(), aShop()])
  const [cylinder, system, job] = await Promise.all([aCylinder(theirs), aSystem(theirs), aJob(theirs)])
  their = { cylinder, system, job }
  await note(
    theirs,
    job,
    anEntry('job-described', { systemId: system, refrigerant: 'R-410A' }),
    anEntry('cylinder-chosen', { cylinderId: cylinder, use: 'recover', massMg: 1_000_000 }),
  )
  await db.inShop(theirs.shopId, (tx) =>
    db.addApiToken(tx, db.freshToken(), {
      tokenId: randomUUID(),
      name: 'theirs',
      scopes: ['calc'],
      madeBy: theirs.userId,
      at: new Date(),
    }),
  )
  await db.inShop(theirs.shopId, (tx) =>
    db.bookArrival(tx, {
      kind: 'purchase',
      voucherId: randomUUID(),
      cylinderId: cylinder,
      massMg: 5_000_000,
      at: new Date(),
      now: new Date(),
      userId: theirs.userId,
      text: '',
    }),
  )
})
afterAll(db.closeDatabase)

const asMine = <T>(work: (tx: db.ShopTx) => Promise<T>) => db.inShop(mine.shopId, work)

describe('another shop', () => {
  it('sees nothing through any query module, also on a connection that the other shop just used', async () => {
    for (let turn = 0; turn < 12; turn++) {
      await db.inShop(theirs.shopId, (tx) => db.rack(tx, {}, 1, 10))
      const seen = await asMine(async (tx) => [
        (await db.rack(tx, {}, 1, 10)).cylinders,
        await db.stock(tx),
        await db.cylindersFor(tx, 'R-410A', their.job),
        await db.findCylinders(tx, 'C-'),
        await db.cylindersOf(tx, [their.cylinder]),
        await db.systems(tx, ''),
        (await db.jobPage(tx, {}, { number: 1, size: 10, sort: 'lastAt', down: true })).jobs,
        (await db.systemPage(tx, '', { number: 1, size: 10, sort: 'name', down: false })).systems,
        (await db.kitList(tx, {}, { number: 1, size: 10, sort: 'label', down: false })).kit,
        await db.kitPlaces(tx),
        await db.scalesInUse(tx),
        await db.doubtsOfJob(tx, their.job),
        await db.jobsInHand(tx),
        await db.findJobs(tx, '', 10),
        await db.cylindersThatMayTake(tx, 'R-410A'),
        await db.apiTokens(tx),
        await db.jobsOn(tx, their.system),
        await db.jobsWaitingFor(tx, their.cylinder),
        await db.movements(tx, {}, 10),
        await db.bookedFor(tx, their.job),
        await db.tapeOf(tx, their.job),
        (await db.sites(tx)).filter((s) => s.siteId === theirs.siteId),
        (await db.customers(tx)).filter((c) => c.customerId === theirs.customerId),
        (await db.people(tx)).filter((p) => p.userId === theirs.userId),
      ])
      expect(seen.map((rows) => rows.length)).toEqual(seen.map(() => 0))
      const none = await asMine(async (tx) => [
        await db.cylinderOf(tx, their.cylinder),
        await db.systemOf(tx, their.system),
        await db.jobHead(tx, their.job),
        await db.personOf(tx, theirs.userId),
        await db.passwordHashOf(tx, theirs.userId),
      ])
      expect(none).toEqual(none.map(() => undefined))
    }
  })

  it('changes nothing, and cannot write into it', async () => {
    const before = await db.inShop(theirs.shopId, async (tx) => ({
      cylinder: await db.cylinderOf(tx, their.cylinder),
      person: await db.personOf(tx, theirs.userId),
    }))
    await asMine(async (tx) => {
      await tx`update cylinder set label = 'stolen'`
      await tx`update app_user set role = 'trainee' where user_id = ${theirs.userId}`
      await db.changePassword(tx, theirs.userId, 'x', null)
      await db.changePreferences(tx, theirs.userId, { a: 1 })
    })
    const after = await db.inShop(theirs.shopId, async (tx) => ({
      cylinder: await db.cylinderOf(tx, their.cylinder),
      person: await db.personOf(tx, theirs.userId),
    }))
    expect(after).toEqual(before)
    await expect(
      asMine(
        (tx) => tx`insert into customer (shop_id, customer_id, name, created_at)
          values (${theirs.shopId}, ${randomUUID()}, 'x', now())`,
      ),
    ).rejects.toThrow(/row-level security/)
    await expect(
      asMine((tx) =>
        db.bookReweigh(tx, {
          voucherId: randomUUID(),
          cylinderId: their.cylinder,
          grossMg: 1,
          at: new Date(),
          now: new Date(),
          userId: mine.userId,
          text: '',
        }),
      ),
    ).rejects.toThrow(/no such cylinder/i)
  })

  it('sees nothing at all where no shop is set', async () => {
    for (const table of [
      'shop',
      'app_user',
      'person',
      'cylinder',
      'system',
      'job',
      'entry',
      'movement',
      'voucher',
      'kit',
      'kit_act',
      'kit_done',
      'kit_use',
    ])
      expect(await askDirectory((sql) => sql.unsafe(`select * from ${table}`)), table).toHaveLength(0)
    for (const table of ['directory', 'session', 'rate_count'])
      await expect(
        askDirectory((sql) => sql.unsafe(`select * from ${table}`)),
        table,
      ).rejects.toThrow(/permission denied/)
  })
})

describe('append-only', () => {
  it.each(['entry', 'movement', 'voucher', 'kit_act'])('%s refuses change and removal', async (table) => {
    for (const statement of [
      `update ${table} set shop_id = shop_id`,
      `delete from ${table}`,
      `truncate ${table}`,
    ])
      await expect(
        db.inShop(theirs.shopId, (tx) => tx.unsafe(statement)),
        statement,
      ).rejects.toThrow(/permission denied|append-only/)
  })

  it('refuses the owner of the tables too', async () => {
    const { default: postgres } = await import('postgres')
    const owner = postgres(process.env.KEG_OWNER_DATABASE_URL!, { max: 1 })
    try {
      for (const statement of [
        'update movement set mass_mg = 1',
        'delete from movement',
        'truncate movement cascade',
      ])
        await expect(
          owner.begin(async (tx) => {
            await tx`select set_config('keg.shop_id', ${theirs.shopId}, true)`
            await tx.unsafe(statement)
          }),
          statement,
        ).rejects.toThrow(/append-only/)
    } finally {
      await owner.end()
    }
  })
})

describe('inShop', () => {
  it('does not nest', async () => {
    await expect(asMine(() => asMine(async () => 1))).rejects.toThrow(/nested/)
  })
})

describe('sign-in', () => {
  it('opens, finds and closes a session; a disabled person has none', async () => {
    const token = await db.openSession(mine.shopId, mine.userId)
    expect((await db.findSession(token))?.person.userId).toBe(mine.userId)
    expect(await db.findSession('something else')).toBeUndefined()
    await db.closeSession(token)
    expect(await db.findSession(token)).toBeUndefined()
  })

  it('never leaves a shop without a manager', async () => {
    expect(await asMine((tx) => db.changePerson(tx, mine.userId, { disabledAt: new Date() }))).toBe(false)
    expect(await asMine((tx) => db.changePerson(tx, mine.userId, { role: 'trainee' }))).toBe(false)
    expect(await asMine((tx) => db.personOf(tx, mine.userId))).toMatchObject({
      role: 'manager',
      disabled: false,
    })
  })

  it('gives a sign-in name once in all shops', async () => {
    const person = (signIn: string) => ({
      userId: randomUUID(),
      signIn,
      name: 'x',
      role: 'trainee' as const,
      passwordHash: 'x',
      preferences: {},
      at: new Date(),
    })
    const name = `sam-${randomUUID()}`
    expect(await asMine((tx) => db.addPerson(tx, person(name)))).toBe(true)
    expect(await db.inShop(theirs.shopId, (tx) => db.addPerson(tx, person(name.toUpperCase())))).toBe(false)
    expect((await db.findSignIn(name.toUpperCase()))?.shopId).toBe(mine.shopId)
  })

  it('counts tries', async () => {
    const bucket = randomUUID()
    const waits = []
    for (let i = 0; i < 4; i++) waits.push(await db.takeRate(bucket, 3, 3600))
    expect(waits.slice(0, 3)).toEqual([0, 0, 0])
    expect(waits[3]).toBeGreaterThan(0)
  })
})

describe('onChange', () => {
  it('tells of changes in its own shop only', async () => {
    const heard: db.Change[] = []
    const stop = await db.onChange(mine.shopId, (change) => heard.push(change))
    const job = await aJob(mine)
    await note(theirs, their.job, anEntry('note', { text: 'not for you' }))
    await note(mine, job, anEntry('note', { text: 'for you' }))
    for (let i = 0; i < 40 && !heard.some((c) => c.id === job); i++)
      await new Promise((r) => setTimeout(r, 50))
    stop()
    expect(heard.filter((c) => c.kind !== 'refetch')).toEqual([{ kind: 'job', id: job }])
  })
})
