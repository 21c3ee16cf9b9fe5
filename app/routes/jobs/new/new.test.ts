import { randomUUID } from 'node:crypto'
import type { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { US_UNITS } from '#core/units'
import { closeDatabase, cylinderOf, inShop, jobHead, tapeOf } from '#db'
import { answered, letIn, sendForm } from '../../../../testing/a-request'
import { aCylinder, type AShop, aShop, aSystem } from '../../../../testing/a-shop'
import { sampleNamed, sampleText } from '~/samples/sample-field'
import { keptBeginning } from '~/pages/jobs/new/kept'
import { action } from './new'

let shop: AShop
let technician: RouterContextProvider
let trainee: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  technician = await letIn(shop, 'technician', { units: US_UNITS })
  trainee = await letIn(shop, 'trainee')
})
afterAll(closeDatabase)

const ids = () => ({ jobId: randomUUID(), runId: randomUUID() })
const send = (fields: Record<string, string>, context = technician) =>
  answered(action({ request: sendForm(fields), context, params: {} } as never))
const kinds = (jobId: string) =>
  inShop(shop.shopId, (tx) => tapeOf(tx, jobId)).then((tape) => tape.map((e) => e.kind))
const isThere = (jobId: string) =>
  inShop(shop.shopId, (tx) => jobHead(tx, jobId)).then((job) => job !== undefined)

describe('a new job', () => {
  it("from a system takes the plate's refrigerant", async () => {
    const systemId = await aSystem(shop, { refrigerant: 'R-452A' })
    const form = { ...ids(), systemId, title: 'Door switch' }
    expect(await send(form)).toMatchObject({ status: 302, location: `/jobs/${form.jobId}` })
    const [described] = await inShop(shop.shopId, (tx) => tapeOf(tx, form.jobId))
    expect(described!.body).toEqual({ title: 'Door switch', systemId, refrigerant: 'R-452A' })
  })
  it('for a change of gas says so on its tape, once, also without a signal', async () => {
    const systemId = await aSystem(shop, { refrigerant: 'R-404A' })
    const form = { ...ids(), systemId, purpose: 'retrofit' }
    for (const { status } of await Promise.all([send(form), send(form)])) expect(status).toBe(302)
    expect(await kinds(form.jobId)).toEqual(['job-described', 'retrofit-planned'])
    const kept = keptBeginning(
      { ...form, at: '1', deviceId: 'd', deviceSeq: '1' },
      { cylinders: [], scales: [] },
      { units: US_UNITS },
    )
    expect(kept).toMatchObject({ retrofit: true })
    expect((await send({ ...ids(), systemId, purpose: 'dance' })).status).toBe(400)
  })
  it('from the roof is running at once, and sent twice it is one', async () => {
    await aCylinder(shop, { label: 'Roof 1' })
    const form = { ...ids(), refrigerant: 'R-410A', cylinder: 'roof 1', startWeight: '26.5', mode: 'gross' }
    const answers = await Promise.all([send(form), send(form)])
    for (const { status } of answers) expect(status).toBe(302)
    expect(await kinds(form.jobId)).toEqual(['job-described', 'cylinder-chosen', 'run-started'])
    const tape = await inShop(shop.shopId, (tx) => tapeOf(tx, form.jobId))
    expect(tape[2]!.body).toMatchObject({ runId: form.runId, weightMg: Math.round(26.5 * 453_592.37) })
  })
  it('from the roof by a tap: gas and books come with the cylinder', async () => {
    const cylinderId = await aCylinder(shop, { label: 'Roof 3' })
    // 12 kg of tare, nothing in it.
    const form = { ...ids(), way: 'quick', cylinderId, startWeight: '12 kg' }
    expect((await send(form)).status).toBe(302)
    const [described, , started] = await inShop(shop.shopId, (tx) => tapeOf(tx, form.jobId))
    expect(described!.body).toMatchObject({ refrigerant: 'R-410A' })
    expect(started!.body).toMatchObject({ cylinderId, weightMg: 12e6, bookedMg: 12e6 })
  })
  it('from the roof with a live scale: the start names the sample, and nothing else that is written there', async () => {
    const cylinderId = await aCylinder(shop, { label: 'Live 4' })
    const deviceId = randomUUID()
    const start = { way: 'quick', cylinderId, startWeight: '12 kg' }
    const form = { ...ids(), ...start, sample: `${deviceId} weight 42` }
    expect((await send(form)).status).toBe(302)
    const tape = await inShop(shop.shopId, (tx) => tapeOf(tx, form.jobId))
    expect(tape.map((entry) => entry.sample)).toEqual([
      undefined,
      undefined,
      { deviceId, channel: 'weight', seq: 42 },
    ])
    for (const sample of [
      '',
      'x',
      `${deviceId} low 1`,
      `${deviceId} weight -1`,
      `${deviceId} weight`,
      `${deviceId} weight 1e99`,
    ])
      expect(sampleNamed(sample, 'weight')).toBeUndefined()
    expect(sampleNamed(sampleText({ deviceId, channel: 'weight', seq: 0 }), 'weight')).toEqual({
      deviceId,
      channel: 'weight',
      seq: 0,
    })
  })
  it('adds a cylinder that is not in the rack yet, from its collar', async () => {
    const form = {
      ...ids(),
      way: 'quick',
      cylinder: 'Skua 7',
      newId: randomUUID(),
      refrigerant: 'R-410A',
      tare: '12 kg',
      waterCapacity: '21.6 kg',
      testedOn: '03/25',
      servicePressure: '400 psi',
      startWeight: '12 kg',
    }
    expect((await send(form)).status).toBe(302)
    const added = await inShop(shop.shopId, (tx) => cylinderOf(tx, form.newId))
    expect(added).toMatchObject({ label: 'Skua 7', testedOn: '2025-03-01', waterCapacityMg: 21.6e6 })
    expect(await kinds(form.jobId)).toEqual(['job-described', 'cylinder-chosen', 'run-started'])
  })
  it('asks once about a first weight that tare and books do not have', async () => {
    const cylinderId = await aCylinder(shop, { label: 'Roof 4' })
    const form = { ...ids(), way: 'quick', cylinderId, startWeight: '20 kg' }
    const { status, body } = await send(form)
    const { errors } = body as { errors: Record<string, string> }
    expect(status).toBe(400)
    expect(errors.startWeight).toMatch(/Not what tare and books say/)
    expect(await isThere(form.jobId)).toBe(false)
    expect((await send({ ...form, sure: errors.sure! })).status).toBe(302)
    expect((await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinderId)))!.offMg).toBe(8e6)
  })
  it('may begin with nothing known at all', async () => {
    const form = ids()
    expect((await send(form)).status).toBe(302)
    expect(await kinds(form.jobId)).toEqual(['job-described'])
  })
})

describe('is refused on the field', () => {
  it.each([
    [
      'a cylinder of another gas',
      { refrigerant: 'R-22', cylinder: 'Roof 2' },
      'cylinder',
      /gases are never mixed/,
    ],
    [
      'a label that nobody wrote',
      { refrigerant: 'R-410A', cylinder: 'Nowhere' },
      'cylinder',
      /has the label "Nowhere"/,
    ],
    ['a cylinder without a gas', { cylinder: 'Roof 2' }, 'refrigerant', /Choose the refrigerant/],
    [
      'a weight of no cylinder',
      { refrigerant: 'R-410A', startWeight: '12 lb' },
      'cylinder',
      /which cylinder/,
    ],
    ['a quick start with nothing', { way: 'quick' }, 'cylinder', /Tap the cylinder/],
    [
      'a quick start with a label only, and a collar without its water capacity',
      { way: 'quick', cylinder: 'Skua 8', refrigerant: 'R-410A', newId: randomUUID(), tare: '12 kg' },
      'waterCapacity',
      /stamped water capacity/,
    ],
    [
      'a test date in another order',
      { way: 'quick', cylinder: 'Skua 9', testedOn: '14.3.25' },
      'testedOn',
      /month and year/,
    ],
    [
      'a weight with two readings',
      { cylinder: 'Roof 2', startWeight: '3-9' },
      'startWeight',
      /which one you mean/,
    ],
    ['a system of another shop', { systemId: randomUUID() }, 'systemId', /from the list again/],
  ])('%s', async (_what, fields, field, sentence) => {
    await aCylinder(shop, { label: 'Roof 2' }).catch(() => undefined)
    const form = { ...ids(), ...(fields as unknown as Record<string, string>) }
    const { status, body } = await send(form)
    const { errors, typed } = body as { errors: Record<string, string>; typed: Record<string, string> }
    expect(status).toBe(400)
    expect(errors[field]).toMatch(sentence)
    expect(typed).toMatchObject(form)
    expect(await isThere(form.jobId)).toBe(false)
  })
  it('and for a trainee altogether', async () => {
    const form = ids()
    expect((await send(form, trainee)).status).toBe(403)
    expect(await isThere(form.jobId)).toBe(false)
  })
})
