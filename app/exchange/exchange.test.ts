// Files in and out: what a CSV would do, doing all of it or nothing, and a whole shop that comes back as it was.
import { randomUUID } from 'node:crypto'
import { afterAll, describe, expect, it } from 'vitest'
import {
  addKit,
  bringBack,
  retrofitsOf,
  closeDatabase,
  inShop,
  jobPage,
  kitList,
  type MovementRow,
  movements,
  people,
  rack,
  rebuildSummaries,
  systems as listSystems,
  tapeOf,
} from '#db'
import {
  aCylinder,
  aJob,
  anEmptyShop,
  anEntry,
  aShop,
  type AShop,
  aSystem,
  note,
  NOW,
} from '../../testing/a-shop'
import { readArchive, writeArchive } from './archive.server'
import { plain, unplain } from './plain'
import { carryOut, csvOf, plan, type Plan, signature } from './sheet.server'
import { type SheetName, SHEETS } from './sheets.server'

afterAll(closeDatabase)

const common = { now: NOW, today: '2026-06-01' }
const look = (shop: AShop, what: SheetName, text: string) =>
  inShop(shop.shopId, (tx) => plan(SHEETS[what], text, { tx, userId: shop.userId, ...common }))
const bringIn = (shop: AShop, what: SheetName, text: string, agreed: string) =>
  inShop(shop.shopId, (tx) => carryOut(SHEETS[what], text, agreed, { tx, userId: shop.userId, ...common }))
const out = (shop: AShop, what: SheetName) =>
  inShop(shop.shopId, async (tx) =>
    csvOf(
      SHEETS[what],
      (await SHEETS[what].known(tx)).map(({ fields }) => fields),
    ),
  )
const outcomes = ({ lines }: Plan) => lines.map(({ line, what }) => `${line} ${what}`)

const HEAD = SHEETS.cylinders.columns.map(({ name }) => name).join(',')
const cylinder = (over: Record<string, string> = {}) => {
  const values: Record<string, string> = {
    label: 'Gull 7',
    kind: 'recovery',
    refrigerant: 'R-410A',
    condition: 'clean',
    tare: '11.9 kg',
    waterCapacity: '21.6 kg',
    servicePressure: '400 psi',
    testedOn: '2025-03-01',
    testYears: '10',
    contents: '3.2 kg',
    ...over,
  }
  return SHEETS.cylinders.columns
    .map(({ name }) => `"${(values[name] ?? '').replaceAll('"', '""')}"`)
    .join(',')
}

describe('a file of cylinders', () => {
  it('says of every line what it would do, and why not', async () => {
    const shop = await aShop()
    await aCylinder(shop, { label: 'Known 1', refrigerant: 'R-410A', keepsAt: 'Rack A' })
    const file = [
      HEAD,
      cylinder(),
      cylinder({ label: 'Gull 8', tare: '11.9' }),
      cylinder({ label: 'Gull 9', refrigerant: 'R-999' }),
      cylinder({ label: '' }),
      cylinder({ label: 'gull 7' }),
      cylinder({ label: 'Gull 10', owner: 'Nobody' }),
      cylinder({ label: 'Gull 11', testedOn: '2031-01-01' }),
      cylinder({ label: 'Gull 12', tare: '1,200 kg' }),
    ].join('\n')
    const planned = await look(shop, 'cylinders', file)
    expect(outcomes(planned)).toEqual([
      '2 add',
      '3 refuse',
      '4 refuse',
      '5 refuse',
      '6 refuse',
      '7 refuse',
      '8 refuse',
      '9 refuse',
    ])
    expect(planned.lines.slice(1).map(({ reasons }) => reasons.join(' '))).toEqual([
      'tare: “11.9” has no unit: write it like 11.9 kg.',
      'refrigerant: Choose a refrigerant from the list.',
      expect.stringContaining('label: Enter a label'),
      'line: The same as line 2: once is enough.',
      'owner: There is no customer “Nobody”: bring in the customers first.',
      'testedOn: That day has not been yet: enter when it was tested last.',
      expect.stringContaining('1,200'),
    ])
    // Only looked at: nothing is there.
    expect((await inShop(shop.shopId, (tx) => rack(tx, {}, 1, 10))).count).toBe(1)
  })

  it('brings in what was agreed to, once, with what is in them; the rest stays out', async () => {
    const shop = await aShop()
    const file = [HEAD, cylinder(), cylinder({ label: 'Gull 8', kind: 'barrel' })].join('\r\n')
    const agreed = signature(await look(shop, 'cylinders', file))
    expect((await bringIn(shop, 'cylinders', file, agreed)).done).toBe(true)
    const { cylinders } = await inShop(shop.shopId, (tx) => rack(tx, {}, 1, 10))
    expect(cylinders).toMatchObject([
      // 400 psi is 27.58 bar, and one atmosphere.
      { label: 'Gull 7', tareMg: 11_900_000, balanceMg: 3_200_000, waterCapacityMg: 21_600_000 },
    ])
    expect(cylinders[0]!.servicePressurePa).toBeCloseTo(400 * 6894.757 + 101_325, -3)
    // Sent once more: it would do something else now, and so it does nothing.
    const again = await bringIn(shop, 'cylinders', file, agreed)
    expect(again.done).toBe(false)
    expect(outcomes(again.plan)).toEqual(['2 same', '3 refuse'])
    expect((await inShop(shop.shopId, (tx) => movements(tx, {}, 10))).length).toBe(1)
  })

  it('changes what is known, and says what; but not against the books or others’ marks', async () => {
    const shop = await aShop()
    const first = [HEAD, cylinder(), cylinder({ label: 'Gull 8', condition: 'mixed' })].join('\n')
    await bringIn(shop, 'cylinders', first, signature(await look(shop, 'cylinders', first)))
    const file = [
      HEAD,
      cylinder({ tare: '12 kg', keepsAt: 'Van 1' }),
      cylinder({ label: 'Gull 8', condition: 'clean' }),
    ].join('\n')
    const planned = await look(shop, 'cylinders', file)
    expect(planned.lines[0]!.reasons).toEqual(['tare: 11.900 kg → 12.000 kg', 'keepsAt: nothing → Van 1'])
    expect(planned.lines[1]).toMatchObject({ what: 'refuse' })
    const refused = await look(shop, 'cylinders', [HEAD, cylinder({ refrigerant: 'R-22' })].join('\n'))
    expect(refused.lines[0]!.reasons.join()).toContain('It has held R-410A')
  })

  it('refuses as a whole what is no such file', async () => {
    const shop = await aShop()
    expect((await look(shop, 'cylinders', 'label,kind\nA,recovery')).wrong).toContain(
      'columns are missing: refrigerant',
    )
    expect((await look(shop, 'cylinders', HEAD)).wrong).toContain('no line in it')
    const long = [HEAD, ...Array.from({ length: 5_001 }, (_, i) => cylinder({ label: `L ${i}` }))].join('\n')
    expect((await look(shop, 'cylinders', long)).wrong).toContain('more than 5000 lines')
  })

  it('takes 500 lines with 7 bad ones', async () => {
    const shop = await aShop()
    const lines = Array.from({ length: 500 }, (_, i) =>
      cylinder({ label: `Row ${i}`, ...(i % 70 === 3 && i < 490 ? { tare: 'heavy' } : {}) }),
    )
    const file = [HEAD, ...lines].join('\n')
    const planned = await look(shop, 'cylinders', file)
    expect(planned.counts).toEqual({ add: 493, change: 0, same: 0, refuse: 7 })
    expect((await bringIn(shop, 'cylinders', file, signature(planned))).done).toBe(true)
    expect((await inShop(shop.shopId, (tx) => rack(tx, {}, 1, 10))).count).toBe(493)
  })
})

/** What the example of each template is called. */
const NAMES: Record<SheetName, string> = {
  customers: 'Old Mole Bakery, Mole street',
  cylinders: 'Gull 7',
  systems: 'Retarder',
  kit: 'Scale 4',
}

describe('every list', () => {
  it('comes out so that bringing it in again changes nothing', async () => {
    const shop = await aShop()
    await aCylinder(shop, { label: '=SUM(A1)', keepsAt: '-10' })
    await aSystem(shop, {
      name: 'Retarder "east"',
      lines: [{ kind: 'liquid', od: '3/8', lengthM: 12, coveredM: 5, guessed: true }],
      accessories: [{ name: 'Drier, large', massMg: 340_000 }],
    })
    await inShop(shop.shopId, (tx) =>
      addKit(
        tx,
        randomUUID(),
        {
          kind: 'machine',
          label: 'Machine 1',
          keepsAt: 'Van 1',
          state: 'in-use',
          facts: { flammableOk: true, holdUpMg: 120_000, shutDown: 'Inlet shut\nSwitch off' },
        },
        NOW,
      ),
    )
    for (const what of Object.keys(SHEETS) as SheetName[]) {
      const text = await out(shop, what)
      const planned = await look(shop, what, text)
      expect([what, planned.wrong, outcomes(planned), planned.lines.flatMap((l) => l.reasons)]).toEqual([
        what,
        undefined,
        ['2 same'],
        [],
      ])
    }
  })
  it('reads the line of its own template', async () => {
    const shop = await aShop()
    for (const what of Object.keys(SHEETS) as SheetName[]) {
      const { columns } = SHEETS[what]
      const template = csvOf(SHEETS[what], [Object.fromEntries(columns.map((c) => [c.name, c.example]))])
      const planned = await look(shop, what, template)
      expect([what, outcomes(planned), planned.lines[0]!.reasons]).toEqual([what, ['2 add'], []])
      expect(planned.lines[0]!.name).toBe(NAMES[what])
      expect((await bringIn(shop, what, template, signature(planned))).done).toBe(true)
    }
  })
  it('is harmless in a spreadsheet, and the same when it comes back', () => {
    for (const text of ['=1+1', '-10', '+4', '@x', "it's", "'quoted'", ' =1', ''])
      expect(unplain(plain(text))).toBe(text)
    expect(plain('=1+1')).toBe("'=1+1")
  })
})

describe('the archive of a shop', () => {
  async function aWorkedShop() {
    const shop = await aShop()
    const cylinderId = await aCylinder(shop, { label: 'Gull 1', refrigerant: 'R-410A' })
    const systemId = await aSystem(shop)
    const scale = {
      kitId: randomUUID(),
      kind: 'scale',
      label: 'Scale 1',
      facts: { divisionMg: 2_000 },
    } as const
    await inShop(shop.shopId, (tx) =>
      addKit(tx, scale.kitId, { ...scale, keepsAt: 'Van 1', state: 'in-use' }, NOW),
    )
    const jobId = await aJob(shop)
    const runId = randomUUID()
    await note(
      shop,
      jobId,
      anEntry('job-described', { title: 'Noisy', systemId, refrigerant: 'R-410A' }),
      anEntry('kit-used', scale),
      anEntry('run-started', {
        runId,
        use: 'recover',
        cylinderId,
        scale: 'Scale 1',
        scaleId: scale.kitId,
        mode: 'gross',
        weightMg: 12_000_000,
      }),
      anEntry('run-ended', { runId, weightMg: 14_345_000 }),
      anEntry('recovery-ended', { how: 'emptied' }),
      anEntry('gas-changed', { to: 'R-32', oilType: '', reason: '' }),
      anEntry('drive-noted', { drive: 'stationary' }),
    )
    return { shop, jobId, cylinderId }
  }
  const archiveOf = async (shop: AShop) =>
    Buffer.concat(await inShop(shop.shopId, (tx) => writeArchive(tx, NOW))).toString()
  const figures = (shop: AShop) =>
    inShop(shop.shopId, async (tx) => ({
      cylinders: (await rack(tx, {}, 1, 10)).cylinders.map((c) => [
        c.label,
        c.balanceMg,
        c.condition,
        c.reservedMg,
      ]),
      systems: (await listSystems(tx, '')).map((s) => [
        s.name,
        s.balanceMg,
        s.customer,
        s.site,
        s.refrigerant,
        s.drive,
      ]),
      retrofits: await Promise.all((await listSystems(tx, '')).map((s) => retrofitsOf(tx, s.systemId))),
      kit: (await kitList(tx, {}, { number: 1, size: 9, sort: 'label', down: false })).kit.map((k) => [
        k.label,
        k.dueOn,
        k.facts,
      ]),
      jobs: (await jobPage(tx, {}, { number: 1, size: 9, sort: 'number', down: false })).jobs.map((j) => [
        j.number,
        j.title,
        j.recoveredMg,
        j.next,
      ]),
      movements: (await movements(tx, {}, 99)).map((m: MovementRow) => [m.booking, m.massMg, m.at, m.by]),
    }))

  it('goes into an empty one, balances identical, and no second time', async () => {
    const { shop, jobId } = await aWorkedShop()
    const text = await archiveOf(shop)
    const read = readArchive(text)
    if ('wrong' in read) throw new Error(read.wrong)
    const other = await anEmptyShop()
    await inShop(other.shopId, (tx) => bringBack(tx, read, NOW))
    await rebuildSummaries(other.shopId)
    expect(await figures(other)).toEqual(await figures(shop))
    expect(await inShop(other.shopId, (tx) => tapeOf(tx, jobId))).toEqual(
      await inShop(shop.shopId, (tx) => tapeOf(tx, jobId)),
    )
    await expect(inShop(other.shopId, (tx) => bringBack(tx, read, NOW))).rejects.toThrow('empty one only')
    expect((await figures(other)).retrofits[0]).toMatchObject([{ fromGas: 'R-410A', toGas: 'R-32' }])
    // Who wrote keeps the name, and cannot sign in.
    const names = await inShop(other.shopId, people)
    expect(names.map((p) => [p.name, p.disabled]).toSorted((a, b) => Number(b[1]) - Number(a[1]))).toEqual([
      ['Robin Tester', true],
      ['Robin Tester', false],
    ])
    // And out again it is the same, but for when it was written and who is there.
    const again = JSON.parse(await archiveOf(other)) as Record<string, unknown>
    const once = JSON.parse(text) as Record<string, unknown>
    for (const part of [
      'customers',
      'sites',
      'cylinders',
      'systems',
      'kit',
      'entries',
      'movements',
      'vouchers',
    ])
      expect([part, again[part]]).toEqual([part, once[part]])
  })

  it('is refused with a reason where it is none, newer, broken or malicious; and nothing is written', async () => {
    const { shop } = await aWorkedShop()
    const text = await archiveOf(shop)
    const changed = (change: (archive: Record<string, Record<string, unknown>[]>) => void) => {
      const archive = JSON.parse(text) as Record<string, Record<string, unknown>[]>
      change(archive)
      return readArchive(JSON.stringify(archive))
    }
    expect(readArchive(text.slice(0, -40))).toMatchObject({
      wrong: expect.stringContaining('cut off') as string,
    })
    expect(readArchive('[]')).toHaveProperty('wrong')
    expect(changed((a) => Object.assign(a, { version: 2 }))).toMatchObject({
      wrong: expect.stringContaining('newer Keg') as string,
    })
    expect(changed((a) => Object.assign(a.cylinders![0]!, { refrigerant: 'R-0' }))).toHaveProperty('wrong')
    expect(changed((a) => Object.assign(a.entries![0]!, { body: { title: 7 } }))).toMatchObject({
      wrong: expect.stringContaining('row 1 of entries') as string,
    })
    const other = await anEmptyShop()
    const broken = changed((a) => Object.assign(a.movements!.at(-1)!, { mass_mg: -5 }))
    if ('wrong' in broken) throw new Error(broken.wrong)
    await expect(inShop(other.shopId, (tx) => bringBack(tx, broken, NOW))).rejects.toThrow(
      'movements, rows 1 to',
    )
    expect((await inShop(other.shopId, (tx) => rack(tx, {}, 1, 10))).count).toBe(0)
  })

  it('one from before a column was there is brought back all the same', async () => {
    const { shop } = await aWorkedShop()
    const archive = JSON.parse(await archiveOf(shop)) as Record<string, Record<string, unknown>[]>
    delete archive.retrofits
    for (const system of archive.systems!) {
      delete system.vin
      delete system.drive
    }
    const read = readArchive(JSON.stringify(archive))
    if ('wrong' in read) throw new Error(read.wrong)
    const other = await anEmptyShop()
    await inShop(other.shopId, (tx) => bringBack(tx, read, NOW))
    expect((await inShop(other.shopId, (tx) => listSystems(tx, ''))).map((s) => [s.vin, s.drive])).toEqual([
      [null, ''],
    ])
  })
})
