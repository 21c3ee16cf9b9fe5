// What a device takes along, as it is asked for: once as a whole, then by its mark, and not without end.
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { closeDatabase } from '#db'
import { fromText, packIn } from '~/device/pack/pack'
import { letIn } from '../../../testing/a-request'
import { aCylinder, type AShop, aShop } from '../../../testing/a-shop'
import { loader } from './pack'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterEach(() => {
  delete process.env.KEG_RATE_PACK
})
afterAll(closeDatabase)

async function ask(who: Awaited<ReturnType<typeof letIn>>, mark?: string): Promise<Response> {
  const headers = mark === undefined ? {} : { 'if-none-match': mark }
  const request = new Request('http://keg.test/pack', { headers })
  const answer: unknown = await loader({ request, context: who, params: {} } as never).catch(
    (thrown: unknown) => thrown,
  )
  return answer as Response
}

describe('what a device takes along', () => {
  it('is asked for by its mark, and comes again once something has changed', async () => {
    const who = await letIn(shop, 'technician')
    const first = await ask(who)
    const mark = first.headers.get('etag')!
    expect(first.status).toBe(200)
    const again = await ask(who, mark)
    expect([again.status, await again.text()]).toEqual([304, ''])
    expect(Number(again.headers.get('keg-time'))).toBeGreaterThan(0)
    const cylinderId = await aCylinder(shop, { label: 'Auk 7' })
    const changed = await ask(who, mark)
    expect(changed.status).toBe(200)
    const pack = packIn(fromText(await changed.text()))!
    expect(pack.cylinders.map((each) => each.cylinderId)).toContain(cylinderId)
  })
  it('has a limit in time, of each person', async () => {
    process.env.KEG_RATE_PACK = '2/3600'
    const [who, other] = [await letIn(shop, 'technician'), await letIn(shop, 'trainee')]
    const statuses = []
    for (let i = 0; i < 3; i++) statuses.push((await ask(who)).status)
    expect(statuses).toEqual([200, 200, 429])
    expect((await ask(other)).status).toBe(200)
  })
})
