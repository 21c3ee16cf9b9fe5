import Ajv from 'ajv/dist/2020'
import { randomUUID } from 'node:crypto'
import { RouterContextProvider } from 'react-router'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { addApiToken, apiTokens, closeDatabase, freshToken, inShop, revokeApiToken, type Scope } from '#db'
import { requestFacts } from '~/base/session/request-facts'
import { HOLD_PATHS } from '~/pages/api/hold.server'
import { openApi } from '~/pages/api/openapi.server'
import { TOOLS } from '~/slide-rule/tools'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { aCylinder, type AShop, aShop, NOW } from '../../../testing/a-shop'
import { makeToken, revokeToken } from '~/pages/settings/tokens.server'
import { action, loader } from './calc'
import { loader as document } from './openapi'
import { loader as unknown } from './unknown'

let shop: AShop
let token: string
let tokenId: string

beforeAll(async () => {
  shop = await aShop()
  ;({ token, tokenId } = await made(['calc', 'cylinders']))
})
afterEach(() => {
  delete process.env.KEG_RATE_API
  delete process.env.KEG_RATE_API_STRANGER
})
afterAll(closeDatabase)

async function made(scopes: Scope[]) {
  const [token, tokenId] = [freshToken(), randomUUID()]
  await inShop(shop.shopId, (tx) =>
    addApiToken(tx, token, { tokenId, name: 'test', scopes, madeBy: shop.userId, at: NOW }),
  )
  return { token, tokenId }
}

async function ask(
  tool: string,
  query: Record<string, string>,
  bearer: string | undefined = token,
  address = randomUUID(),
) {
  const context = new RouterContextProvider()
  context.set(requestFacts, { nonce: 'n', reference: 'r', build: '', shell: false, address })
  const request = new Request(`http://keg.test/api/v1/calc/${tool}?${new URLSearchParams(query)}`, {
    headers: bearer ? { authorization: `Bearer ${bearer}` } : {},
  })
  const { status, body } = await answered(loader({ request, context, params: { tool } } as never))
  return { status, body: body as Record<string, unknown> & { errors: { name: string; sentence: string }[] } }
}

async function send(body: unknown, tool = 'vacuum-hold', bearer: string | undefined = token) {
  const context = new RouterContextProvider()
  context.set(requestFacts, { nonce: 'n', reference: 'r', build: '', shell: false, address: randomUUID() })
  const request = new Request(`http://keg.test/api/v1/calc/${tool}`, {
    method: 'POST',
    body: typeof body === 'string' ? body : JSON.stringify(body),
    headers: bearer ? { authorization: `Bearer ${bearer}` } : {},
  })
  const { status, body: answer } = await answered(action({ request, context, params: { tool } } as never))
  return { status, body: answer as { result: Record<string, unknown>; errors?: { name: string }[] } }
}

describe('a vacuum hold for programs', () => {
  const minutes = (...readings: [number, number][]) =>
    readings.map(([m, p_micron]) => ({ t_s: 60 * m, p_micron }))

  it('answers pass, leak and moisture apart, as the document says', async () => {
    const leak = minutes([0, 300], [2, 1500], [4, 2700], [6, 3900], [8, 5100], [10, 6300], [12, 7500])
    const { status, body } = await send({ readings: leak, volume_L: 10 })
    expect(status).toBe(200)
    expect(body.result).toMatchObject({ pass: false, leak: 'yes', moisture: 'open' })
    // 600 micron a minute in 10 L: 1.333 Pa/s x 10 L.
    expect(body.result.leak_micron_per_min as number).toBeGreaterThan(500)
    expect(body.result.leak_micron_per_min as number).toBeLessThan(700)
    expect(Math.abs((body.result.leak_Pa_L_s as number) - 13.3)).toBeLessThan(2)
    const paths = openApi('http://keg.test', HOLD_PATHS).paths
    const fits = new Ajv({ strict: false }).compile(
      paths['/api/v1/calc/vacuum-hold']!.post.responses[200].content['application/json'].schema,
    )
    expect(fits(body), JSON.stringify(fits.errors)).toBe(true)
  })
  it('takes absolute pascals, the ambient and the hold before', async () => {
    const flat = [0, 300, 600, 660].map((t_s) => ({ t_s, p_Pa_abs: 56 }))
    const { body } = await send({ readings: flat, t_ambient_C: 21, previous: flat })
    expect(body.result).toMatchObject({ pass: true, leak: 'no', moisture: 'no' })
  })
  it('too soon is neither pass nor fail', async () => {
    const { body } = await send({ readings: minutes([0, 420]) })
    expect(body.result).toMatchObject({ pass: null, leak: 'open', moisture: 'open' })
  })
  it.each([
    ['no JSON', '{', 400],
    ['no readings', {}, 422],
    ['an empty list', { readings: [] }, 422],
    ['both units at once', { readings: [{ t_s: 0, p_micron: 1, p_Pa_abs: 1 }] }, 422],
    ['text for a number', { readings: [{ t_s: '0', p_micron: 1 }] }, 422],
    ['a vacuum above atmosphere', { readings: [{ t_s: 0, p_micron: 9e6 }] }, 422],
    ['times that run back', { readings: minutes([5, 400], [3, 420]) }, 422],
    ['what nobody asked for', { readings: minutes([0, 400]), gas: 'R-22' }, 422],
  ])('%s: a problem, not a fault', async (_, body, wanted) => {
    expect((await send(body)).status).toBe(wanted)
  })
  it('wants a token', async () => {
    expect((await send({ readings: minutes([0, 400]) }, 'vacuum-hold', 'keg_none')).status).toBe(401)
  })
})

describe('calculations for programs', () => {
  it.each(TOOLS.map((tool) => [tool.name, tool.example] as const))(
    '%s answers its example',
    async (name, example) => {
      const { status, body } = await ask(name, example)
      expect(body.errors ?? []).toEqual([])
      expect(status).toBe(200)
      expect(Object.keys(body)).toEqual([
        'tool',
        'inputs',
        'result',
        'working',
        'uncertainty',
        'source',
        'caution',
        'unknown',
      ])
      expect(JSON.stringify(body)).not.toMatch(/NaN|null,"unit"/)
    },
  )

  it('takes plain numbers whose name says the unit, and gives SI beside words', async () => {
    const given = { refrigerant: 'R-410A' }
    const [celsius, fahrenheit] = [
      await ask('saturation', { ...given, t_C: '25' }),
      await ask('saturation', { ...given, t_F: '77', units: 'us' }),
    ]
    expect(celsius.body).toMatchObject({ inputs: { refrigerant: 'R-410A', t: { value: 298.15, unit: 'K' } } })
    const pressure = (of: typeof celsius) =>
      (of.body.result as { bubble_pressure: { value: number; display: string } }).bubble_pressure
    expect(pressure(celsius).value).toBeCloseTo(pressure(fahrenheit).value, 3)
    expect(pressure(celsius).display).toMatch(/bar g$/)
    expect(pressure(fahrenheit).display).toMatch(/psig$/)
    for (const p of ['p_bar_g', 'p_psi_g', 'p_Pa_abs'])
      expect((await ask('saturation', { ...given, [p]: p === 'p_Pa_abs' ? '1000000' : '9' })).status).toBe(
        200,
      )
  })

  it.each([
    [{}, 'refrigerant'],
    [{ refrigerant: 'R-999', t_C: '1' }, 'refrigerant'],
    [{ refrigerant: 'R-22' }, 't'],
    [{ refrigerant: 'R-22', t_C: 'NaN' }, 't'],
    [{ refrigerant: 'R-22', t_C: '1e99' }, 't'],
    [{ refrigerant: 'R-22', t_C: '10', t_F: '50' }, 't'],
    [{ refrigerant: 'R-22', t: '10' }, 't'],
    [{ refrigerant: 'R-22', p_Pa_abs: '-1' }, 'p'],
    [{ refrigerant: 'R-22', p_bar_g: '0', t_C: '0' }, 'p'],
    [{ refrigerant: 'R-22', t_C: '0', temperature: '3' }, 'temperature'],
    [{ refrigerant: 'R-744', t_C: '55' }, 't'],
  ])('refuses %j with a sentence on %s', async (query, name) => {
    const { status, body } = await ask('saturation', query)
    expect(status).toBe(422)
    const sentence = body.errors.find((e) => e.name === name)?.sentence
    expect(sentence).toMatch(/^[A-Z"].*\.$/)
  })

  it('lets nobody in without a token in force', async () => {
    expect((await ask('lead', {}, undefined)).status).not.toBe(200)
    expect((await ask('lead', {}, 'keg_guessed')).status).toBe(401)
    const other = await made(['calc'])
    expect((await ask('weights', { w_1_weight_kg: '1' }, other.token)).status).toBe(200)
    await inShop(shop.shopId, (tx) => revokeApiToken(tx, other.tokenId, NOW))
    expect((await ask('weights', { w_1_weight_kg: '1' }, other.token)).status).toBe(401)
    expect((await inShop(shop.shopId, apiTokens)).find((t) => t.tokenId === other.tokenId)).toMatchObject({
      revokedAt: NOW,
      usedOn: expect.stringMatching(/^\d{4}-/) as string,
    })
  })

  it('shows the shop’s cylinders only to tokens that may see them', async () => {
    const label = `API ${randomUUID().slice(0, 6)}`
    await aCylinder(shop, { label })
    const query = { refrigerant: 'R-410A', charge_kg: '3' }
    const { body } = await ask('fill', query)
    expect(JSON.stringify(body.result)).toContain(label)
    const blind = await made(['calc'])
    const refused = await ask('fill', query, blind.token)
    expect(refused.status).toBe(422)
    expect(refused.body.errors[0]!.name).toBe('charge')
    const stranger = await aShop()
    const theirs = freshToken()
    await inShop(stranger.shopId, (tx) =>
      addApiToken(tx, theirs, {
        tokenId: randomUUID(),
        name: 'x',
        scopes: ['calc', 'cylinders'],
        madeBy: stranger.userId,
        at: NOW,
      }),
    )
    expect(JSON.stringify((await ask('fill', query, theirs)).body)).not.toContain(label)
  })

  it('slows down whoever asks too much', async () => {
    process.env.KEG_RATE_API = '1/3600'
    const { token: own } = await made(['calc'])
    expect((await ask('weights', { w_1_weight_kg: '1' }, own)).status).toBe(200)
    expect((await ask('weights', { w_1_weight_kg: '1' }, own)).status).toBe(429)
    process.env.KEG_RATE_API_STRANGER = '1/3600'
    const address = randomUUID()
    expect((await ask('weights', {}, 'keg_a', address)).status).toBe(401)
    expect((await ask('weights', {}, 'keg_b', address)).status).toBe(429)
  })

  it('answers in problem documents, whatever is asked', async () => {
    expect((await ask('no-such-tool', {})).body).toMatchObject({ status: 404, title: 'No such tool' })
    expect((await send({}, 'weights')).status).toBe(405)
    expect((await ask('vacuum-hold', {})).status).toBe(405)
    expect((await answered(Promise.resolve(unknown()))).status).toBe(404)
  })
})

describe('the document of the interface', () => {
  it('describes every tool from the schemas that validate', async () => {
    const { body } = await answered(
      Promise.resolve(document({ request: new Request('http://keg.test/api/v1/openapi.json') } as never)),
    )
    const { openapi, paths } = body as {
      openapi: string
      paths: Record<
        string,
        { get: { parameters: { name: string; required: boolean; schema: Record<string, unknown> }[] } }
      >
    }
    expect(openapi).toBe('3.1.0')
    const calculations = Object.entries(paths).filter(
      ([path]) => path.startsWith('/api/v1/calc/') && !(path in HOLD_PATHS),
    )
    expect(calculations.map(([path]) => path)).toEqual(TOOLS.map((tool) => `/api/v1/calc/${tool.name}`))
    expect(paths).toHaveProperty(['/api/v1/calc/vacuum-hold', 'post'])
    for (const path of ['/api/v1/pairings', '/api/v1/samples', '/api/v1/devices/{deviceId}/commands'])
      expect(paths[path]).toBeDefined()
    const parameters = paths['/api/v1/calc/saturation']!.get.parameters
    const named = (name: string) => parameters.find((p) => p.name === name)!
    expect(named('refrigerant').required).toBe(true)
    expect(named('refrigerant').schema.enum).toHaveLength(37)
    expect(named('t_C').schema).toMatchObject({ type: 'number', minimum: -100, maximum: 300 })
    for (const name of ['t', 'p_bar_g', 'p_psi_g', 'p_Pa_abs', 'units', 'altitude_m'])
      expect(named(name)).toBeDefined()
    for (const [, { get }] of calculations)
      expect(new Set(get.parameters.map((p) => p.name)).size).toBe(get.parameters.length)
  })
})

describe('making tokens', () => {
  it('is for managers, shows the token once, and revokes it', async () => {
    const context = await letIn(shop, 'manager')
    const post = (typed: Record<string, string>) => ({ request: sendForm(typed), context, typed })
    expect(await makeToken(post({ tokenName: '' }))).toMatchObject({
      errors: { tokenName: expect.any(String) as string },
    })
    const { token: shown } = await makeToken(post({ tokenName: 'van display' }))
    expect((await ask('weights', { w_1_weight_kg: '1' }, shown)).status).toBe(200)
    expect((await ask('fill', { refrigerant: 'R-22', charge_kg: '1' }, shown)).status).toBe(422)
    const listed = (await inShop(shop.shopId, apiTokens)).find((t) => t.name === 'van display')!
    expect(JSON.stringify(listed)).not.toContain(shown!)
    expect(await revokeToken(post({ tokenId: listed.tokenId }))).toMatchObject({
      done: expect.stringMatching(/revoked:/) as string,
    })
    expect(await revokeToken(post({ tokenId: listed.tokenId }))).toMatchObject({
      done: expect.stringMatching(/already/) as string,
    })
    expect((await ask('weights', { w_1_weight_kg: '1' }, shown)).status).toBe(401)
    const technician = await letIn(shop, 'technician')
    await expect(makeToken({ ...post({ tokenName: 'x' }), context: technician })).rejects.toMatchObject({
      status: 403,
    })
  })

  it('of another shop cannot be revoked', async () => {
    const stranger = await aShop()
    expect(await inShop(stranger.shopId, (tx) => revokeApiToken(tx, tokenId, NOW))).toBe(false)
    expect(await inShop(stranger.shopId, apiTokens)).toEqual([])
  })
})
