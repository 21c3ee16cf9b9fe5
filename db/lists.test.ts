import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, note, NOW } from '../testing/a-shop'
import {
  addPerson,
  bookArrival,
  bookedFor,
  booksBeside,
  changePassword,
  changePerson,
  changePreferences,
  changeShop,
  changeSystem,
  closeDatabase,
  customerNamed,
  customers,
  cylinderGains,
  cylindersFor,
  findCylinders,
  findSession,
  hashOf,
  inShop,
  jobPage,
  jobsFinished,
  jobsInHand,
  jobsOn,
  movements,
  needingAttention,
  openJob,
  openSession,
  people,
  personOf,
  rack,
  readShop,
  siteNamed,
  sites,
  stock,
  systemBefore,
  systemOf,
  systems,
} from '.'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const within = <T>(work: Parameters<typeof inShop<T>>[1]) => inShop(shop.shopId, work)
const arrival = (cylinderId: string, massMg: number, at = NOW) =>
  within((tx) =>
    bookArrival(tx, {
      kind: 'purchase',
      voucherId: randomUUID(),
      cylinderId,
      massMg,
      at,
      now: at,
      userId: shop.userId,
      text: 'delivery 7',
    }),
  )

describe('the rack', () => {
  it('comes in pages, by refrigerant and label, and can be searched', async () => {
    const own = await aShop()
    const add = (label: string, refrigerant: string | null) => aCylinder(own, { label, refrigerant })
    for (const [label, gas] of [
      ['b 10%', 'R-134a'],
      ['A_2', 'R-134a'],
      ['c3', 'R-410A'],
      ['d4', null],
      ['e5', 'R-22'],
    ] as const)
      await add(label, gas)
    const page = (filter: Parameters<typeof rack>[1], n = 1, size = 10) =>
      inShop(own.shopId, (tx) => rack(tx, filter, n, size)).then(({ cylinders, count }) => [
        cylinders.map((c) => c.label),
        count,
      ])
    expect(await page({})).toEqual([['A_2', 'b 10%', 'e5', 'c3', 'd4'], 5])
    expect(await page({}, 2, 2)).toEqual([['e5', 'c3'], 5])
    expect(await page({ refrigerant: 'R-134a' })).toEqual([['A_2', 'b 10%'], 2])
    // What is typed is looked for as it is: % and _ are no wildcards.
    expect(await page({ label: '%' })).toEqual([['b 10%'], 1])
    expect(await page({ label: '_' })).toEqual([['A_2'], 1])
    expect(await page({ label: '\\' })).toEqual([[], 0])
    expect(await page({ retired: true })).toEqual([[], 0])
    expect(await inShop(own.shopId, (tx) => findCylinders(tx, 'C3'))).toMatchObject([{ label: 'c3' }])
    expect(
      (await inShop(own.shopId, (tx) => cylindersFor(tx, 'R-410A', randomUUID()))).map((c) => c.label).sort(),
    ).toEqual(['c3', 'd4'])
  })

  it('says what it holds, and what needs a look', async () => {
    const own = await aShop()
    const day = (text: string) => ({ testedOn: text, testYears: 5 })
    const labels: Record<string, Parameters<typeof aCylinder>[1]> = {
      fine: { ...day('2025-01-01') },
      overdue: { ...day('2020-01-01') },
      soon: { ...day('2021-06-20') },
      unknown: { testedOn: null },
      'one-way': { kind: 'one-way', testedOn: null },
      mixed: { ...day('2025-01-01'), condition: 'mixed' },
    }
    for (const [label, over] of Object.entries(labels)) await aCylinder(own, { label, ...over })
    const full = await aCylinder(own, { label: 'full' })
    await inShop(own.shopId, (tx) =>
      bookArrival(tx, {
        kind: 'opening',
        voucherId: randomUUID(),
        cylinderId: full,
        massMg: 17_000_000,
        at: NOW,
        now: NOW,
        userId: own.userId,
        text: '',
      }),
    )
    const found = await inShop(own.shopId, (tx) => needingAttention(tx, '2026-06-01'))
    expect(found.map((c) => c.label).sort()).toEqual(['full', 'mixed', 'overdue', 'soon', 'unknown'])
    expect(await inShop(own.shopId, stock)).toEqual([
      { refrigerant: 'R-410A', cylinders: 7, massMg: 17_000_000 },
    ])
  })
})

describe('systems, customers and sites', () => {
  it('are found by a part of any of their names', async () => {
    const own = await aShop()
    const at = NOW
    const customerId = await inShop(own.shopId, (tx) =>
      customerNamed(tx, { customerId: randomUUID(), name: 'Bakery', at }),
    )
    const again = await inShop(own.shopId, (tx) =>
      customerNamed(tx, { customerId: randomUUID(), name: 'BAKERY', at }),
    )
    expect(again).toBe(customerId)
    const site = { customerId, name: 'Mill lane', altitudeM: 640, at }
    const siteId = await inShop(own.shopId, (tx) => siteNamed(tx, { ...site, siteId: randomUUID() }))
    expect(
      await inShop(own.shopId, (tx) => siteNamed(tx, { ...site, siteId: randomUUID(), name: 'mill lane' })),
    ).toBe(siteId)
    const system = await aSystem(own, { name: 'Retarder', siteId })
    await aSystem(own, { name: 'Blast freezer' })
    const names = (search: string) =>
      inShop(own.shopId, (tx) => systems(tx, search)).then((list) => list.map((s) => s.name))
    expect(await names('')).toEqual(['Blast freezer', 'Retarder'])
    expect(await names('retard')).toEqual(['Retarder'])
    expect(await names('mill')).toEqual(['Retarder'])
    expect(await names('bakery')).toEqual(['Retarder'])
    expect(await names('%')).toEqual([])
    expect(await inShop(own.shopId, (tx) => systemOf(tx, system))).toMatchObject({
      altitudeM: 640,
      customer: 'Bakery',
    })
    expect((await inShop(own.shopId, customers)).map((c) => c.name)).toEqual(['Bakery', 'Cold quay'])
    expect((await inShop(own.shopId, sites)).map((s) => `${s.customer}/${s.name}`)).toEqual([
      'Bakery/Mill lane',
      'Cold quay/Hall 1',
    ])
  })

  it('keep lines and accessories as they were given', async () => {
    const system = await aSystem(shop)
    const before = (await within((tx) => systemOf(tx, system)))!
    const lines = [{ kind: 'liquid' as const, od: '3/8', lengthM: 12, coveredM: 5, guessed: true }]
    const accessories = [{ name: 'Drier', massMg: 340_000 }]
    await within((tx) => changeSystem(tx, system, { ...before, lines, accessories, plateMg: 4_000_000 }))
    expect(await within((tx) => systemOf(tx, system))).toEqual({
      ...before,
      version: before.version + 1,
      lines,
      accessories,
      plateMg: 4_000_000,
    })
  })
})

describe('jobs', () => {
  it('are listed by what they are at, and in pages', async () => {
    const own = await aShop()
    const system = await aSystem(own)
    const ids = [await aJob(own), await aJob(own), await aJob(own)]
    const [open, waiting, closed] = ids as [string, string, string]
    const described = (title: string, at: number) =>
      anEntry('job-described', { title, systemId: system, refrigerant: 'R-410A' }, { at })
    await note(own, open, described('open', 1_000))
    await note(
      own,
      waiting,
      described('waiting', 2_000),
      anEntry('job-waiting', { what: 'valve' }, { at: 2_001 }),
    )
    await note(own, closed, described('closed', 3_000), anEntry('job-closed', {}, { at: 3_001 }))
    const titles = (list: { title: string }[]) => list.map((j) => j.title)
    await inShop(own.shopId, async (tx) => {
      expect(titles(await jobsInHand(tx))).toEqual(['waiting', 'open'])
      expect(titles(await jobsFinished(tx, 5))).toEqual(['closed'])
      expect(titles(await jobsOn(tx, system))).toEqual(['closed', 'waiting', 'open'])
      const page = (number: number) => jobPage(tx, {}, { number, size: 2, sort: 'lastAt', down: true })
      const first = (await page(1)).jobs
      expect(titles(first)).toEqual(['closed', 'waiting'])
      expect(titles((await page(2)).jobs)).toEqual(['open'])
      expect(first[0]).toMatchObject({ system: 'Bakery retarder', site: 'Hall 1', customer: 'Cold quay' })
    })
  })

  it('have numbers without gaps, each given once', async () => {
    const own = await aShop()
    const ids = Array.from({ length: 8 }, () => randomUUID())
    const open = (id: string) => inShop(own.shopId, (tx) => openJob(tx, id, own.userId, NOW))
    const numbers = await Promise.all(ids.map(open))
    expect(numbers.toSorted((a, b) => a - b)).toEqual([1, 2, 3, 4, 5, 6, 7, 8])
    expect(await open(ids[3]!)).toBe(numbers[3])
  })
})

describe('movements', () => {
  it('are filtered, and come in pages without losing or repeating one', async () => {
    const own = await aShop()
    const [a, b] = [await aCylinder(own), await aCylinder(own, { refrigerant: 'R-22' })]
    const at = (hour: number) => new Date(Date.UTC(2026, 4, 1, hour))
    const buy = (cylinderId: string, massMg: number, when: Date) =>
      inShop(own.shopId, (tx) =>
        bookArrival(tx, {
          kind: 'purchase',
          voucherId: randomUUID(),
          cylinderId,
          massMg,
          at: when,
          now: when,
          userId: own.userId,
          text: '',
        }),
      )
    // Three at the very same time: the order in which they were booked decides.
    for (const [cylinder, mass, hour] of [
      [a, 1, 1],
      [a, 2, 2],
      [b, 3, 2],
      [a, 4, 2],
      [b, 5, 3],
    ] as const)
      await buy(cylinder, mass, at(hour))
    const masses = (filter: Parameters<typeof movements>[1]) =>
      inShop(own.shopId, (tx) => movements(tx, filter, 50)).then((list) => list.map((m) => m.massMg))
    expect(await masses({})).toEqual([5, 4, 3, 2, 1])
    expect(await masses({ cylinderId: a })).toEqual([4, 2, 1])
    expect(await masses({ refrigerant: 'R-22' })).toEqual([5, 3])
    expect(await masses({ from: at(2), to: at(3) })).toEqual([4, 3, 2])
    const seen: number[] = []
    let before: { at: Date; nr: number } | undefined
    for (let page = 0; page < 4; page++) {
      const list = await inShop(own.shopId, (tx) => movements(tx, {}, 2, before))
      seen.push(...list.map((m) => m.massMg))
      before = list.at(-1)
      if (!before) break
    }
    expect(seen).toEqual([5, 4, 3, 2, 1])
  })

  it('tell what a job has moved, and what was in a system before it', async () => {
    const [cylinder, system, job] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
    await arrival(cylinder, 9_000_000)
    const run = anEntry('run-started', {
      runId: randomUUID(),
      use: 'charge',
      cylinderId: cylinder,
      scale: '',
      mode: 'gross',
      weightMg: 21_000_000,
    })
    const runId = (run.body as { runId: string }).runId
    const described = anEntry('job-described', { systemId: system, refrigerant: 'R-410A' })
    const ended = anEntry('run-ended', { runId, weightMg: 18_000_000, hoseMg: 50_000 })
    await note(shop, job, described, run, ended)
    await within(async (tx) => {
      expect((await cylinderGains(tx, job)).get(cylinder)).toBe(-3_000_000)
      const later = new Date(ended.at + 1)
      // No job has emptied it: the books do not know the whole of what is in it.
      expect(await systemBefore(tx, system, randomUUID(), later)).toEqual({ massMg: 2_950_000, whole: false })
      expect(await booksBeside(tx, system, randomUUID())).toEqual({
        others: [{ at: ended.at, changeMg: 2_950_000 }],
        lost: [],
      })
      expect(await booksBeside(tx, system, job)).toEqual({ others: [], lost: [] })
      expect((await bookedFor(tx, job)).map((b) => [b.key, b.massMg])).toEqual([
        [`run:${runId}`, 2_950_000],
        [`hose:${runId}`, 50_000],
      ])
    })
  })
})

describe('people and shop', () => {
  it('a new password ends the other sessions, and a changed person may end all', async () => {
    const kept = await openSession(shop.shopId, shop.userId)
    const other = await openSession(shop.shopId, shop.userId)
    await within((tx) => changePassword(tx, shop.userId, 'new hash', hashOf(kept)))
    expect(await findSession(kept)).toBeDefined()
    expect(await findSession(other)).toBeUndefined()

    const userId = randomUUID()
    const signIn = `pat-${userId}`
    await within((tx) =>
      addPerson(tx, {
        userId,
        signIn,
        name: 'Pat',
        role: 'technician',
        passwordHash: 'x',
        preferences: {},
        at: NOW,
      }),
    )
    const theirs = await openSession(shop.shopId, userId)
    expect((await findSession(theirs))?.person.name).toBe('Pat')
    await within((tx) => changePerson(tx, userId, { disabledAt: NOW }))
    expect(await findSession(theirs)).toBeUndefined()
    await within((tx) => changePerson(tx, userId, { disabledAt: null, role: 'manager' }))
    expect(await within((tx) => personOf(tx, userId))).toMatchObject({ disabled: false, role: 'manager' })
    expect((await within(people)).map((p) => p.name)).toContain('Pat')
  })

  it('preferences are added to, not replaced', async () => {
    await within((tx) => changePreferences(tx, shop.userId, { theme: 'dark' }))
    await within((tx) => changePreferences(tx, shop.userId, { units: { weight: 'kg' } }))
    expect((await within((tx) => personOf(tx, shop.userId)))?.preferences).toMatchObject({
      theme: 'dark',
      units: { weight: 'kg' },
    })
  })

  it('the shop can be changed', async () => {
    const own = await aShop()
    const change = {
      name: 'New',
      heading: 'New heading',
      timeZone: 'Europe/Oslo',
      fillMarginPct: 5,
      sampleDays: 60,
    }
    await inShop(own.shopId, (tx) => changeShop(tx, change))
    expect(await inShop(own.shopId, readShop)).toEqual({ shopId: own.shopId, version: 2, ...change })
  })
})
