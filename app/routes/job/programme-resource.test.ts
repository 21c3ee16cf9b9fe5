// The hands at a station, and the shop's programmes: who may, and what is taken.
import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { closeDatabase, inShop, presets, programmesRunning } from '#db'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { type AShop, aShop } from '../../../testing/a-shop'
import { type AStation, aStation, aVehicleJob } from '../../../testing/a-station'
import { action } from './programme-resource'

let shop: AShop
let station: AStation
let jobId: string
let technician: RouterContextProvider
let trainee: RouterContextProvider
let stranger: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  station = await aStation(shop)
  jobId = await aVehicleJob(shop)
  technician = await letIn(shop, 'technician')
  trainee = await letIn(shop, 'trainee')
  stranger = await letIn(await aShop(), 'technician')
})
afterAll(closeDatabase)

const STEPS = [{ step: 'recover', downToPa: 87_726, restS: 60 }]
async function act(name: string, sent: unknown, who = technician, job = jobId) {
  const request = sendForm({ act: name, sent: typeof sent === 'string' ? sent : JSON.stringify(sent) })
  const { status, body } = await answered(action({ request, context: who, params: { jobId: job } } as never))
  return { status, error: (body as { error?: string }).error }
}
const running = () => inShop(shop.shopId, (tx) => programmesRunning(tx))
const begin = () => ({ programmeId: randomUUID(), kitId: station.kitId, steps: STEPS })

describe('the shop’s programmes', () => {
  it('are saved by name, changed under it whatever its capitals, and taken away', async () => {
    expect((await act('save', { name: 'Buses', steps: STEPS })).status).toBe(200)
    expect((await act('save', { name: 'BUSES', steps: [{ step: 'clear' }] })).status).toBe(200)
    const [kept, ...more] = await inShop(shop.shopId, (tx) => presets(tx))
    expect(more).toEqual([])
    expect(kept).toMatchObject({ name: 'BUSES', steps: [{ step: 'clear' }] })
    const request = sendForm({ act: 'drop', presetId: kept!.presetId })
    expect(
      (await answered(action({ request, context: technician, params: { jobId } } as never))).status,
    ).toBe(200)
    expect(await inShop(shop.shopId, (tx) => presets(tx))).toEqual([])
  })
  it.each<[string, unknown]>([
    ['no name', { name: ' ', steps: STEPS }],
    ['a name that no database keeps', { name: 'a\u0000b', steps: STEPS }],
    ['half a character', { name: '\ud800', steps: STEPS }],
    ['a very long name', { name: 'x'.repeat(61), steps: STEPS }],
    ['a step that is none', { name: 'x', steps: [{ step: 'polish' }] }],
    ['a hold of a year', { name: 'x', steps: [{ step: 'hold', forS: 3e7 }] }],
    ['more than a step knows', { name: 'x', steps: [{ step: 'hold', forS: 600, constructor: 1 }] }],
    ['no list', { name: 'x', steps: 'all' }],
    ['no JSON', '{'],
    ['nothing', ''],
  ])('%s is refused with a sentence', async (_, sent) => {
    expect(await act('save', sent)).toMatchObject({
      status: 400,
      error: expect.stringMatching(/\w/) as string,
    })
    expect(await inShop(shop.shopId, (tx) => presets(tx))).toEqual([])
  })
})

describe('a programme', () => {
  it('is begun by nobody who only reads, by no other shop, and on no job that is not there', async () => {
    expect((await act('begin', begin(), trainee)).status).toBe(403)
    const elsewhere = await act('begin', begin(), stranger)
    expect(elsewhere.status).toBeGreaterThanOrEqual(400)
    expect((await act('begin', begin(), technician, randomUUID())).status).toBeGreaterThanOrEqual(400)
    expect((await act('hand', { askId: randomUUID(), say: 'maybe' })).status).toBe(400)
    expect((await act('stop', {})).error).toMatch(/No station is at this job/)
    expect((await act('dance', {})).status).toBe(400)
    expect(await running()).toEqual([])
  })
  it('sent twice is begun once, and told once', async () => {
    const sent = begin()
    const [one, two] = [await act('begin', sent), await act('begin', sent)]
    expect([one.status, two.status]).toEqual([200, 200])
    expect(await running()).toHaveLength(1)
  })
})
