import { randomUUID } from 'node:crypto'
import { RouterContextProvider } from 'react-router'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { addApiToken, apiTokens, closeDatabase, freshToken, inShop, revokeApiToken, type Scope } from '#db'
import { requestFacts } from '~/session/request-facts'
import { TOOLS } from '~/slide-rule/tools'
import { answered, letIn, sendForm } from '../../../testing/a-request'
import { aCylinder, type AShop, aShop, NOW } from '../../../testing/a-shop'
import { makeToken, revokeToken } from '../settings/tokens.server'
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
  context.set(requestFacts, { nonce: 'n', reference: 'r', address })
  const request = new Request(`http://keg.test/api/v1/calc/${tool}?${new URLSearchParams(query)}`, {
    headers: bearer ? { authorization: `Bearer ${bearer}` } : {},
  })
  const { status, body } = await answered(loader({ request, context, params: { tool } } as never))
  return { status, body: body as Record<string, unknown> & { errors: { name: string; sentence: string }[] } }
}

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
    expect((await answered(Promise.resolve(action()))).status).toBe(405)
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
    const calculations = Object.entries(paths).filter(([path]) => path.startsWith('/api/v1/calc/'))
    expect(calculations.map(([path]) => path)).toEqual(TOOLS.map((tool) => `/api/v1/calc/${tool.name}`))
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
