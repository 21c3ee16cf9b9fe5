import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { US_UNITS } from '#core/units'
import { closeDatabase } from '#db'
import { letIn } from '../../../testing/a-request'
import { aJob, type AShop, anEntry, aShop, aSystem, note } from '../../../testing/a-shop'
import { loader as find } from '../frame/find'
import { loadTool } from '~/pages/slide-rule/load.server'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

async function open(tool: string, query: string, { role = 'technician' as const, units = {} } = {}) {
  const context = await letIn(shop, role, { units })
  return loadTool({
    request: new Request(`http://keg.test/slide-rule/${tool}${query}`),
    params: { tool },
    context,
  } as never)
}
const sentTo = (query: string, units = {}) =>
  open('saturation', query, { units }).then(
    () => 'stayed',
    (answer: Response) => answer.headers.get('location'),
  )

describe('the page of a tool', () => {
  it('shows the form alone before anything is asked', async () => {
    const page = await open('saturation', '')
    expect(page).toMatchObject({ query: '', missing: [] })
    expect(page.outcome).toBeUndefined()
  })
  it('gives a bare number the unit in which it was meant, so that a link says the same to everybody', async () => {
    expect(await sentTo('?refrigerant=R-22&t=31&p=')).toBe('/slide-rule/saturation?refrigerant=R-22&t=31+C')
    expect(await sentTo('?refrigerant=R-22&t=88', US_UNITS)).toBe(
      '/slide-rule/saturation?refrigerant=R-22&t=88+F',
    )
    expect(await sentTo('?refrigerant=R-22&t=31+C&utm=x')).toBe(
      '/slide-rule/saturation?refrigerant=R-22&t=31+C',
    )
    expect(await sentTo('?refrigerant=R-22&t=31+C')).toBe('stayed')
  })
  it('reproduces the result of a link in the units of whoever opens it', async () => {
    const query = '?refrigerant=R-22&t=31+C'
    const [here, there] = [
      await open('saturation', query),
      await open('saturation', query, { units: US_UNITS }),
    ]
    expect(here.outcome!.figures.map((f) => f.value)).toEqual(there.outcome!.figures.map((f) => f.value))
    expect([here.outcome!.hero.text, there.outcome!.hero.text]).toEqual([
      expect.stringMatching(/bar g$/),
      expect.stringMatching(/psig$/),
    ])
  })
  it('takes the names that programs use, too', async () => {
    const page = await open('saturation', '?refrigerant=R-22&t_F=88', { units: US_UNITS })
    expect(page.outcome).toBeDefined()
    const field = page.inputs.find((input) => !input.rows && input.field.name === 't')
    expect(field).toMatchObject({ field: { typed: '88 F' } })
  })
  it('keeps what was typed beside the sentence that refuses it, and says what is missing', async () => {
    const page = await open('saturation', '?t=hot')
    expect(page.missing).toEqual(['Refrigerant'])
    expect(page.inputs.find((input) => !input.rows && input.field.name === 't')).toMatchObject({
      field: { typed: 'hot', error: expect.stringMatching(/not a temperature/) as string },
    })
  })
  it('grows its lines as they are filled', async () => {
    const lines = async (query: string) => {
      const rows = (await open('weights', query)).inputs.find((input) => input.rows)
      return rows?.rows ? rows.lines.length : 0
    }
    expect(await lines('')).toBe(1)
    expect(await lines('?w_1_weight=3+kg')).toBe(2)
    expect(await lines('?w_1_weight=3+kg&w_5_weight=1+kg')).toBe(5)
  })
  it('offers the jobs in hand to carry it to, not to trainees', async () => {
    const job = await aJob(shop)
    await note(shop, job, anEntry('job-described', { title: 'Blast freezer' }))
    const query = '?p=9.5+bar&t=25+C'
    expect((await open('identify', query)).jobs).toMatchObject([{ jobId: job, title: 'Blast freezer' }])
    expect((await open('identify', query, { role: 'trainee' as never })).jobs).toEqual([])
  })
  it('knows no other tools', async () => {
    await expect(open('no-such-tool', '')).rejects.toMatchObject({ status: 404 })
  })
})

describe('the finder', () => {
  const look = async (q: string) => {
    const context = await letIn(shop, 'technician')
    const answer = await find({
      request: new Request(`http://keg.test/find?q=${encodeURIComponent(q)}`),
      context,
      params: {},
    } as never)
    return ((await answer.json()) as { found: { group: string; name: string }[] }).found
  }
  it('knows tools, systems and jobs by a few letters, and only this shop’s', async () => {
    expect((await look('')).every(({ group }) => group === 'Tools')).toBe(true)
    expect((await look('vacuum'))[0]).toMatchObject({ group: 'Tools', name: 'Evacuation time' })
    await aSystem(shop)
    const theirs = await aShop()
    await aSystem(theirs)
    const jobs = await look('blast')
    expect(jobs).toMatchObject([{ group: 'Jobs' }])
    expect(await look(jobs[0]!.name.replace('Job ', ''))).toContainEqual(jobs[0])
    expect(await look('%')).toEqual([])
  })
})
