import { randomUUID } from 'node:crypto'
import Papa from 'papaparse'
import { afterAll, expect, it } from 'vitest'
import { bookArrival, closeDatabase, inShop } from '#db'
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
    {
      to: 'Gull "5", rack',
      mass_g: '454',
      mass_lb: '1.000',
      remark: 'plain, with a comma',
      voucher: 'Purchase',
    },
    { from: 'Supplier', mass_g: '9000', mass_lb: '19.842', remark: `'=HYPERLINK("x")`, by: 'Robin Tester' },
  ])
  expect(data[0]!.time).toBe('2026-05-01T08:00:00.000Z')
  expect((await csv('refrigerant=R-22')).data.filter((row) => row.mass_g)).toEqual([])
})
