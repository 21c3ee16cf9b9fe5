import { randomUUID } from 'node:crypto'
import Papa from 'papaparse'
import { afterAll, expect, it } from 'vitest'
import { bookArrival, closeDatabase, inShop } from '#db'
import { fillShop } from '../../../db/bulk'
import { answered, letIn } from '../../../testing/a-request'
import { aCylinder, aShop } from '../../../testing/a-shop'
import { loader } from './csv'

afterAll(closeDatabase)

it('the ledger goes out whole, a line a movement, and no line is a formula', async () => {
  const shop = await aShop()
  const cylinderId = await aCylinder(shop, { label: 'Gull "5", rack' })
  for (const [massMg, text] of [
    [9_000_000, '=HYPERLINK("x")'],
    [453_592, 'plain, with a comma'],
    [1_000, 'fine\n@SUM(1)\r\n\t=2'],
    [2_000, ' -3'],
    [3_000, '＝1+1'],
  ] as const)
    await inShop(shop.shopId, (tx) =>
      bookArrival(tx, {
        kind: 'purchase',
        voucherId: randomUUID(),
        cylinderId,
        massMg,
        at: new Date('2026-05-01T08:00:00Z'),
        now: new Date(),
        userId: shop.userId,
        text,
      }),
    )
  const context = await letIn(shop, 'trainee')
  const csv = async (search: string) => {
    const request = new Request(`http://keg.test/ledger.csv?${search}`)
    const { body } = await answered(loader({ request, context, params: {} } as never))
    return Papa.parse<Record<string, string>>(String(body).trim(), { header: true })
  }
  const { data, errors } = await csv('')
  expect(errors).toEqual([])
  expect(data).toMatchObject([
    { mass_g: '3', remark: "'＝1+1" },
    { mass_g: '2', remark: "' -3" },
    { mass_g: '1', remark: "fine\n'@SUM(1)\n'\t=2" },
    {
      to: 'Gull "5", rack',
      mass_g: '454',
      mass_lb: '1.000',
      remark: 'plain, with a comma',
      voucher: 'Purchase',
    },
    { from: 'Supplier', mass_g: '9000', mass_lb: '19.842', remark: `'=HYPERLINK("x")`, by: 'Robin Tester' },
  ])
  expect(data.at(-1)!.time).toBe('2026-05-01T08:00:00.000Z')
  expect((await csv('refrigerant=R-22')).data.filter((row) => row.mass_g)).toEqual([])
})

it('is read from the books no faster than somebody takes it', async () => {
  const shop = await aShop()
  await inShop(shop.shopId, (tx) =>
    fillShop(
      tx,
      { cylinders: 3, systems: 3, jobs: 2_600, kit: 0, entriesPerJob: 8 },
      shop.userId,
      shop.siteId,
    ),
  )
  const context = await letIn(shop, 'technician')
  const response = (await loader({
    request: new Request('http://keg.test/ledger.csv'),
    context,
    params: {},
  } as never)) as Response
  const reader = response.body!.getReader()
  let lines = 0
  let asked = 0
  for (;;) {
    const { done, value } = await reader.read()
    if (done) break
    asked++
    lines += new TextDecoder().decode(value).trimEnd().split('\r\n').length
    expect(lines).toBeLessThanOrEqual(asked * 1_000 + 1)
  }
  expect(lines).toBe(2 * 2_600 + 1)
})

it('refuses days that there are none of', async () => {
  const context = await letIn(await aShop(), 'technician')
  const request = new Request('http://keg.test/ledger.csv?from=2026-02-31')
  const { status, body } = await answered(loader({ request, context, params: {} } as never))
  expect(status).toBe(400)
  expect(body).toContain('no day')
})
